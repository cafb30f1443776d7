import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Answer, JobEvent } from "../api/client";

// The browser's locks, for one tab.
vi.stubGlobal("navigator", {
  ...navigator,
  locks: { request: (_name: string, run: () => unknown) => run() },
});

const answers: { status: number; body: unknown }[] = [];
const posted: JobEvent[][] = [];
vi.stubGlobal(
  "Request",
  class extends Request {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(new URL(String(input), "http://here"), init);
    }
  },
);
vi.stubGlobal("fetch", async (request: Request) => {
  const sent = request.method === "POST" ? ((await request.json()) as { events: JobEvent[] }) : undefined;
  if (sent) posted.push(sent.events);
  const answer = answers.shift();
  if (!answer) throw new TypeError("no signal");
  return new Response(JSON.stringify(answer.body), {
    status: answer.status,
    headers: { "Content-Type": answer.status === 200 ? "application/json" : "application/problem+json" },
  });
});

const { db } = await import("./db");
const { batchOf, build, handIn, hearEpoch, onSignal, pull, send, waitingFor } = await import("./outbox");

const event = (id: string, n: number, by = "jonna", job = "j-1"): JobEvent => ({
  id,
  job,
  by,
  device: "tab",
  n,
  wall: "2026-11-25T09:00:00Z",
  since: n,
  run: "r",
  seen: 0,
  kind: "note",
  body: { text: id },
});
const keep = (e: JobEvent) =>
  db.events.add({ id: e.id, job: e.job, by: e.by, device: e.device, state: "waiting", event: e });
const kept = (id: string, num: number): Answer => ({ id, outcome: "kept", num, t: "2026-11-25T09:00:01Z" });

const signals: string[] = [];
onSignal((s) => signals.push(s));

beforeEach(async () => {
  await Promise.all([db.events.clear(), db.jobs.clear()]);
  answers.length = posted.length = signals.length = 0;
});

describe("the outbox", () => {
  it("sends what waits in the order it was recorded, and keeps the numbers that come back", async () => {
    await keep(event("b", 2));
    await keep(event("a", 1));
    answers.push({ status: 200, body: { answers: [kept("a", 7), kept("b", 8)] } });
    await send("jonna");
    expect(posted[0]?.map((e) => e.id)).toEqual(["a", "b"]);
    expect((await db.events.get("b"))?.event.num).toBe(8);
    expect(await waitingFor("jonna")).toBe(0);
    expect(signals.at(-1)).toBe("sent");
  });

  it("keeps everything where there is no signal, and sends the same again", async () => {
    await keep(event("a", 1));
    await send("jonna");
    expect(await waitingFor("jonna")).toBe(1);
    expect(signals.at(-1)).toBe("offline");
    answers.push({ status: 200, body: { answers: [{ ...kept("a", 3), outcome: "known" }] } });
    await send("jonna");
    expect(posted[0]).toEqual(posted[1]);
    expect(await waitingFor("jonna")).toBe(0);
  });

  it("keeps everything when the session has ended, and says so", async () => {
    await keep(event("a", 1));
    answers.push({ status: 401, body: { detail: "Sign in first." } });
    await send("jonna");
    expect(await waitingFor("jonna")).toBe(1);
    expect(signals.at(-1)).toBe("signed-out");
  });

  it("sends only what this person recorded", async () => {
    await keep(event("hers", 1, "ilse"));
    await send("jonna");
    expect(posted).toHaveLength(0);
    expect(await waitingFor("ilse")).toBe(1);
  });

  it("is not stopped by a refused event, which stays with its problem", async () => {
    await keep(event("bad", 1));
    await keep(event("good", 2));
    answers.push({
      status: 200,
      body: {
        answers: [
          { id: "bad", outcome: "refused", status: 409, problem: "says something else" },
          kept("good", 4),
        ],
      },
    });
    await send("jonna");
    expect(await db.events.get("bad")).toMatchObject({ state: "refused", problem: "says something else" });
    expect(await db.events.get("good")).toMatchObject({ state: "sent" });
  });

  it("sends each job's events to that job", async () => {
    await keep(event("a", 1, "jonna", "j-1"));
    await keep(event("b", 1, "jonna", "j-2"));
    answers.push(
      { status: 200, body: { answers: [kept("a", 1)] } },
      { status: 200, body: { answers: [kept("b", 1)] } },
    );
    await send("jonna");
    expect(posted.map((p) => p.map((e) => e.job))).toEqual([["j-1"], ["j-2"]]);
  });

  const well = { status: 200, body: { answers: [] } }; // to a batch of nothing
  const ids = () => posted.map((p) => p.map((e) => e.id).join(" "));

  it("halves a batch that is refused whole, down to the one event, and sends all others", async () => {
    for (const [i, id] of ["a", "b", "bad", "d"].entries()) await keep(event(id, i + 1));
    await keep(event("other", 1, "jonna", "j-2"));
    answers.push(
      { status: 413, body: { detail: "too much" } },
      { status: 200, body: { answers: [kept("a", 1), kept("b", 2)] } },
      { status: 413, body: { detail: "too much" } },
      { status: 413, body: { detail: "too much" } },
      { status: 200, body: { answers: [kept("d", 3)] } },
      { status: 200, body: { answers: [kept("other", 1)] } },
    );
    await send("jonna");
    expect(ids()).toEqual(["a b bad d", "a b", "bad d", "bad", "d", "other"]);
    expect(await db.events.get("bad")).toMatchObject({ state: "refused", build });
    expect((await db.events.get("bad"))?.problem).toContain("too much");
    expect(await waitingFor("jonna")).toBe(0);
  });

  it("halves at a 500 only while the server takes other things", async () => {
    await keep(event("a", 1));
    await keep(event("bad", 2));
    answers.push({ status: 500, body: {} }, { status: 500, body: {} });
    await send("jonna");
    expect(ids()).toEqual(["a bad", ""]);
    expect(await waitingFor("jonna")).toBe(2);
    expect(signals.at(-1)).toBe("offline");
    posted.length = 0;
    answers.push(
      { status: 500, body: {} },
      well,
      { status: 200, body: { answers: [kept("a", 1)] } },
      { status: 500, body: {} },
    );
    await send("jonna");
    expect(ids()).toEqual(["a bad", "", "a", "bad"]);
    expect(await db.events.get("bad")).toMatchObject({ state: "refused" });
    expect(signals.at(-1)).toBe("sent");
  });

  it("holds nothing back for an outage", async () => {
    await keep(event("a", 1));
    for (const status of [408, 429, 502, 503, 504]) {
      answers.push({ status, body: {} });
      await send("jonna");
      expect(await waitingFor("jonna")).toBe(1);
      expect(signals.at(-1)).toBe("offline");
    }
  });

  it("holds what is of a job that is not there, without asking for each", async () => {
    await keep(event("a", 1));
    await keep(event("b", 2));
    answers.push({ status: 404, body: { detail: "no such job" } });
    await send("jonna");
    expect(posted).toHaveLength(1);
    expect(await db.events.where({ state: "refused" }).count()).toBe(2);
  });

  it("tries again with a newer build what an older one could not send", async () => {
    const e = event("a", 1);
    await db.events.add({
      id: "a",
      job: "j-1",
      by: "jonna",
      device: "tab",
      state: "refused",
      build: "older",
      event: e,
    });
    answers.push({ status: 200, body: { answers: [kept("a", 1)] } });
    await send("jonna");
    expect(await db.events.get("a")).toMatchObject({ state: "sent" });
  });

  it("fills a batch by number and by bytes", () => {
    const many = (n: number, text: string) =>
      Array.from({ length: n }, (_, i) => ({
        id: `e${i}`,
        job: "j-1",
        by: "jonna",
        device: "tab",
        state: "waiting" as const,
        event: { ...event(`e${i}`, i + 1), body: { text } },
      }));
    expect(batchOf(many(150, "x"))).toHaveLength(100);
    expect(batchOf(many(150, "é".repeat(15_000))).length).toBeLessThan(35);
    expect(batchOf(many(1, "x".repeat(2_000_000)))).toHaveLength(1);
    expect(batchOf([])).toHaveLength(0);
  });

  it("pulls what others recorded, on from where it was", async () => {
    await db.jobs.put({ id: "j-1", cursor: 4, doc: { job: { id: "j-1" }, map: "m", revision: 1 } });
    answers.push({
      status: 200,
      body: { events: [{ ...event("x", 1, "ilse"), num: 5 }], more: false, last: 5 },
    });
    await pull("j-1");
    expect((await db.jobs.get("j-1"))?.cursor).toBe(5);
    expect(await db.events.get("x")).toMatchObject({ state: "sent", by: "ilse" });
  });

  const sent = async (id: string, n: number, num: number, by = "jonna") =>
    db.events.add({ id, job: "j-1", by, device: "tab", state: "sent", event: { ...event(id, n, by), num } });

  it("sends all again, and fetches all again, once the database is another one", async () => {
    await db.jobs.put({ id: "j-1", cursor: 7, doc: { job: { id: "j-1" }, map: "m", revision: 1 } });
    await db.photos.put({ sha256: "p", state: "sent", whole: new Blob(), small: new Blob() });
    await sent("a", 1, 6);
    await sent("b", 1, 7, "ilse");
    await hearEpoch("one");
    await hearEpoch("one");
    expect(await waitingFor("jonna")).toBe(0);
    await hearEpoch("two");
    expect(await waitingFor("jonna")).toBe(1);
    expect(await waitingFor("ilse")).toBe(1); // by her, when she signs in here
    expect((await db.jobs.get("j-1"))?.cursor).toBe(0);
    expect(await db.photos.get("p")).toMatchObject({ state: "waiting" });
    answers.push({ status: 200, body: { answers: [{ ...kept("a", 9), outcome: "known" }] } });
    await send("jonna");
    expect(await db.events.get("a")).toMatchObject({ state: "sent", event: { num: 9 } });
    await hearEpoch("two");
    expect(await waitingFor("jonna")).toBe(0);
  });

  it("sends a job again whose last number the server no longer knows; an older server does not say it", async () => {
    await db.jobs.put({ id: "j-1", cursor: 7, doc: { job: { id: "j-1" }, map: "m", revision: 1 } });
    await sent("a", 1, 7);
    answers.push({ status: 200, body: { events: [], more: false } });
    await pull("j-1");
    expect(await waitingFor("jonna")).toBe(0);
    answers.push({ status: 200, body: { events: [], more: false, last: 6 } });
    await pull("j-1");
    expect(await waitingFor("jonna")).toBe(1);
    expect((await db.jobs.get("j-1"))?.cursor).toBe(0);
  });

  it("lets all wait while the server fails for an hour, and refuses none of it", async () => {
    for (let n = 1; n <= 3; n++) await keep(event(`e-${n}`, n));
    for (let hour = 0; hour < 60; hour++) {
      answers.push({ status: 500, body: { detail: "Something went wrong here." } }); // the batch
      answers.push({ status: 500, body: { detail: "Something went wrong here." } }); // and one of nothing
      await send("jonna");
      expect(answers).toHaveLength(0);
      expect(signals.at(-1)).toBe("offline");
    }
    expect(await waitingFor("jonna")).toBe(3);
    answers.push({ status: 200, body: { answers: [kept("e-1", 1), kept("e-2", 2), kept("e-3", 3)] } });
    await send("jonna");
    expect(await waitingFor("jonna")).toBe(0);
  });

  it("hands in for a supervisor what others left, and leaves them what is not taken", async () => {
    await keep(event("a", 1, "jonna"));
    await keep(event("b", 2, "ilse"));
    await keep(event("c", 3, "mira"));
    const refused: Answer = { id: "b", outcome: "refused", status: 403, problem: "by somebody else" };
    answers.push({ status: 200, body: { answers: [kept("a", 5), refused] } });
    expect(await handIn("mira")).toBe(1);
    expect(posted.map((p) => p.map((e) => e.id))).toEqual([["a", "b"]]);
    expect(await db.events.get("a")).toMatchObject({ state: "sent", event: { num: 5 } });
    expect(await db.events.get("b")).toMatchObject({ state: "waiting" });
    expect(await waitingFor("mira")).toBe(1);
  });

  it("reads what waits piece by piece, and sends all of it once", async () => {
    await db.events.bulkAdd(
      Array.from({ length: 950 }, (_, i) => {
        const e = event(`e-${String(i).padStart(4, "0")}`, i + 1);
        return { id: e.id, job: e.job, by: e.by, device: e.device, state: "waiting" as const, event: e };
      }),
    );
    for (let i = 0; i < 950; i += 100)
      answers.push({
        status: 200,
        body: {
          answers: Array.from({ length: Math.min(100, 950 - i) }, (_, k) =>
            kept(`e-${String(i + k).padStart(4, "0")}`, i + k + 1),
          ),
        },
      });
    await send("jonna");
    expect(await waitingFor("jonna")).toBe(0);
    expect(posted.flat().map((e) => e.n)).toEqual(Array.from({ length: 950 }, (_, i) => i + 1));
  });
});
