import type { JobEvent } from "../api/client";
import { db, mapKey } from "./db";

/**
 * What is over leaves this device so many milliseconds after it was last open here. Until
 * then it is also what brings a database back that lost its last days.
 */
const keepFor = 14 * 24 * 3600_000;

const photoOf = (event: JobEvent) =>
  event.kind === "photo" ? ((event.body as { sha256?: string } | undefined)?.sha256 ?? "") : "";

/** Whether all that is here of a job is on the server, its photos too. */
async function allSent(job: string): Promise<boolean> {
  const events = await db.events.where({ job }).toArray();
  if (events.some((e) => e.state !== "sent")) return false;
  const photos = await db.photos.bulkGet(events.map((e) => photoOf(e.event)).filter(Boolean));
  return photos.every((p) => !p || p.state === "sent");
}

/** Lets the jobs leave that are not among those to be worked, once all of theirs is sent. Returns which left. */
export async function letGo(worked: string[], now = Date.now()): Promise<string[]> {
  const jobs = await db.jobs.toArray();
  const left: string[] = [];
  for (const job of jobs) {
    const last = Date.parse(job.opened ?? job.heard ?? "");
    if (worked.includes(job.id) || job.call || !(now - last > keepFor) || !(await allSent(job.id))) continue;
    await db.transaction("rw", db.jobs, db.events, db.drafts, async () => {
      await db.jobs.delete(job.id);
      await db.events.where({ job: job.id }).delete();
      await db.drafts.where("key").startsWith(`${job.id} `).delete();
    });
    left.push(job.id);
  }
  if (left.length > 0) await clearUp();
  return left;
}

/** Photos and maps that nothing here names any more. */
async function clearUp() {
  const named = new Set((await db.events.toArray()).map((e) => photoOf(e.event)));
  await db.photos.filter((p) => p.state === "sent" && !named.has(p.sha256)).delete();
  const lists = (await db.settings.get("lists"))?.value as { maps?: string[] } | undefined;
  const maps = new Set(lists?.maps ?? []);
  for (const { doc } of await db.jobs.toArray()) maps.add(mapKey(doc));
  await db.maps.filter((m) => !maps.has(m.key)).delete();
}
