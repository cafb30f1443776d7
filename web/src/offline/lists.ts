import { api, got, type JobDocument } from "../api/client";
import type { components } from "../api/schema";
import { db, mapKey } from "./db";

type Schemas = components["schemas"];

/** What is kept for jobs that are not known yet: sites with machines, who goes, the library. */
export interface KeptLists {
  at: string;
  places: Schemas["PlacesOutBody"];
  around: JobDocument["job"];
  /** The latest revision of each map, as it lies among the maps. */
  maps: string[];
}

/** What is kept is renewed after so long, in milliseconds, when there is signal. */
const stale = 10 * 60_000;

export const keptLists = async () => (await db.settings.get("lists"))?.value as KeptLists | undefined;

let under: Promise<void> | undefined;

/** Brings the lists and the library to this device, behind whatever else is done; one round at a time. */
export function keepLists(): Promise<void> {
  under ??= round().finally(() => (under = undefined));
  return under;
}

async function round() {
  const before = await keptLists();
  if (before && Date.now() - Date.parse(before.at) < stale) return;
  const [places, around, { maps }] = await Promise.all([
    api.GET("/places").then(got),
    api.GET("/around").then(got),
    api.GET("/maps").then(got),
  ]);
  for (const m of maps) {
    if (await db.maps.get(mapKey(m))) continue;
    const map = got(await api.GET("/maps/{map}/{revision}", { params: { path: m } }));
    await db.maps.put({ key: mapKey(m), json: JSON.stringify(map) });
  }
  const now: KeptLists = { at: new Date().toISOString(), places, around, maps: maps.map(mapKey) };
  await db.settings.put({ key: "lists", value: now });
}

/** The maps of the library as they lie on this device. */
export async function library(lists: KeptLists): Promise<string[]> {
  const maps = await db.maps.bulkGet(lists.maps);
  return maps.flatMap((m) => (m ? [m.json] : []));
}
