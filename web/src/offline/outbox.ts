import { api, got, onEpoch, Problem, wentWrong, type Answer, type JobEvent } from "../api/client";
import limits from "../api/limits.json";
import { callAgain, sendCalls, waitingCalls } from "./calls";
import { heard } from "./heard";
import { passes } from "./passes";
import { db, keepEpoch, keptEpoch, lastPerson, type KeptEvent } from "./db";

/** This start of the program, and the seconds since. */
export const run = crypto.randomUUID();
export const since = () => Math.round(performance.now()) / 1000;

export type Signal = "sent" | "waiting" | "signed-out" | "offline";

/** This build of the pages: its script is named by what is in it. */
export const build = import.meta.url;

const listeners = new Set<(job: string) => void>();
const told = new Set<(signal: Signal) => void>();

/** Calls back when a job's events on this device have changed. */
export function onEvents(listen: (job: string) => void) {
  listeners.add(listen);
  return () => void listeners.delete(listen);
}

/** Calls back with how the sending goes. */
export function onSignal(listen: (signal: Signal) => void) {
  told.add(listen);
  return () => void told.delete(listen);
}

const otherTabs = new BroadcastChannel("evensteps");
otherTabs.onmessage = (message: MessageEvent<string>) => listeners.forEach((listen) => listen(message.data));

export const tellOtherTabs = (job: string) => otherTabs.postMessage(job);

function tellEvents(job: string) {
  listeners.forEach((listen) => listen(job));
  tellOtherTabs(job);
}

const tell = (signal: Signal) => told.forEach((listen) => listen(signal));

/** Sends one batch and returns what became of each event. */
export async function post(job: string, events: JobEvent[]) {
  const body = { run, since: since(), wall: new Date().toISOString(), events };
  return got(await api.POST("/jobs/{job}/events", { params: { path: { job } }, body })).answers;
}

/** So many are read at once of what waits, the oldest first: ids are made in the order of time. */
const atOnce = 4 * limits.batch;

/** What one batch may hold, from the front: so many events, and so many bytes. */
export function batchOf(waiting: KeptEvent[]): KeptEvent[] {
  let bytes = 1000; // of what stands around them
  const end = waiting.findIndex((w, i) => {
    bytes += new TextEncoder().encode(JSON.stringify(w.event)).length + 1;
    return i > 0 && (i >= limits.batch || bytes > limits.batch_bytes);
  });
  return end < 0 ? waiting : waiting.slice(0, end);
}

function batchesOf(waiting: KeptEvent[]): KeptEvent[][] {
  const batches: KeptEvent[][] = [];
  for (let rest = waiting; rest.length > 0;) {
    const batch = batchOf(rest);
    batches.push(batch);
    rest = rest.slice(batch.length);
  }
  return batches;
}

/** Keeps an event here with its problem, until a newer build of the pages tries it again. */
const hold = (events: KeptEvent[], problem: string) =>
  db.transaction("rw", db.events, () =>
    Promise.all(events.map((w) => db.events.update(w.id, { state: "refused", problem, build }))),
  );

/** What an older build could not send is tried again. */
const tryAgain = (person: string) =>
  db.events
    .where({ state: "refused", by: person })
    .and((w) => w.build !== build)
    .modify({ state: "waiting" });

async function take(events: KeptEvent[], answers: Answer[]) {
  const answered = new Map(answers.map((a, i) => [events[i]?.id, a]));
  const now = events.flatMap((w): KeptEvent[] => {
    const a = answered.get(w.id);
    if (!a) return [];
    if (a.outcome === "refused") return [{ ...w, state: "refused", problem: a.problem ?? "", build }];
    return [{ ...w, state: "sent", event: { ...w.event, num: a.num, t: a.t } }];
  });
  await db.events.bulkPut(now);
}

/**
 * Sends what waits on this device for this person, oldest first, one sender at a
 * time over all tabs. A refused event stays here with its problem and stops
 * nothing behind it. A batch that fails while the server takes others is halved,
 * down to the one event, which is held here; all else goes on.
 */
export async function send(person: string): Promise<void> {
  await navigator.locks.request("evensteps-outbox", async () => {
    await tryAgain(person);
    try {
      await sendCalls(person);
    } catch (err) {
      tell(err instanceof Problem && err.status === 401 ? "signed-out" : "offline");
      return;
    }
    const notYet = new Set((await waitingCalls()).map((j) => j.id));
    let well = false; // the server has taken something
    for (;;) {
      const all = db.events.where({ state: "waiting", by: person });
      // Of some jobs the server does not know yet; to look for them costs, and mostly there are none.
      const sendable = notYet.size > 0 ? all.filter((w) => !notYet.has(w.job)) : all;
      const waiting = await sendable.limit(atOnce).toArray();
      const first = waiting[0];
      if (!first) {
        tell("sent");
        return;
      }
      const ofJob = waiting.filter((w) => w.job === first.job).sort((a, b) => a.event.n - b.event.n);
      tell("waiting");
      const batches = batchesOf(ofJob);
      for (let events = batches.shift(); events; events = batches.shift()) {
        try {
          const answers = await post(
            first.job,
            events.map((w) => w.event),
          );
          if (answers.length === 0) throw new Problem(0, "The server says nothing.");
          await take(events, answers);
          well = true;
        } catch (err) {
          const status = err instanceof Problem ? err.status : 0;
          if (status === 401 || passes(status) || (status === 500 && !(well ||= await takesAny(first.job)))) {
            tell(status === 401 ? "signed-out" : "offline");
            return;
          }
          const half = Math.ceil(events.length / 2);
          if (events.length === 1 || status === 404)
            await hold(events, `The server does not take it (${status}): ${wentWrong(err)}`);
          else batches.unshift(events.slice(0, half), events.slice(half));
        }
      }
      tellEvents(first.job);
    }
  });
}

/** How often what waits is sent, and what is new asked for, in milliseconds. */
const often = 15_000;

/** Does it now and then: after each pause, with each signal and when the page is turned to. Returns what ends it. */
export function nowAndThen(sync: () => void): () => void {
  const timer = setInterval(sync, often);
  window.addEventListener("online", sync);
  window.addEventListener("focus", sync);
  return () => {
    clearInterval(timer);
    window.removeEventListener("online", sync);
    window.removeEventListener("focus", sync);
  };
}

/** Whether the server is well but for what was sent: it takes a batch of nothing. */
const takesAny = (job: string) =>
  post(job, []).then(
    () => true,
    () => false,
  );

/**
 * What the server had may be gone: all that this device knows of these jobs is sent again, and all is
 * fetched again. What is there already is known, and nothing is doubled.
 */
async function sendAllAgain(jobs: string[]): Promise<void> {
  await db.transaction("rw", db.events, db.jobs, db.photos, async () => {
    await db.jobs.where("id").anyOf(jobs).modify({ cursor: 0 });
    await db.events
      .where("job")
      .anyOf(jobs)
      .and((w) => w.state === "sent")
      .modify({ state: "waiting" });
    await db.photos.where({ state: "sent" }).modify({ state: "waiting" });
  });
}

/** Looks whether an answer came from another database than the last, and then sends all again. */
export async function hearEpoch(epoch: string): Promise<void> {
  await navigator.locks.request("evensteps-epoch", async () => {
    const before = await keptEpoch();
    if (before === epoch) return;
    if (before !== undefined) await sendAllAgain(await db.jobs.toCollection().primaryKeys());
    await keepEpoch(epoch);
    const me = await lastPerson();
    if (before !== undefined && me) void send(me.id).catch(() => undefined); // else with the next sync
  });
}

let heardLast: string | undefined;
onEpoch((epoch) => {
  if (epoch === heardLast) return;
  heardLast = epoch;
  void hearEpoch(epoch).catch(() => (heardLast = undefined)); // no store here: with the next answer
});

/** Fetches what others have recorded since, and keeps it. */
export async function pull(job: string): Promise<void> {
  for (;;) {
    const kept = await db.jobs.get(job);
    if (!kept || kept.call) return;
    const answer = got(
      await api.GET("/jobs/{job}/events", { params: { path: { job }, query: { after: kept.cursor } } }),
    );
    if (answer.last < kept.cursor) {
      await sendAllAgain([job]);
      tellEvents(job);
      return;
    }
    await heard(job);
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

/** A record that the server did not take, and why. */
export interface Held {
  id: string;
  says: string;
  problem: string;
}

/** What this person recorded of a job here and the server did not take. */
export async function heldOf(job: string, person: string): Promise<Held[]> {
  const held = await db.events
    .where({ state: "refused", by: person })
    .and((w) => w.job === job)
    .toArray();
  const call = (await db.jobs.get(job))?.call;
  const said =
    call?.problem && call.by === person ? [{ id: job, says: "the call", problem: call.problem }] : [];
  return [
    ...said,
    ...held.map((w) => ({
      id: w.id,
      says: [w.event.kind, ...Object.values(w.event.body ?? {}).filter((v) => typeof v === "string")].join(
        " · ",
      ),
      problem: w.problem ?? "",
    })),
  ];
}

/** Lets what was held back of a job be sent once more. */
export async function sendAgain(job: string, person: string): Promise<void> {
  await callAgain(job);
  await db.events
    .where({ state: "refused", by: person })
    .and((w) => w.job === job)
    .modify({ state: "waiting" });
}

/**
 * What others left on this device, sent by a supervisor: the server takes it with its author's name
 * where that account is closed. What it does not take stays for its author. Returns how many were taken.
 */
export async function handIn(supervisor: string): Promise<number> {
  return navigator.locks.request("evensteps-outbox", async () => {
    const notYet = new Set((await waitingCalls()).map((j) => j.id));
    const others = await db.events
      .where("state")
      .anyOf("waiting", "refused")
      .filter((w) => w.by !== supervisor && !notYet.has(w.job))
      .toArray();
    let taken = 0;
    for (const job of new Set(others.map((w) => w.job))) {
      const ofJob = others.filter((w) => w.job === job).sort((a, b) => a.event.n - b.event.n);
      for (const events of batchesOf(ofJob)) {
        const answers = await post(
          job,
          events.map((w) => w.event),
        );
        const kept = answers.filter((a) => a.outcome !== "refused");
        await take(
          events.filter((w) => kept.some((a) => a.id === w.id)),
          kept,
        );
        taken += kept.length;
      }
      tellEvents(job);
    }
    return taken;
  });
}

/** How many records of this person wait here. */
export async function waitingFor(person: string): Promise<number> {
  const calls = await db.jobs.where({ "call.by": person }).count();
  return calls + (await db.events.where({ state: "waiting", by: person }).count());
}
