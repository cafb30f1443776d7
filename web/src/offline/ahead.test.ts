import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../api/client";
import { answering } from "../testing/server";

vi.stubGlobal(
  "BroadcastChannel",
  class {
    postMessage() {}
    onmessage = null;
  },
);
vi.stubGlobal("navigator", { ...navigator, locks: { request: (_: string, run: () => unknown) => run() } });
const { keepAhead, ofTheDay } = await import("./ahead");
const { db } = await import("./db");

const row = (id: string, stage: string) => ({ id, stage, title: id }) as never;
const page = (...jobs: never[]) => ({ jobs, after: "", all: jobs.length, open: 0 }) as never;

/** A server with these jobs, each on the same machine, none with a fact. */
const having = (...ids: string[]) => {
  const answers: Parameters<typeof answering>[0] = { "GET /maps/dryer/1": { id: "dryer" } };
  for (const id of ids) {
    answers[`GET /jobs/${id}`] = { map: "dryer", revision: 1, job: { id } };
    answers[`GET /jobs/${id}/events`] = { events: [], last: 0, more: false };
  }
  answering(answers);
};

beforeEach(async () => {
  await Promise.all([db.jobs.clear(), db.maps.clear(), db.settings.clear()]);
});
afterEach(() => answering({}));

describe("the day on the device", () => {
  it("brings the jobs that may have to be worked, with their map, and not what is over", async () => {
    having("j-1", "j-2", "j-3");
    await keepAhead([row("j-1", "open"), row("j-2", "signed"), row("j-3", "new")]);
    expect((await db.jobs.toArray()).map((j) => j.id)).toEqual(["j-1", "j-3"]);
    expect(await db.maps.count()).toBe(1);
  });

  it("leaves out a job that the server refuses, and goes on with the others", async () => {
    having("j-3");
    answering({
      "GET /jobs/j-1": { status: 404, problem: "There is no such job." },
      "GET /jobs/j-3": { map: "dryer", revision: 1, job: { id: "j-3" } },
      "GET /jobs/j-3/events": { events: [], last: 0, more: false },
      "GET /maps/dryer/1": { id: "dryer" },
    });
    await keepAhead([row("j-1", "open"), row("j-3", "open")]);
    expect((await db.jobs.toArray()).map((j) => j.id)).toEqual(["j-3"]);
  });

  it("stands as the server last told it to this person while nobody answers", async () => {
    having("j-1");
    const told = page(row("j-1", "open"));
    expect(await ofTheDay("jonna", () => Promise.resolve(told))).toBe(told);
    const gone = () => Promise.reject(new TypeError("no signal"));
    expect(await ofTheDay("jonna", gone)).toMatchObject({ jobs: [{ id: "j-1" }], kept: expect.any(String) });
    await expect(ofTheDay("ilse", gone), "never another's").rejects.toThrow("no signal");
  });

  it("is not passed off as the day where the server answers that nobody is signed in", async () => {
    having("j-1");
    await ofTheDay("jonna", () => Promise.resolve(page(row("j-1", "open"))));
    await expect(ofTheDay("jonna", () => Promise.reject(new Problem(401, "Sign in first.")))).rejects.toThrow(
      "Sign in",
    );
    expect(await ofTheDay("jonna", () => Promise.reject(new Problem(502, "")))).toMatchObject({
      kept: expect.any(String),
    });
  });
});
