import { expect, test } from "vitest";
import type { Make, Side } from "../api/client";
import { begun } from "./recorded.test-helper";
import { stillToRead, withReading } from "./ReadingFields";

const make: Make = begun("reading.taken", { test: "sensor-ohms" });
const side = {
  asks: [
    { key: "ambient", label: "How warm is it?", example: "19 C", note: "", must: true },
    { key: "leads", label: "The leads add", example: "0.2 ohm", note: "", must: false },
  ],
  meter: { quantity: "resistance", between: ["1", "2"] },
} as unknown as Side;

test("a reading needs its value, and what it cannot be judged without", () => {
  expect(stillToRead(side, {})).toEqual(["the value", "how warm is it?"]);
  expect(stillToRead(side, { value: " ", ambient: "19 C" })).toEqual(["the value"]);
  expect(stillToRead(side, { value: "1077 ohm", ambient: "20 C" })).toEqual([]);
});

test("what was written goes with the reading as it was written; what was not is left out", () => {
  const read = withReading(make, side, { value: " 1,077 k ", ambient: "20 C", leads: "", meter: "sim-1" });
  expect(read.body).toEqual({ test: "sensor-ohms", value: "1,077 k", ambient: "20 C", meter: "sim-1" });
  expect(
    withReading(make, { ...side, asks: [], meter: null } as unknown as Side, {
      value: "5",
      ambient: "20 C",
      meter: "m-9",
    }).body,
  ).toEqual({
    test: "sensor-ohms",
    value: "5",
  });
});
