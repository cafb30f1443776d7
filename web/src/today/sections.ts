import type { JobRow } from "../api/client";

/** The first few of what to bring; the rest is counted. */
export function bringWords(bring: string[]): string {
  const most = 4;
  const rest = bring.length - most;
  return rest > 1 ? `${bring.slice(0, most).join(", ")} and ${rest} more` : bring.join(", ");
}

interface Section {
  title: string;
  note?: string;
  jobs: JobRow[];
}

/** Machines left open first, then by boat, then what waits and what is done; the server has them in that order. */
export function sections(jobs: JobRow[]): Section[] {
  const out: Section[] = [];
  for (const job of jobs) {
    const [title, note] =
      job.stage === "open"
        ? ["Machines left open"]
        : job.stage === "waiting"
          ? ["Waiting for parts"]
          : job.stage === "signed"
            ? ["Signed off"]
            : ["By ferry", job.ferry];
    const last = out.at(-1);
    if (last?.title === title && last.note === note) last.jobs.push(job);
    else out.push({ title, note, jobs: [job] });
  }
  return out;
}
