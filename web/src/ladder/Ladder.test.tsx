import { render, screen } from "@testing-library/react";
import { ThemeProvider } from "styled-components";
import { describe, expect, it } from "vitest";
import { Flag } from "../parts/Marks";
import { themes } from "../parts/theme";
import { fold } from "./Ladder";

describe("folding a ladder that is longer than its column", () => {
  const rows = (n: number, current: number) => Array.from({ length: n }, (_, i) => (i === current ? 82 : 44));

  it("shows all where all fit", () => {
    expect(fold(rows(9, 4), 4, 600)).toEqual([0, 9]);
    expect(fold(rows(9, 4), 4, 0)).toEqual([0, 9]);
  });

  it.each([0, 3, 30, 60, 119])("keeps rung %i in sight with two before and three after", (at) => {
    const [from, to] = fold(rows(120, at), at, 524);
    expect(from).toBeLessThanOrEqual(Math.max(0, at - 2));
    expect(to).toBeGreaterThanOrEqual(Math.min(120, at + 4));
    const height = rows(120, at)
      .slice(from, to)
      .reduce((a, b) => a + b, 0);
    expect(height + (from > 0 ? 30 : 0) + (to < 120 ? 30 : 0)).toBeLessThanOrEqual(524);
  });

  it("keeps the current rung even where hardly anything fits", () => {
    const [from, to] = fold(rows(20, 10), 10, 100);
    expect(from).toBeLessThanOrEqual(10);
    expect(to).toBeGreaterThan(10);
  });
});

describe("flags", () => {
  const show = (mark: "done" | "due" | "none") =>
    render(
      <ThemeProvider theme={themes.day}>
        <Flag side="back" mark={mark} />
      </ThemeProvider>,
    );

  it("say in words what they show", () => {
    show("due");
    expect(screen.getByRole("img", { name: "back: came off, not back" })).toBeInTheDocument();
  });

  it("are not there where a rung has no such side", () => {
    const { container } = show("none");
    expect(container.querySelector("svg")).toBeNull();
  });
});
