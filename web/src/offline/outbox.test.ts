import "fake-indexeddb/auto";
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
const { onSignal, pull, send, waitingFor } = await import("./outbox");

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

  it("pulls what others recorded, on from where it was", async () => {
    await db.jobs.put({ id: "j-1", cursor: 4, doc: { job: { id: "j-1" }, map: "m", revision: 1 } });
    answers.push({ status: 200, body: { events: [{ ...event("x", 1, "ilse"), num: 5 }], more: false } });
    await pull("j-1");
    expect((await db.jobs.get("j-1"))?.cursor).toBe(5);
    expect(await db.events.get("x")).toMatchObject({ state: "sent", by: "ilse" });
  });
});
