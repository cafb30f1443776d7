import { describe, expect, it } from "vitest";
import type { View } from "../api/client";
import { comingBack, even, goingIn, seeking } from "../testing/views";
import { changed, follow } from "./changes";

const views: View[] = [goingIn, comingBack, even, seeking];
const copy = <T>(of: T): T => structuredClone(of);

describe("what has changed of a view", () => {
  it("makes of each view each other", () => {
    for (const before of views)
      for (const now of views) {
        const [, changes] = changed(copy(before), copy(now));
        expect(follow(copy(before), copy(changes))).toEqual(now);
      }
  });

  it("is nothing where nothing has", () => {
    const [kept, changes] = changed(goingIn, copy(goingIn));
    expect(kept).toBe(goingIn);
    expect(changes).toEqual({ parts: {}, gone: [], steps: [] });
  });

  it("is one step where one has, and the others keep their identity", () => {
    const now = copy(goingIn);
    const step = now.rungs[3];
    if (step) step.sub = "other";
    const [, changes] = changed(goingIn, now);
    expect(changes.parts).toEqual({});
    expect(changes.steps.map(([i]) => i)).toEqual([3]);
    const after = follow(goingIn, copy(changes));
    expect(after.rungs[2]).toBe(goingIn.rungs[2]);
    expect(after.rungs[3]).toEqual(step);
  });

  it("says of a part that it is gone", () => {
    const now = copy(goingIn) as Partial<View>;
    delete now.undo;
    const [, changes] = changed(goingIn, now as View);
    expect(changes.gone).toEqual(["undo"]);
    expect(follow(goingIn, changes)).not.toHaveProperty("undo");
  });
});
