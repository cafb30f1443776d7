import { beforeEach, describe, expect, it } from "vitest";
import { db } from "./db";
import { letGo } from "./leave";

const day = 24 * 3600_000;
const now = Date.parse("2026-11-29T12:00:00Z");
const before = (days: number) => new Date(now - days * day).toISOString();

const keep = (id: string, opened: string, more: object = {}) =>
  db.jobs.put({
    id,
    doc: { map: `map-${id}`, revision: 1, job: { id } } as never,
    cursor: 1,
    opened,
    ...more,
  });
const event = (id: string, job: string, state: "sent" | "waiting" | "refused", sha256?: string) =>
  db.events.put({
    id,
    job,
    by: "jonna",
    device: "tab",
    state,
    event: { id, n: 1, kind: sha256 ? "photo" : "note", body: { sha256 } } as never,
  });
const photo = (sha256: string, state: "sent" | "waiting") =>
  db.photos.put({ sha256, state, whole: new Blob(), small: new Blob() });

beforeEach(() =>
  Promise.all([db.jobs.clear(), db.events.clear(), db.photos.clear(), db.maps.clear(), db.drafts.clear()]),
);

describe("what leaves the device", () => {
  it("is what is over, long closed, and sent to the last photo, with its photos, drafts and map", async () => {
    await keep("over", before(15));
    await event("e-1", "over", "sent", "aa");
    await photo("aa", "sent");
    await db.maps.bulkPut([
      { key: "map-over@1", json: "{}" },
      { key: "map-worked@1", json: "{}" },
    ]);
    await db.drafts.put({ key: "over jonna step", draft: {} });
    await keep("worked", before(40));
    expect(await letGo(["worked"], now)).toEqual(["over"]);
    expect(await db.events.count()).toBe(0);
    expect(await db.photos.count()).toBe(0);
    expect(await db.drafts.count()).toBe(0);
    expect(await db.maps.toCollection().primaryKeys()).toEqual(["map-worked@1"]);
  });

  it("is nothing that waits, was refused, lacks a photo on the server, or was open of late", async () => {
    await keep("waits", before(30));
    await event("e-1", "waits", "waiting");
    await keep("refused", before(30));
    await event("e-2", "refused", "refused");
    await keep("photo", before(30));
    await event("e-3", "photo", "sent", "bb");
    await photo("bb", "waiting");
    await keep("late", before(13));
    await keep("called", before(30), { call: { body: {}, by: "jonna" } });
    await keep("unknown", "");
    expect(await letGo([], now)).toEqual([]);
    expect(await db.jobs.count()).toBe(6);
  });

  it("keeps a photo that another job names, too", async () => {
    await keep("over", before(15));
    await event("e-1", "over", "sent", "aa");
    await keep("other", before(1));
    await event("e-2", "other", "sent", "aa");
    await photo("aa", "sent");
    await letGo([], now);
    expect(await db.photos.count()).toBe(1);
  });
});
