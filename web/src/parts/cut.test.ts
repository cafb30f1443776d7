import { expect, it } from "vitest";
import { cut } from "./cut";

it("cuts a text between letters, as people see them", () => {
  expect(cut("abc", 5)).toBe("abc");
  expect(cut("abc", 2)).toBe("ab");
  expect(cut("a😀b", 2)).toBe("a😀");
  expect(cut("👩‍🔧👩‍🔧x", 1)).toBe("👩‍🔧");
  expect(cut("e\u0301x", 1)).toBe("e\u0301");
  expect(cut("", 3)).toBe("");
});
