import { afterEach, describe, expect, it, vi } from "vitest";
import { db } from "./db";
import { roomHere, roomWarning, size } from "./room";

const storage = (usage: number, quota: number, persisted = true) =>
  vi.stubGlobal("navigator", {
    storage: { estimate: async () => ({ usage, quota }), persisted: async () => persisted },
  });

afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe("the room on this device", () => {
  it("is said, and nothing where there is enough", async () => {
    storage(12_000_000, 2_000_000_000);
    const room = await roomHere();
    expect(room).toEqual({ none: false, promised: true, used: 12_000_000, all: 2_000_000_000, low: false });
    expect(roomWarning(room)).toBeUndefined();
  });

  it("is warned of before it is full", async () => {
    storage(980_000_000, 1_000_000_000, false);
    expect(roomWarning(await roomHere())).toContain("nearly full: 20 MB are left");
  });

  it("is none in a window that keeps nothing", async () => {
    storage(0, 1_000_000_000);
    vi.spyOn(db, "open").mockRejectedValue(new Error("closed") as never);
    expect(roomWarning(await roomHere())).toContain("keeps nothing on this device");
  });

  it("is unknown where the browser does not say", async () => {
    vi.stubGlobal("navigator", {});
    expect(await roomHere()).toEqual({
      none: false,
      promised: false,
      used: undefined,
      all: undefined,
      low: false,
    });
  });

  it("is said in few letters", () => {
    expect([300, 40_000, 2_400_000, 1_250_000_000].map(size)).toEqual(["1 kB", "40 kB", "2 MB", "1.3 GB"]);
  });
});
