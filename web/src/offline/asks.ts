// Made by web/asks from the core's table of questions; make api.
import type { components } from "../api/schema";

type Schemas = components["schemas"];

/** What the core is asked about a job: what goes in beside the job, and what comes out. */
export interface Asks {
  /** The view of a job, as devices make it themselves. */
  view: { in: undefined; out: Schemas["View"] };
  /** What is wrong: suspects and the next test, as devices weigh it themselves. */
  find: { in: undefined; out: Schemas["Find"] };
  /** What can be named on a job's machine. */
  lists: { in: undefined; out: Schemas["Lists"] };
  /** What to fit and what it takes, as devices reckon it themselves. */
  decide: { in: Record<string, string>; out: Schemas["Decide"] };
  /** What some records would change, as devices try it themselves; nothing is kept. */
  try: { in: Schemas["TryIn"]; out: Schemas["Tried"] };
  /** What a step that the map does not know would change, and what records it; nothing is kept. */
  own: { in: Schemas["OwnStepIn"]; out: Schemas["OwnStep"] };
  /** What a reading that is being taken shows, as devices judge it themselves; nothing is kept. */
  judge: { in: Schemas["ReadingTaken"]; out: Schemas["Judged"] };
  /** What a proof that is being typed lacks and shows, as devices judge it themselves; nothing is kept. */
  prove: { in: Schemas["ProveIn"]; out: Schemas["Proving"] };
}
