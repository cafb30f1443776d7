import { db } from "../offline/db";
import { keptLists } from "../offline/lists";

/** What of one job waits on this device, or was not taken. */
export interface Waiting {
  job: string;
  title: string;
  /** Records, its call among them. */
  records: number;
  /** Why the server did not take some of them. */
  problems: string[];
}

/** What is kept on this device, how old it is, and what waits. */
export interface Kept {
  waiting: Waiting[];
  /** What others of this device recorded: it is sent when they sign in here. */
  ofOthers: number;
  photos: number;
  jobs: { job: string; title: string; heard: string | undefined }[];
  maps: number;
  allPhotos: number;
  lists?: string;
}

/** Looks through this device for a person. */
export async function keptHere(person: string): Promise<Kept> {
  const [jobs, waits, refused, photos, allPhotos, lists] = await Promise.all([
    db.jobs.toArray(),
    db.events.where({ state: "waiting" }).toArray(),
    db.events.where({ state: "refused" }).toArray(),
    db.photos.where({ state: "waiting" }).count(),
    db.photos.count(),
    keptLists(),
  ]);
  const titles = new Map(jobs.map((j) => [j.id, j.doc.job.title ?? j.id]));
  const waiting = new Map<string, Waiting>();
  const at = (job: string) => {
    const one = waiting.get(job) ?? { job, title: titles.get(job) ?? job, records: 0, problems: [] };
    waiting.set(job, one);
    return one;
  };
  for (const { id, call } of jobs) {
    if (call?.by !== person) continue;
    at(id).records++;
    if (call.problem) at(id).problems.push(call.problem);
  }
  for (const w of waits) if (w.by === person) at(w.job).records++;
  for (const w of refused) if (w.by === person) at(w.job).problems.push(w.problem ?? "");
  return {
    waiting: [...waiting.values()],
    ofOthers: [...waits, ...refused].filter((w) => w.by !== person).length,
    photos,
    jobs: jobs.map((j) => ({ job: j.id, title: titles.get(j.id) ?? j.id, heard: j.heard })),
    maps: lists?.maps.length ?? 0,
    allPhotos,
    lists: lists?.at,
  };
}
