import { api, got, Problem } from "../api/client";
import { db, mapKey } from "./db";

/** Brings a job and its map to the device; what is here already serves without signal. */
export async function bring(job: string): Promise<void> {
  const here = await db.jobs.get(job);
  if (here?.call) return; // the server does not know of it yet
  try {
    const doc = got(await api.GET("/jobs/{job}", { params: { path: { job } } }));
    const key = mapKey(doc);
    if (!(await db.maps.get(key))) {
      const path = { map: doc.map, revision: doc.revision };
      const map = got(await api.GET("/maps/{map}/{revision}", { params: { path } }));
      await db.maps.put({ key, json: JSON.stringify(map) });
    }
    await db.jobs.put({ ...here, id: job, doc, cursor: here?.cursor ?? 0 });
  } catch (err) {
    if (!here || (err instanceof Problem && err.status === 404)) throw err;
  }
}
