import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { ThemeProvider } from "styled-components";
import { afterEach, expect, test, vi } from "vitest";
import type { Fit } from "../api/client";
import { themes } from "../parts/theme";
import { FitCard } from "./FitCard";

afterEach(cleanup);

const fit = {
  title: "Coil socket with coil",
  says: ["number BV-11060", "coil socket and surface coil: each fitted, kept or returned"],
  price: 39,
  p50: 15,
  p80: 19,
  costs: "EUR 39.00",
  whole: "on the whole about 35 min and EUR 49 for parts",
  holds: 0.674,
  about: "67 %",
  minutes: 35.3,
  money: 49.1,
  test: false,
  accept: null,
} as unknown as Fit;

const shown = (f: Fit, chosen: boolean, onChoose = () => undefined) =>
  render(
    <ThemeProvider theme={themes.day}>
      <FitCard fit={f} time="15 to 19 min" cheapest chosen={chosen} onChoose={onChoose} />
    </ThemeProvider>,
  );

test("a part says what it takes now, what it comes to on the whole, and how likely it holds", () => {
  const choose = vi.fn();
  shown(fit, false, choose);
  const card = screen.getByRole("button");
  expect(card).toHaveAttribute("aria-pressed", "false");
  for (const say of [
    "15 to 19 min",
    "EUR 39.00",
    "on the whole about 35 min and EUR 49 for parts",
    "the least",
    "holds 67 %",
  ])
    expect(card).toHaveTextContent(say);
  fireEvent.click(card);
  expect(choose).toHaveBeenCalledOnce();
});

test("a test first is time on top, and nothing is ever quite certain", () => {
  shown({ ...fit, test: true, costs: "", holds: 0.999, about: "99 %" }, true);
  const card = screen.getByRole("button");
  expect(card).toHaveAttribute("aria-pressed", "true");
  expect(card).toHaveTextContent("+ 15 to 19 min");
  expect(card).toHaveTextContent("then holds 99 %");
  expect(card).not.toHaveTextContent("EUR 39");
});
