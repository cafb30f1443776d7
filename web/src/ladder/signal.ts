import type { JobHere } from "../offline/useJob";
import type { Other } from "../offline/useLive";

/** Who else looks at the job now, and at which step: of several one, and how many more. */
export function elsewhere(others: Other[], mine: string): { who: string; step: string } | undefined {
  const people = [...new Map(others.map((o) => [o.person, o])).values()];
  const first = people.find((o) => o.person !== mine) ?? people[0];
  if (!first) return undefined;
  const more = people.length > 1 ? ` and ${people.length - 1} more` : "";
  const who = first.person === mine ? "You, on another device" : first.name;
  return { who: who + more, step: first.step ? `at: ${first.step}` : "looks at this job" };
}

/** How the sending goes, in few words. */
export function signalWords(job: Pick<JobHere, "signal" | "waiting" | "held">): string {
  const n = job.waiting;
  if (job.held.length > 0) return `${job.held.length} not taken by the server`;
  const waiting = n > 0 ? `, ${n} waiting` : "";
  if (job.signal === "offline") return `no signal${waiting}`;
  if (job.signal === "signed-out") return `signed out${waiting}`;
  return n > 0 ? `sending ${n}` : "all sent";
}
