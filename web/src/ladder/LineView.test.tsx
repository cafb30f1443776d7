import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Line } from "../api/client";
import { LineView } from "./LineView";
import { begun, recorded } from "./recorded.test-helper";

const line = (over: Partial<Line>): Line => ({
  line: "belt-off/confirm/1",
  kind: "confirm",
  say: "The belt lies on its mark",
  ask: "",
  was: "",
  value: "",
  said: "",
  ticked: false,
  bad: false,
  may: false,
  event: "",
  into: "",
  tick: { kind: "confirmed", body: { confirm: "belt-off/confirm/1" } },
  or: [],
  ...over,
});

const show = (over: Partial<Line>) => recorded(<LineView line={line(over)} />);

afterEach(cleanup);

describe("a line of a rung", () => {
  it("is ticked by one touch, and taken back by another", () => {
    let made = show({});
    fireEvent.click(screen.getByRole("button", { name: /belt lies/ }));
    expect(made).toEqual([{ kind: "confirmed", body: { confirm: "belt-off/confirm/1" } }]);
    made = show({ ticked: true, event: "e-7", say: "Another" });
    fireEvent.click(screen.getByRole("button", { name: /Another/ }));
    expect(made).toEqual([{ kind: "withdrawn", body: { event: "e-7" } }]);
  });

  it("takes a value as it is written, and nothing where none is typed", () => {
    const made = show({ ask: "14 1/2 in", was: "14 1/2 in" });
    expect(screen.getByText("came off at 14 1/2 in")).toBeTruthy();
    const field = screen.getByLabelText(/belt lies/);
    fireEvent.keyDown(field, { key: "Enter" });
    expect(made).toEqual([]);
    fireEvent.change(field, { target: { value: " 370 mm " } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(made).toEqual([{ kind: "confirmed", body: { confirm: "belt-off/confirm/1", value: "370 mm" } }]);
  });

  it("says what the core says of a value that is not as it must be", () => {
    show({ ask: "0.1 ohm", value: "2 ohm", bad: true, event: "e-8", said: "2 Ω is above what is asked." });
    expect(screen.getByText("2 Ω is above what is asked.")).toBeTruthy();
    expect(screen.getByLabelText(/belt lies/)).toHaveProperty("value", "2 ohm");
  });

  it("offers what else may be so", () => {
    const other = begun("temporary.out", { temporary: "lint-rag" });
    const made = show({
      kind: "temporary",
      say: "Rag is in",
      or: [{ label: "Not used", says: "", done: false, makes: [other] }],
    });
    fireEvent.click(screen.getByRole("button", { name: "Not used" }));
    expect(made).toEqual([other]);
  });

  it("asks a look by its own answers, and never ticks it in passing", () => {
    const yes = begun("looked", { on: "front-off/inspect/1", as: "found" });
    const skip = begun("looked", { on: "front-off/inspect/1", as: "skipped" });
    const made = show({
      kind: "look",
      say: "Lint behind the wheel?",
      or: [
        { label: "Yes", says: "", done: false, makes: [yes] },
        { label: "Skip", says: "", done: false, makes: [skip] },
      ],
    });
    expect(screen.queryByRole("button", { name: /Lint/ })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Yes" }));
    fireEvent.click(screen.getByRole("button", { name: "Skip" }));
    expect(made).toEqual([yes, skip]);
  });

  it("puts words into the field that the core names", () => {
    const made = show({
      kind: "record",
      ask: "in your words",
      into: "answer",
      tick: begun("cause.answered", { cause: "loose" }),
    });
    const field = screen.getByLabelText(/belt lies/);
    fireEvent.change(field, { target: { value: "the middle lug" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(made).toEqual([begun("cause.answered", { cause: "loose", answer: "the middle lug" })]);
  });
});
