import { describe, expect, it } from "vitest";
import { stillToMeasure, withProof, withValue } from "./proof";

const asked = {
  points: [
    ["L", "N"],
    ["L", "PE"],
  ] as [string, string][],
  unit: "V",
  before: "a known live point",
  after: "a known live point",
  rated: "",
};

describe("a proof as it is typed", () => {
  it("says what is still to be measured", () => {
    expect(stillToMeasure(asked, { meter: "4", before: "230", "L-N": " " })).toEqual([
      "L to N",
      "L to PE",
      "a known live point, after",
    ]);
    expect(
      stillToMeasure(asked, { meter: "4", before: "230", "L-N": "0", "L-PE": "0", after: "230" }),
    ).toEqual([]);
  });

  it("goes into the record that the core prepared, as it was written", () => {
    const draft = { meter: " 4 ", before: "230", "L-N": "0,3", "L-PE": "12 mV", after: "231 V" };
    expect(withProof({ kind: "rung.out", body: { move: "dead" } }, asked, draft)).toEqual({
      kind: "rung.out",
      body: {
        move: "dead",
        proof: {
          by: "meter",
          meter: "4",
          before: "230 V",
          readings: [
            { between: ["L", "N"], value: "0,3 V" },
            { between: ["L", "PE"], value: "12 mV" },
          ],
          after: "231 V",
        },
      },
    });
  });

  it("a value goes into its record as it was written", () => {
    expect(withValue({ kind: "confirmed", body: { confirm: "a/confirm/1" } }, "14 1/2 in").body).toEqual({
      confirm: "a/confirm/1",
      value: "14 1/2 in",
    });
  });
});

it("asks for what the meter is rated where a charge may stand", () => {
  const charge = { ...asked, rated: "above 2970 V" };
  expect(
    stillToMeasure(charge, { meter: "9", before: "230", "L-N": "0", "L-PE": "0", after: "231" }),
  ).toEqual(["what the meter is rated for"]);
  const made = withProof({ kind: "rung.out", body: { move: "prove" } }, charge, { rated: "5000" });
  expect(made.body).toMatchObject({ move: "prove", proof: { rated: "5000 V" } });
});
