import { Dexie, type EntityTable, type Table } from "dexie";
import type { Call, JobDocument, JobEvent, Me } from "../api/client";

/** An event as the device keeps it: waiting to be sent, sent, or refused with its problem. */
export interface KeptEvent {
  id: string;
  job: string;
  by: string;
  device: string;
  state: "waiting" | "sent" | "refused";
  problem?: string;
  /** The build of the pages that it was refused to; a newer one tries it again. */
  build?: string;
  event: JobEvent;
}

interface KeptJob {
  id: string;
  doc: JobDocument;
  /** The last job number that is known here. */
  cursor: number;
  /** When this device last heard of it. */
  heard?: string;
  /** When it was last open on this device. */
  opened?: string;
  /** The call that it was made of, taken here without signal: it waits, or was not taken by the server. */
  call?: { body: Call; by: string; problem?: string };
}

interface KeptMap {
  key: string;
  /** Checked JSON of one revision; it never changes. */
  json: string;
}

interface Setting {
  key: string;
  value: unknown;
}

/** A photo as the device keeps it: shrunk, with a small one of it, waiting to be sent or sent. */
export interface KeptPhoto {
  sha256: string;
  state: "waiting" | "sent" | "refused";
  problem?: string;
  whole: Blob;
  small: Blob;
}

/** What is typed and not yet recorded, by job, person and step. */
interface KeptDraft {
  key: string;
  draft: Record<string, string>;
}

class DeviceStore extends Dexie {
  jobs!: EntityTable<KeptJob, "id">;
  maps!: EntityTable<KeptMap, "key">;
  events!: EntityTable<KeptEvent, "id">;
  settings!: Table<Setting, string>;
  photos!: EntityTable<KeptPhoto, "sha256">;
  drafts!: EntityTable<KeptDraft, "key">;

  constructor() {
    super("evensteps");
    this.version(1).stores({
      jobs: "id",
      maps: "key",
      events: "id, job, [job+device], [state+by]",
      settings: "key",
    });
    // The last number and the highest job number of a device, without reading all its events.
    this.version(2).stores({
      photos: "sha256, state",
      events: "id, job, [job+device], [state+by], [job+device+event.n], [job+device+event.num]",
    });
    this.version(3).stores({ drafts: "key" });
    // What waits or was refused, whoever recorded it.
    this.version(4).stores({
      jobs: "id, call.by", // in the index are only jobs whose call waits
      events: "id, job, state, [job+device], [state+by], [job+device+event.n], [job+device+event.num]",
    });
  }
}

export const db = new DeviceStore();

/** How one revision of a map is called here. */
export const mapKey = (of: { map: string; revision: number }) => `${of.map}@${of.revision}`;

async function setting<T>(key: string): Promise<T | undefined> {
  return (await db.settings.get(key))?.value as T | undefined;
}

let device: Promise<string> | undefined;

/** This device's id, made at its first use. */
export function deviceId(): Promise<string> {
  device ??= keptDevice().catch((err: unknown) => {
    device = undefined; // asked again next time
    throw err;
  });
  return device;
}

async function keptDevice(): Promise<string> {
  return db.transaction("rw", db.settings, async () => {
    const known = await setting<string>("device");
    if (known) return known;
    const made = "dev-" + crypto.randomUUID().slice(0, 13);
    await db.settings.put({ key: "device", value: made });
    return made;
  });
}

/** The database that the last answer came from; undefined before the first. */
export const keptEpoch = () => setting<string>("epoch");
export const keepEpoch = (epoch: string) => db.settings.put({ key: "epoch", value: epoch });

/** Who last signed in here, so that work goes on when the session has ended. */
export const lastPerson = () => setting<Me>("person");
export const keepPerson = (me: Me) => db.settings.put({ key: "person", value: me });
export const forgetPerson = () => db.settings.delete("person");

/** The day as the server last told it, for whom and when. */
export interface KeptDay {
  person: string;
  at: string;
  page: unknown;
}
export const keptDay = () => setting<KeptDay>("day");
export const keepDay = (day: KeptDay) => db.settings.put({ key: "day", value: day });

/** How this device is held: which hand works, and whether single letters work. */
export interface Hold {
  left: boolean;
  letters: boolean;
}
export const keptHold = async () => (await setting<Hold>("hold")) ?? { left: false, letters: true };
export const keepHold = (hold: Hold) => db.settings.put({ key: "hold", value: hold });

/** The theme of this device. */
export const keptTheme = () => setting<"day" | "torch">("theme");
export const keepTheme = (name: "day" | "torch") => db.settings.put({ key: "theme", value: name });

/** Whose words and units this device says, where they are not the company's. */
export interface Speech {
  region: string;
  units: string;
}
let speech: Promise<Speech> | undefined; // read once: every touch asks for it

export function keptSpeech(): Promise<Speech> {
  speech ??= setting<Speech>("speech").then(
    (kept) => kept ?? { region: "", units: "" },
    (err: unknown) => {
      speech = undefined; // asked again next time
      throw err;
    },
  );
  return speech;
}

export function keepSpeech(now: Speech) {
  speech = Promise.resolve(now);
  return db.settings.put({ key: "speech", value: now });
}
