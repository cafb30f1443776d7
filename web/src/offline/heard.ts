import { db } from "./db";

/** When this device last heard of a job, by job: what it knows of the others is as old as that. */
const last = new Map<string, string>();

/** This device hears now what others do on a job. */
export async function heard(job: string): Promise<void> {
  const now = new Date().toISOString();
  last.set(job, now);
  await db.jobs.update(job, { heard: now }).catch(() => undefined); // no room: known until the page is closed
}

/** When it last heard of a job; undefined where it never has. */
export async function lastHeard(job: string): Promise<string | undefined> {
  const known = last.get(job) ?? (await db.jobs.get(job).catch(() => undefined))?.heard;
  if (known) last.set(job, known);
  return known;
}
