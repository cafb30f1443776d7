import { isOver, Problem } from "../api/client";
import type { components } from "../api/schema";
import { bring } from "./bring";
import { db, keepDay, keptDay } from "./db";
import { letGo } from "./leave";
import { keepLists } from "./lists";
import { pull } from "./outbox";
import { bringPhotos } from "./photos";

/** A page of the jobs of now. */
export type Day = components["schemas"]["RowsOutBody"] & {
  /** It is from this device: when the server told it. */
  kept?: string;
};

/** So many jobs are kept ahead, those first that stand first. */
const most = 40;

let under: Promise<void> | undefined;

/** Brings the jobs of a day to this device, one after the other, behind whatever else is done; one round at a time. */
export function keepAhead(jobs: Day["jobs"]): Promise<void> {
  under ??= round(jobs.filter((j) => !isOver(j.stage)).slice(0, most)).finally(() => (under = undefined));
  return under;
}

async function round(jobs: Day["jobs"]) {
  for (const { id } of jobs) {
    try {
      if (!(await db.jobs.get(id))) await bring(id);
      await pull(id);
      await bringPhotos(id);
    } catch (err) {
      if (!(err instanceof Problem)) return; // no signal, or no room: with the next look
    }
  }
}

/** The day as the server tells it, kept and its jobs with it; without an answer as it last told it to this person. */
export async function ofTheDay(person: string, ask: () => Promise<Day>): Promise<Day> {
  try {
    const page = await ask();
    await keepDay({ person, at: new Date().toISOString(), page }).catch(() => undefined); // no room: shown all the same
    void keepLists()
      .catch(() => undefined) // no signal, or no room: with the next look
      .then(() => keepAhead(page.jobs))
      .then(() => letGo(page.jobs.map((j) => j.id)))
      .catch(() => undefined);
    return page;
  } catch (err) {
    const kept = await keptDay().catch(() => undefined);
    // A server that answers is heard; only where none does, the day is as it was.
    if (err instanceof Problem && err.status < 500) throw err;
    if (kept?.person !== person) throw err;
    return { ...(kept.page as Day), kept: kept.at };
  }
}
