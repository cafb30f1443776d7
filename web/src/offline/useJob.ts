import { useCallback, useEffect, useRef, useState } from "react";
import { Dexie } from "dexie";
import { useLiveQuery } from "dexie-react-hooks";
import { v7 as uuid } from "uuid";
import type { JobEvent, Make, View } from "../api/client";
import { bring } from "./bring";
import { core, viewerHere } from "./core";
import { db, mapKey, deviceId, type KeptEvent } from "./db";
import { sendPhotos } from "./photos";
import { useLive, type Other } from "./useLive";
import { slip } from "../parts/Buttons";
import {
  onEvents,
  onSignal,
  post,
  pull,
  run,
  send,
  since,
  tellOtherTabs,
  heldOf,
  nowAndThen,
  sendAgain,
  waitingFor,
  type Held,
  type Signal,
} from "./outbox";

/** On a line the server says what is new: asking is done so many times less often. */
const seldom = 4;

export interface JobHere {
  view?: View;
  /** The job cannot be shown: what happened and what to do. */
  failed?: string;
  /** The last record was not kept: why. */
  refused?: string;
  waiting: number;
  /** What the server did not take: it is kept here, and is in no view. */
  held: Held[];
  /** Sends that once more. */
  retry(): void;
  signal: Signal;
  record(makes: Make[]): Promise<boolean>;
  /** Looks at a rung besides the one that is on, or no more. */
  look(rung: string | undefined): void;
  /** The other devices that look at the job now, and the step that is on there. */
  others: Other[];
  again(): void;
}

const noneHeld: Held[] = [];

/** What the step that is on is called, to those who look at the job elsewhere. */
const stepOn = ({ current, rungs }: View) =>
  rungs.find((r) => r.id === current.move)?.title ?? current.task?.title ?? "";

/** Makes events of what a touch records: one moment, numbered on. */
async function eventsOf(job: string, person: string, makes: Make[]): Promise<JobEvent[]> {
  const device = await deviceId();
  const last = (key: "n" | "num") =>
    db.events
      .where(`[job+device+event.${key}]`)
      .between([job, device, Dexie.minKey], [job, device, Dexie.maxKey])
      .last();
  const [byN, byNum, here] = await Promise.all([last("n"), last("num"), db.jobs.get(job)]);
  const n = byN?.event.n ?? 0;
  const seen = Math.max(here?.cursor ?? 0, byNum?.event.num ?? 0);
  const moment = { wall: new Date().toISOString(), since: since(), run, seen };
  return makes.map((make, i) => ({
    id: uuid(),
    job,
    by: person,
    device,
    n: n + i + 1,
    ...moment,
    kind: make.kind,
    body: make.body,
  }));
}

const kept = (event: JobEvent): KeptEvent => ({
  id: event.id,
  job: event.job,
  by: event.by,
  device: event.device,
  state: "waiting",
  event,
});

/**
 * One job on this device: its view from the core, and the recording of touches.
 * Nothing is painted as done before the device's store has it.
 */
export function useJob(job: string, person: string): JobHere {
  const [view, setView] = useState<View>();
  const [failed, setFailed] = useState<string>();
  const [refused, setRefused] = useState<string>();
  // Both change in other tabs, too, and by what the server answers.
  const waiting = useLiveQuery(() => waitingFor(person), [person], 0);
  const held = useLiveQuery(() => heldOf(job, person), [job, person], noneHeld);
  const [signal, setSignal] = useState<Signal>("sent");
  const [tries, setTries] = useState(0);
  const looking = useRef<string>(undefined);
  const opened = useRef(0);
  const hears = useRef(false);
  const inCore = useRef(new Map<string, number>()); // event id -> its number, 0 while it has none

  // What is in the core but not yet kept is not shown: a look waits for the keeping.
  const keeping = useRef<Promise<unknown>>(Promise.resolve());
  // Of two views on their way the one asked for later stays, whichever comes first.
  const asked = useRef(0);
  const painted = useRef(0);

  const paint = useCallback(async (now: View, turn: number) => {
    await keeping.current;
    if (turn < painted.current) return;
    painted.current = turn;
    setView(now);
  }, []);

  // All that is kept here and not yet in the core is handed over, and the view asked for.
  const show = useCallback(async () => {
    const look = async () => {
      if (opened.current === 0 || opened.current !== core.generation) {
        const here = await db.jobs.get(job);
        const map = here && (await db.maps.get(mapKey(here.doc)));
        if (!here || !map) throw new Error("This job is not on this device yet. Load it once with signal.");
        await core.open(map.json, here.doc.job);
        opened.current = core.generation;
        inCore.current.clear();
      }
      const news = (await db.events.where({ job }).toArray())
        .filter((e) => e.state !== "refused" && inCore.current.get(e.id) !== (e.event.num ?? 0))
        .map((e) => e.event);
      if (news.length > 0) await core.add(job, news);
      news.forEach((e) => inCore.current.set(e.id, e.num ?? 0));
      const viewer = await viewerHere(person, job, looking.current);
      const turn = ++asked.current;
      await paint(await core.about("view", job, viewer, undefined), turn);
    };
    // A worker that died is started again from the device's store, once.
    await look().catch(look);
  }, [job, person, paint]);

  useEffect(() => {
    let gone = false;
    opened.current = 0;
    let turns = 0;
    const sync = async () => {
      await send(person);
      await sendPhotos().catch(() => undefined); // later
      if (hears.current && ++turns % seldom !== 0) return;
      // No signal: what is here serves, and says how old it is.
      await pull(job).catch(() => (opened.current > 0 ? show() : undefined));
    };
    const begin = async () => {
      try {
        await bring(job);
        await db.jobs.update(job, { opened: new Date().toISOString() }).catch(() => undefined);
        await pull(job).catch(() => undefined);
        if (!gone) await show();
        setFailed(undefined);
        await send(person);
        await sendPhotos();
      } catch (err) {
        if (!gone) setFailed(err instanceof Error ? err.message : String(err));
      }
    };
    void begin();
    const off = [
      onEvents((changed) => {
        if (changed === job && opened.current > 0) void show();
      }),
      onSignal(setSignal),
      nowAndThen(() => void sync()),
    ];
    return () => {
      gone = true;
      off.forEach((stop) => stop());
    };
  }, [job, person, show, tries]);

  const last = useRef({ text: "", at: -slip, busy: false });
  const record = useCallback(
    async (makes: Make[]) => {
      // The same again within a slip, or while it is still being kept, is one touch.
      const text = JSON.stringify(makes);
      const before = last.current;
      if (before.text === text && (before.busy || performance.now() - before.at < slip)) return true;
      const touch = { text, at: performance.now(), busy: true };
      last.current = touch;
      try {
        return await keep(makes);
      } finally {
        touch.busy = false;
        touch.at = performance.now();
      }

      async function keep(makes: Make[]) {
        setRefused(undefined);
        let events: JobEvent[] = [];
        let seen: Promise<View> | undefined;
        let stored = false;
        let turn = 0;
        try {
          // One touch after the other, over all tabs, so that the numbers run on.
          await navigator.locks.request("evensteps-record", async () => {
            const [viewer, made] = await Promise.all([
              viewerHere(person, job, looking.current),
              eventsOf(job, person, makes),
            ]);
            events = made;
            const sound = core.check(events);
            // While the device keeps it, the core works out what follows from it.
            turn = ++asked.current;
            if (opened.current > 0 && opened.current === core.generation)
              seen = core.record(job, viewer, events);
            seen?.catch(() => undefined);
            await sound;
            const put = db.events.bulkAdd(events.map(kept)).then(
              () => true,
              () => false,
            );
            keeping.current = put;
            stored = await put;
          });
        } catch (err) {
          setRefused(err instanceof Error ? err.message : String(err));
          return false;
        }
        if (!stored) {
          // The store refuses (full, or a private window): it counts only once the server has it.
          opened.current = 0; // the core has taken it already: it begins again from what is kept
          try {
            const answers = await post(job, events);
            const bad = answers.find((a) => a.outcome === "refused");
            if (bad) throw new Error(bad.problem);
            setRefused(
              "This device cannot keep records (its storage is full or closed). This one went to the server.",
            );
            await show();
            const numbered = events.map((e, i) => ({ ...e, num: answers[i]?.num, t: answers[i]?.t }));
            const viewer = await viewerHere(person, job, looking.current);
            turn = ++asked.current;
            await paint(await core.record(job, viewer, numbered), turn);
          } catch {
            await show();
            setRefused(
              "Not recorded: this device cannot keep it and the server does not answer. Free some space, then touch again.",
            );
            return false;
          }
          return true;
        }
        try {
          if (!seen) throw new Error("the core is not ready");
          const now = await seen;
          events.forEach((e) => inCore.current.set(e.id, 0));
          await paint(now, turn);
        } catch {
          await show();
        }
        tellOtherTabs(job);
        void send(person).then(sendPhotos);
        return true;
      }
    },
    [job, person, show, paint],
  );

  const look = useCallback(
    (rung: string | undefined) => {
      looking.current = rung;
      void show();
    },
    [show],
  );

  const retry = useCallback(
    () => void sendAgain(job, person).then(() => show().then(() => send(person))),
    [job, person, show],
  );

  const news = useCallback(() => void pull(job).catch(() => undefined), [job]);
  const { others, joined } = useLive(job, view && stepOn(view), news);
  useEffect(() => {
    hears.current = joined;
  });

  const again = () => setTries((n) => n + 1);
  return { view, failed, refused, waiting, held, retry, signal, record, look, others, again };
}
