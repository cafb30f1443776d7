import { api, got, Problem, wentWrong, type Call, type CallHeard, type CallSaid } from "../api/client";
import { bring } from "./bring";
import { core } from "./core";
import { db, type KeptEvent } from "./db";
import { keptLists, library, type KeptLists } from "./lists";
import { passes } from "./passes";

const allMachines = (lists: KeptLists) =>
  lists.places.places.flatMap((place) => place.machines.map((machine) => ({ place, machine })));

/** What the core needs of the machine that a call is about. */
function machineOf(lists: KeptLists, call: { appliance?: string; model?: string }) {
  const known = allMachines(lists).find(({ machine }) => machine.id === call.appliance)?.machine;
  return { model: known?.model ?? call.model ?? "", map: known?.map ?? "", options: known?.options ?? {} };
}

/** The lists of this device, with its library in the core: given anew where either is another one. */
async function listsInCore(): Promise<KeptLists> {
  const lists = await keptLists();
  if (!lists) throw new Error("The library is not on this device yet. It comes with the first signal.");
  core.warm(); // a worker that died is another one by now, and knows no maps
  const now = [core.generation, ...lists.maps].join(" ");
  if (now !== inCore) await core.library(await library(lists));
  inCore = now;
  return lists;
}
let inCore = "";

/** What a call means, by the library on this device; what was done on the machine before is not known here. */
export async function hearHere(said: CallSaid): Promise<CallHeard> {
  const lists = await listsInCore();
  return core.hear(machineOf(lists, said), said);
}

/**
 * Takes a call without signal: its job begins here, under an id of this device, and is
 * worked like any other. The call is sent before all that is recorded on it.
 */
export async function takeHere(call: Call, heard: CallHeard, person: string): Promise<string> {
  const lists = await listsInCore();
  const id = `c-${crypto.randomUUID().replaceAll("-", "").slice(-12)}`;
  const own: Call = { ...call, job: id, revision: heard.revision };
  const known = allMachines(lists).find(({ machine }) => machine.id === call.appliance);
  const place = known?.place ?? lists.places.places.find((p) => p.id === call.site);
  if (!place) throw new Error("This site is not on this device yet. It comes with the next signal.");
  const { job, events } = await core.take({
    call: own,
    by: person,
    at: new Date().toISOString(),
    on: machineOf(lists, call),
    around: lists.around,
    where: {
      machine: known?.machine.id ?? "",
      name: known?.machine.name ?? call.name ?? "",
      model: known?.machine.model ?? call.model ?? "",
      serial: known?.machine.serial ?? call.serial ?? "",
      stands: known?.machine.stands ?? "",
      site: place.name,
      address: place.address,
      contact: place.contact,
      phone: place.phone,
      access: place.access,
    },
    place: place.island,
  });
  const waiting = events.map((event): KeptEvent => ({
    id: event.id,
    job: id,
    by: person,
    device: event.device,
    state: "waiting",
    event,
  }));
  await db.transaction("rw", db.jobs, db.events, async () => {
    const doc = { job, map: heard.map, revision: heard.revision };
    await db.jobs.put({ id, doc, cursor: 0, call: { body: own, by: person } });
    await db.events.bulkPut(waiting);
  });
  return id;
}

/** Calls that were taken here and are not on the server yet, whoever took them. */
export const waitingCalls = () => db.jobs.where("call.by").above("").toArray();

/**
 * Sends the calls that this person took without signal. One that is not taken stays with its
 * problem, and its records with it. Throws where the server does not answer, or nobody is signed in.
 */
export async function sendCalls(person: string): Promise<void> {
  for (const { id, call } of await db.jobs.where({ "call.by": person }).toArray()) {
    if (!call || call.problem) continue;
    try {
      got(await api.POST("/calls", { body: call.body }));
    } catch (err) {
      const status = err instanceof Problem ? err.status : 0;
      if (status === 401 || status === 500 || passes(status)) throw err;
      await db.jobs.update(id, { call: { ...call, problem: wentWrong(err) } });
      continue;
    }
    await db.jobs.update(id, { call: undefined });
    await bring(id);
  }
}

/** Lets a call that was not taken be sent once more. */
export async function callAgain(job: string): Promise<void> {
  const kept = await db.jobs.get(job);
  if (kept?.call) await db.jobs.update(job, { call: { ...kept.call, problem: undefined } });
}
