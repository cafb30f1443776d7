import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ThemeProvider } from "styled-components";
import { themes } from "../parts/theme";
import { Ticked } from "./Tick";

let clock = 0;
beforeEach(() => {
  clock = 10_000;
  vi.spyOn(performance, "now").mockImplementation(() => clock);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const draw = (ticked: boolean, record: () => Promise<boolean>) => (
  <ThemeProvider theme={themes.day}>
    <Ticked ticked={ticked} act={record}>
      Flush
    </Ticked>
  </ThemeProvider>
);

it("three touches make one record, and it shows at once", async () => {
  let keep: (kept: boolean) => void = () => undefined;
  const record = vi.fn(() => new Promise<boolean>((resolve) => (keep = resolve)));
  const { rerender } = render(draw(false, record));
  const button = await screen.findByRole("button", { name: /Flush/ });
  fireEvent.click(button);
  expect(button.getAttribute("aria-pressed")).toBe("true");
  fireEvent.click(button);
  clock += 2000; // a slow device: touched again while it is still being kept
  fireEvent.click(button);
  expect(record).toHaveBeenCalledTimes(1);
  rerender(draw(true, record)); // the view comes before the record is through
  expect(button.getAttribute("aria-pressed")).toBe("true");
  await act(async () => {
    keep(true);
    await Promise.resolve();
  });
  fireEvent.click(button);
  expect(record).toHaveBeenCalledTimes(2);
});

it("one that was not kept shows as it was", async () => {
  render(draw(false, () => Promise.resolve(false)));
  const button = await screen.findByRole("button", { name: /Flush/ });
  fireEvent.click(button);
  await act(async () => {
    await Promise.resolve();
  });
  expect(button.getAttribute("aria-pressed")).toBe("false");
});
