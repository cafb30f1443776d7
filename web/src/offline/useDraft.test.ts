import { expect, it } from "vitest";
import { leftOf } from "./useDraft";

it("keeps what was typed while the last touch was being recorded", () => {
  const recorded = { before: "230", "L-N": "-41" };
  expect(leftOf({ ...recorded, meter: "4" }, recorded)).toEqual({ meter: "4" });
  expect(leftOf({ before: "230", "L-N": "0.3" }, recorded)).toEqual({ "L-N": "0.3" });
  expect(leftOf(recorded, recorded)).toEqual({});
});
