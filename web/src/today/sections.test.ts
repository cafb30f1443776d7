import { describe, expect, it } from "vitest";
import type { JobRow } from "../api/client";
import { bringWords, sections } from "./sections";

const job = (id: string, stage: JobRow["stage"], rest: Partial<JobRow> = {}): JobRow =>
  ({ id, stage, ferry: "", place: "", mine: false, ...rest }) as JobRow;

describe("Today's groups", () => {
  it("keeps the server's order: mine, then each place, and earlier ones by day", () => {
    const groups = sections([
      job("a", "open", { mine: true }),
      job("b", "new", { mine: true }),
      job("u", "new", { ferry: "09:10", place: "Holm", urgent: true }),
      job("c", "open", { ferry: "07:40", place: "Skarn" }),
      job("d", "waiting", { ferry: "07:40", place: "Skarn" }),
      job("e", "new", { ferry: "09:10", place: "Holm" }),
    ]);
    expect(groups.map((g) => [g.title, g.note, g.jobs.map((j) => j.id).join("")])).toEqual([
      ["Yours", undefined, "ab"],
      ["Make safe first", undefined, "u"],
      ["Skarn", "07:40", "cd"],
      ["Holm", "09:10", "e"],
    ]);
    const earlier = sections([
      job("f", "signed", { signed: "2026-11-27T12:00:00Z" }),
      job("g", "signed", { signed: "2026-11-27T08:00:00Z", mine: true }),
      job("h", "signed", { signed: "2026-11-02T08:00:00Z" }),
    ]);
    expect(earlier.map((g) => [g.title, g.note, g.jobs.length])).toEqual([
      ["Friday, November 27, 2026", "signed off, or called off", 2],
      ["Monday, November 2, 2026", "signed off, or called off", 1],
    ]);
    expect(sections([])).toEqual([]);
  });

  it("names a few things to bring and counts the rest", () => {
    expect(bringWords(["a", "b"])).toBe("a, b");
    expect(bringWords(["a", "b", "c", "d", "e"])).toBe("a, b, c, d, e");
    expect(bringWords(["a", "b", "c", "d", "e", "f"])).toBe("a, b, c, d and 2 more");
  });
});
