import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

/** How long an answer may take, in milliseconds; a photo goes over slow lines, too. */
const patience = (url: string) => (url.includes("/photos/") ? 180_000 : 30_000);

let hearing: (epoch: string) => void = () => undefined;

/** Calls back with the database that each answer is of: another one than before was restored. */
export const onEpoch = (hear: (epoch: string) => void) => {
  hearing = hear;
};

export const api = createClient<paths>({
  baseUrl: "/api",
  fetch: async (request) => {
    const signal = AbortSignal.any([request.signal, AbortSignal.timeout(patience(request.url))]);
    const response = await fetch(request, { signal });
    const epoch = response.headers.get("Evensteps-Epoch");
    if (epoch) hearing(epoch);
    return response;
  },
});

type Schemas = components["schemas"];
export type View = Schemas["View"];
export type Rung = Schemas["Rung"];
export type Side = Schemas["Side"];
export type Touch = Schemas["Touch"];
export type Make = Schemas["Make"];
export type Find = Schemas["Find"];
export type Fit = Schemas["Fit"];
export type Figures = Schemas["Figures"];
/** What somebody wrote into the figures, field by field; the core reads it. */
export type Typed = Partial<Record<keyof Figures, string>>;
export type CallHeard = Schemas["Meaning"];
export type CallSaid = Schemas["Said"];
export type Call = Schemas["Call"];
export type Place = Schemas["Place"];
export type Proposal = Schemas["Proposal"];
export type Line = Schemas["Line"];
export type Lot = Schemas["Lot"];
export type Plug = Schemas["Plug"];
export type Mark = Rung["out"];
export type Drawing = Schemas["Drawing"];
export type Kept = Schemas["Kept"];
export type Wire = Schemas["Wire"];
export type Shown = Schemas["Shown"];
export type Pin = Schemas["Pin"];
export type Choice = Schemas["Choice"];
export type Proving = Schemas["Proving"];
export type ProofAsk = Schemas["ProofAsk"];
export type ProofStep = Schemas["ProofStep"];
export type Tried = Schemas["Tried"];
export type Lists = Schemas["Lists"];
export type Named = Schemas["Named"];
export type Remark = Schemas["Remark"];
export type Row = Schemas["Row"];
export type Snag = Schemas["Snag"];
export type Energy = Schemas["Energy"];
export type JobRow = Schemas["JobRow"];
export type JobDocument = Schemas["JobDocument"];
export type JobEvent = Schemas["Event"];
export type Answer = Schemas["Answer"];
export type Me = Schemas["Me"];
export type PersonRow = Schemas["PersonRow"];
export type Ticket = Schemas["Ticket"];
export type PlaceMachine = Schemas["PlaceMachine"];
export type MapName = Schemas["MapName"];
export type MachinePage = Schemas["MachinePage"];
export type MachineJob = Schemas["MachineJob"];
export type Gauge = Schemas["Gauge"];
export type CompanyPage = Schemas["CompanyPage"];
export type Imported = Schemas["Imported"];
export type About = Schemas["About"];

/** A request that was answered, but not with what was asked for. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Whether nothing is left to do on a job at this stage. */
export const isOver = (stage: string) => stage === "signed" || stage === "called-off";

/** What to tell somebody when a request went wrong. */
export const wentWrong = (err: unknown) =>
  err instanceof Problem ? err.message : "The server does not answer. Look for signal, then try again.";

/** A record that the core has prepared, with what was typed or counted put into its body. */
export const plus = (make: Make, more: object) => ({ ...make, body: { ...make.body, ...more } }) as Make;

/** What takes records back. */
export const withdrawing = (events: string[]): Make[] =>
  events.map((event) => ({ kind: "withdrawn", body: { event } }));

/** The data of an answer; a Problem otherwise. No answer at all throws as fetch does. */
export function got<T>(answer: { data?: T; error?: { detail?: string }; response: Response }): T {
  if (answer.response.ok) return answer.data as T;
  throw new Problem(
    answer.response.status,
    answer.error?.detail ?? `The server answered ${answer.response.status}.`,
  );
}
