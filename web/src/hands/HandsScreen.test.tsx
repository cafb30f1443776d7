import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { openOn } from "../testing/open";
import { goingIn } from "../testing/views";
import { HandsScreen } from "./HandsScreen";

// The core is not here: nothing that is typed is judged.
vi.mock("../offline/core", () => ({
  viewerHere: async (person: string) => ({ person, device: "tab" }),
  core: { generation: 1, about: () => new Promise(() => undefined) },
}));

let now = 10_000;
beforeEach(() => {
  vi.spyOn(performance, "now").mockImplementation(() => (now += 1_000));
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const press = (key: string) => fireEvent.keyDown(screen.getByRole("heading", { level: 1 }), { key });

describe("hands busy", () => {
  it("shows one line at a time, and the last one records", () => {
    const { made } = openOn(goingIn, (job) => <HandsScreen job={job} view={goingIn} />);
    const lines = Number(/line 1 of (\d+)/.exec(document.body.textContent ?? "")?.[1]);
    expect(lines).toBeGreaterThan(1);
    for (let n = 1; n < lines; n++) {
      expect(made).toEqual([]);
      press(n % 2 ? " " : "PageDown");
      expect(screen.getByText(`line ${n + 1} of ${lines}`)).toBeInTheDocument();
    }
    press(" ");
    expect(made).toHaveLength(1);
    expect(made[0]?.[0]?.kind).toMatch(/^rung\.(out|half)$/);
  });

  it("goes one line back, and takes the last touch back by Z", () => {
    const { made } = openOn(goingIn, (job) => <HandsScreen job={job} view={goingIn} />);
    press(" ");
    press("ArrowUp");
    expect(screen.getByText(/line 1 of/)).toBeInTheDocument();
    press("z");
    expect(made).toHaveLength(1);
    expect(made[0]?.every((m) => m.kind === "withdrawn")).toBe(true);
  });

  it("takes a key held down for one", () => {
    openOn(goingIn, (job) => <HandsScreen job={job} view={goingIn} />);
    fireEvent.keyDown(screen.getByRole("heading", { level: 1 }), { key: " ", repeat: true });
    expect(screen.getByText(/line 1 of/)).toBeInTheDocument();
  });
});
