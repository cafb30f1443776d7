import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Call, CallHeard } from "../api/client";
import { answering, places } from "../testing/server";

vi.stubGlobal(
  "BroadcastChannel",
  class {
    postMessage() {}
    onmessage = null;
  },
);
vi.stubGlobal("navigator", { ...navigator, locks: { request: (_: string, run: () => unknown) => run() } });

/** A core that says what it was given. */
const asked: { call: string; with: unknown }[] = [];
vi.mock("./core", () => ({
  core: {
    generation: 1,
    warm: () => undefined,
    library: async (maps: string[]) => asked.push({ call: "library", with: maps }),
    hear: async (on: object, said: object) => {
      asked.push({ call: "hear", with: { on, said } });
      return { map: "dryer", revision: 3 };
    },
    take: async (given: { call: Call }) => {
      asked.push({ call: "take", with: given });
      const told = {
        id: "told-1",
        job: given.call.job,
        by: "jonna",
        device: "call",
        n: 1,
        kind: "told",
        body: {},
      };
      return { job: { id: given.call.job, title: "School kitchen, dryer" }, events: [told] };
    },
  },
}));
const { hearHere, sendCalls, takeHere } = await import("./calls");
const { keepLists, keptLists } = await import("./lists");
const { heldOf, send, sendAgain, waitingFor } = await import("./outbox");
const { db } = await import("./db");

const around = { people: { jonna: { name: "Jonna" } } };
const maps = { maps: [{ map: "dryer", revision: 3 }] };
const lists = {
  "GET /places": places,
  "GET /around": around,
  "GET /maps": maps,
  "GET /maps/dryer/3": { id: "dryer" },
};
const heard = { map: "dryer", revision: 3, nearest: false } as CallHeard;
const call = {
  call: "call-0001",
  site: "school",
  appliance: "school-dryer",
  map: "dryer",
  words: "cold",
} as Call;

beforeEach(async () => {
  asked.length = 0;
  await Promise.all([db.jobs.clear(), db.maps.clear(), db.settings.clear(), db.events.clear()]);
  answering(lists);
  await keepLists();
});

describe("a call without signal", () => {
  it("is heard by the library that was kept, with what is known of the machine", async () => {
    expect((await keptLists())?.maps).toEqual(["dryer@3"]);
    expect(await hearHere({ appliance: "school-dryer", words: "cold" })).toMatchObject({ map: "dryer" });
    expect(asked[0]).toEqual({ call: "library", with: ['{"id":"dryer"}'] });
    const known = places.places.flatMap((p) => p.machines).find((m) => m.id === "school-dryer");
    expect(asked[1]?.with).toMatchObject({ on: { model: known?.model, options: known?.options } });
  });

  it("begins its job here, with what the caller was told", async () => {
    const job = await takeHere(call, heard, "jonna");
    expect(job).toMatch(/^c-[0-9a-f]{12}$/);
    expect(asked.at(-1)?.with).toMatchObject({
      call: { job, revision: 3 },
      around,
      where: { machine: "school-dryer", site: "School kitchen" },
    });
    expect(await db.jobs.get(job)).toMatchObject({
      doc: { map: "dryer", revision: 3 },
      call: { by: "jonna" },
    });
    expect(await db.events.get("told-1")).toMatchObject({ job, state: "waiting" });
    expect(await waitingFor("jonna")).toBe(2);
  });

  it("is sent before what was recorded on it, and not while another is signed in", async () => {
    const job = await takeHere(call, heard, "jonna");
    const sent = answering({
      "POST /calls": { job },
      [`GET /jobs/${job}`]: { map: "dryer", revision: 3, job: { id: job } },
      [`POST /jobs/${job}/events`]: {
        answers: [{ id: "told-1", outcome: "known", num: 1, t: "2026-01-01T00:00:00Z" }],
      },
    });
    await send("ilse");
    expect(sent).toEqual([]);
    await send("jonna");
    expect(sent.map((s) => s.what)).toEqual(["POST /calls", `POST /jobs/${job}/events`]);
    expect((await db.jobs.get(job))?.call).toBeUndefined();
    expect(await waitingFor("jonna")).toBe(0);
  });

  it("that is not taken stays with its records, says why, and stops no other", async () => {
    const job = await takeHere(call, heard, "jonna");
    const other = { id: "e-2", job: "j-2", by: "jonna", device: "tab", state: "waiting" as const };
    await db.events.add({ ...other, event: { id: "e-2", n: 1, kind: "note", body: {} } as never });
    answering({
      "POST /calls": { status: 422, problem: "There is no site of this name." },
      "POST /jobs/j-2/events": {
        answers: [{ id: "e-2", outcome: "kept", num: 7, t: "2026-01-01T00:00:00Z" }],
      },
    });
    await send("jonna");
    expect(await heldOf(job, "jonna")).toEqual([
      { id: job, says: "the call", problem: "There is no site of this name." },
    ]);
    expect((await db.events.get("e-2"))?.state).toBe("sent");
    expect((await db.events.get("told-1"))?.state).toBe("waiting");
    await sendAgain(job, "jonna");
    expect(await heldOf(job, "jonna")).toEqual([]);
  });

  it("waits while the server does not answer", async () => {
    const job = await takeHere(call, heard, "jonna");
    answering({ "POST /calls": { status: 503, problem: "The database does not answer." } });
    await expect(sendCalls("jonna")).rejects.toThrow("does not answer");
    expect((await db.jobs.get(job))?.call?.problem).toBeUndefined();
  });
});
