import { describe, expect, it } from "vitest";
import type { JobRow } from "../api/client";
import { bringWords, sections } from "./sections";

const job = (id: string, stage: JobRow["stage"], ferry = ""): JobRow => ({ id, stage, ferry }) as JobRow;

describe("Today's groups", () => {
  it("keeps the server's order: open ones, then each boat, then what waits and what is done", () => {
    const groups = sections([
      job("a", "open"),
      job("b", "open"),
      job("c", "new", "07:40"),
      job("d", "closed", "07:40"),
      job("e", "new", "09:10"),
      job("f", "waiting"),
      job("g", "signed"),
    ]);
    expect(groups.map((g) => [g.title, g.note, g.jobs.map((j) => j.id).join("")])).toEqual([
      ["Machines left open", undefined, "ab"],
      ["By ferry", "07:40", "cd"],
      ["By ferry", "09:10", "e"],
      ["Waiting for parts", undefined, "f"],
      ["Signed off", undefined, "g"],
    ]);
    expect(sections([])).toEqual([]);
  });

  it("names a few things to bring and counts the rest", () => {
    expect(bringWords(["a", "b"])).toBe("a, b");
    expect(bringWords(["a", "b", "c", "d", "e"])).toBe("a, b, c, d, e");
    expect(bringWords(["a", "b", "c", "d", "e", "f"])).toBe("a, b, c, d and 2 more");
  });
});
