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

const dayOf = (signed: string | undefined) =>
  signed === undefined
    ? undefined
    : new Intl.DateTimeFormat("en", {
        weekday: "long",
        day: "numeric",
        month: "long",
        year: "numeric",
      }).format(new Date(signed));

/** One's own jobs first, then what is urgent, then the company's by place, and on the list of earlier ones by day; the server has them in that order. */
export function sections(jobs: JobRow[]): Section[] {
  const out: Section[] = [];
  for (const job of jobs) {
    const [title, note] =
      job.stage === "signed" || job.stage === "called-off"
        ? [dayOf(job.signed) ?? "", "signed off, or called off"]
        : job.mine
          ? ["Yours"]
          : job.urgent
            ? ["Make safe first"]
            : [job.place || "Elsewhere", job.ferry];
    const last = out.at(-1);
    if (last?.title === title && last.note === note) last.jobs.push(job);
    else out.push({ title, note, jobs: [job] });
  }
  return out;
}
