import { expect, it } from "vitest";
import { withValue } from "./proof";

it("a value goes into its record as it was written", () => {
  expect(withValue({ kind: "confirmed", body: { confirm: "a/confirm/1" } }, "14 1/2 in").body).toEqual({
    confirm: "a/confirm/1",
    value: "14 1/2 in",
  });
});
