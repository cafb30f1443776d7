import { api, got, Problem, type JobEvent } from "../api/client";
import { db } from "./db";

/** This start of the program, and the seconds since. */
export const run = crypto.randomUUID();
export const since = () => Math.round(performance.now()) / 1000;

export type Signal = "sent" | "waiting" | "signed-out" | "offline";

const batch = 100;
const heard = new Set<(job: string) => void>();
const told = new Set<(signal: Signal) => void>();

/** Calls back when a job's events on this device have changed. */
export function onEvents(listen: (job: string) => void) {
  heard.add(listen);
  return () => void heard.delete(listen);
}

/** Calls back with how the sending goes. */
export function onSignal(listen: (signal: Signal) => void) {
  told.add(listen);
  return () => void told.delete(listen);
}

const otherTabs = new BroadcastChannel("evensteps");
otherTabs.onmessage = (message: MessageEvent<string>) => heard.forEach((listen) => listen(message.data));

export const tellOtherTabs = (job: string) => otherTabs.postMessage(job);

function tellEvents(job: string) {
  heard.forEach((listen) => listen(job));
  tellOtherTabs(job);
}

const tell = (signal: Signal) => told.forEach((listen) => listen(signal));

/** Sends one batch and returns what became of each event. */
export async function post(job: string, events: JobEvent[]) {
  const body = { run, since: since(), wall: new Date().toISOString(), events };
  return got(await api.POST("/jobs/{job}/events", { params: { path: { job } }, body })).answers;
}

/**
 * Sends what waits on this device for this person, oldest first, one sender at a
 * time over all tabs. A refused event stays here with its problem and stops
 * nothing behind it.
 */
export async function send(person: string): Promise<void> {
  await navigator.locks.request("evensteps-outbox", async () => {
    for (;;) {
      const waiting = await db.events.where({ state: "waiting", by: person }).toArray();
      const first = waiting[0];
      if (!first) {
        tell("sent");
        return;
      }
      const events = waiting
        .filter((w) => w.job === first.job)
        .sort((a, b) => a.event.n - b.event.n)
        .slice(0, batch);
      tell("waiting");
      let answers;
      try {
        answers = await post(
          first.job,
          events.map((w) => w.event),
        );
      } catch (err) {
        tell(err instanceof Problem && err.status === 401 ? "signed-out" : "offline");
        return;
      }
      await db.transaction("rw", db.events, async () => {
        for (const [i, w] of events.entries()) {
          const a = answers[i];
          if (!a) continue;
          if (a.outcome === "refused")
            await db.events.update(w.id, { state: "refused", problem: a.problem ?? "" });
          else await db.events.update(w.id, { state: "sent", event: { ...w.event, num: a.num, t: a.t } });
        }
      });
      if (answers.length === 0) return;
      tellEvents(first.job);
    }
  });
}

/** Fetches what others have recorded since, and keeps it. */
export async function pull(job: string): Promise<void> {
  for (;;) {
    const kept = await db.jobs.get(job);
    if (!kept) return;
    const answer = got(
      await api.GET("/jobs/{job}/events", { params: { path: { job }, query: { after: kept.cursor } } }),
    );
    const last = answer.events.at(-1)?.num;
    if (last === undefined) return;
    await db.transaction("rw", db.events, db.jobs, async () => {
      await db.events.bulkPut(
        answer.events.map((event) => ({
          id: event.id,
          job,
          by: event.by,
          device: event.device,
          state: "sent",
          event,
        })),
      );
      await db.jobs.update(job, { cursor: last });
    });
    tellEvents(job);
    if (!answer.more) return;
  }
}

/** How many records of this person wait here. */
export const waitingFor = (person: string) => db.events.where({ state: "waiting", by: person }).count();
