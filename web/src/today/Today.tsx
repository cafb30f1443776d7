import { useInfiniteQuery } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { api, got, wentWrong, type JobRow } from "../api/client";
import { Plain, Strong } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Complaint, Notice } from "../parts/Sheets";
import { band, clock, Heard } from "../parts/text";
import { useSession } from "../signin/session";
import { LyingLadder } from "./LyingLadder";
import { ofTheDay, type Day } from "../offline/ahead";
import { waitingCalls } from "../offline/calls";
import { Line as Begun } from "../parts/Rows";
import { bringWords, sections } from "./sections";

const Group = styled.h2`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 1.125rem;
  margin-top: 0.375rem;
  font-size: 1.0625rem;
  color: ${(p) => p.theme.inkQuiet};
`;

const Row = styled.article<{ $open: boolean }>`
  display: grid;
  grid-template-columns: 14.125rem minmax(0, 1fr) minmax(0, 16.875rem) 8rem;
  gap: 1.25rem;
  align-items: center;
  padding: 0.75rem 0.875rem 0.75rem 1.125rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  border-left: 0.4375rem solid ${(p) => (p.$open ? p.theme.out : p.theme.ruleStrong)};
  @media (max-width: 56.25em) {
    grid-template-columns: minmax(0, 1fr);
  }
  > button {
    text-align: center;
  }
  h3 {
    font-size: 1.25rem;
    line-height: 1.25;
  }
  p {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
  p b {
    display: inline;
    font-size: inherit;
    color: ${(p) => p.theme.ink};
  }
`;

const Warn = styled.strong<{ $urgent?: boolean }>`
  display: block;
  color: ${(p) => (p.$urgent ? p.theme.stop : p.theme.caution)};
`;

const Before = styled(Link)`
  display: inline-block;
  padding: 0.75rem 0;
  margin: -0.75rem 0; /* hit with a glove, without spreading the lines */
  color: ${(p) => p.theme.ink};
`;

const Skeleton = styled.div`
  height: 6rem;
  background: ${(p) => p.theme.well};
`;

const More = styled(Plain)`
  justify-self: start;
  margin-top: 0.375rem;
`;

const touches = {
  open: "Go on",
  new: "Open",
  closed: "Open",
  waiting: "Open",
  signed: "See",
  "called-off": "See",
} as const;

function JobLine({ job, first }: { job: JobRow; first: boolean }) {
  const go = useNavigate();
  const { stage } = job;
  const to =
    { signed: `/jobs/${job.id}/even`, "called-off": `/jobs/${job.id}/about` }[stage as string] ??
    `/jobs/${job.id}`;
  const Go = stage === "open" && first ? Strong : Plain;
  const time = stage === "new" || stage === "open" ? band(job.p50, job.p80) : "";
  return (
    <Row $open={stage === "open"}>
      <LyingLadder marks={job.marks} />
      <div>
        <h3>{job.title}</h3>
        <p>
          {stage === "open" && <b>{job.since} · </b>}
          {job.words && <>“{job.words}” · </>}
          {job.place} ·{" "}
          <Before to={`/jobs/${job.id}/about`}>
            {job.goes || "nobody is named yet"}
            <Heard>: who goes, and where, {job.title}</Heard>
          </Before>
        </p>
      </div>
      <div>
        {job.warn && <Warn $urgent={job.urgent}>{job.warn}</Warn>}
        {job.stops && <Warn>{job.stops}</Warn>}
        {stage === "new" ? (
          <p>
            {job.bring.length > 0 ? `Bring ${bringWords(job.bring)}. ` : `${job.goal}. `}
            {time} <Before to={`/jobs/${job.id}/decide`}>What to bring</Before>
          </p>
        ) : (
          <p>
            {stage === "called-off"
              ? "Called off"
              : `${job.goal}. ${stage === "open" ? job.standing : job.headline}`}
            {time && stage === "open" && ` · ${time} to go`}
          </p>
        )}
      </div>
      <Go onPress={() => void go(to)} aria-label={`${touches[stage]}: ${job.title}`}>
        {touches[stage]}
      </Go>
    </Row>
  );
}

/** The pages of one list, as far as they were asked for. */
function useJobs(list: "now" | "earlier", enabled = true) {
  const { me } = useSession();
  return useInfiniteQuery({
    queryKey: ["jobs", list],
    queryFn: async ({ pageParam }): Promise<Day> => {
      const ask = async () => got(await api.GET("/jobs", { params: { query: { list, after: pageParam } } }));
      return list === "now" && pageParam === "" ? ofTheDay(me.id, ask) : ask();
    },
    networkMode: "always",
    initialPageParam: "",
    getNextPageParam: (page) => page.after || undefined,
    refetchOnMount: "always",
    enabled,
  });
}

/** The jobs of a list in their groups, each once however its pages have shifted. */
function List({ jobs }: { jobs: ReturnType<typeof useJobs> }) {
  const { signedOut } = useSession();
  const rows = [...new Map((jobs.data?.pages ?? []).flatMap((p) => p.jobs).map((j) => [j.id, j])).values()];
  return (
    <>
      {jobs.isLoading && (
        <>
          <Skeleton />
          <Skeleton />
        </>
      )}
      {sections(rows).map((group) => (
        <section key={group.title + (group.note ?? "")} aria-label={group.title}>
          <Group>
            {group.title}
            <span>{group.note ?? group.jobs.length}</span>
          </Group>
          {group.jobs.map((j) => (
            <JobLine key={j.id} job={j} first={j === rows[0]} />
          ))}
        </section>
      ))}
      {jobs.isError && !signedOut && (
        <Complaint role="alert">
          {wentWrong(jobs.error)} <Plain onPress={() => void jobs.refetch()}>Try again</Plain>
        </Complaint>
      )}
      {jobs.hasNextPage && (
        <More isDisabled={jobs.isFetchingNextPage} onPress={() => void jobs.fetchNextPage()}>
          {jobs.isFetchingNextPage ? "Asking …" : "Show more"}
        </More>
      )}
    </>
  );
}

/** Jobs of calls that were taken on this device and are not sent yet. */
function BegunHere() {
  const begun = useLiveQuery(() => waitingCalls().catch(() => []), [], []);
  if (begun.length === 0) return null;
  return (
    <section aria-label="Begun on this device">
      <Group>
        Begun on this device<span>sent with the next signal</span>
      </Group>
      {begun.map(({ id, doc, call }) => (
        <Begun key={id}>
          <div>
            <h3>{doc.job.title}</h3>
            {doc.job.words && <p>“{doc.job.words}”</p>}
            {call?.problem && <Warn $urgent>Not taken by the server: {call.problem}</Warn>}
          </div>
          <Link to={`/jobs/${id}`}>Go on</Link>
        </Begun>
      ))}
    </section>
  );
}

export function Today() {
  const [back, setBack] = useState(false);
  const jobs = useJobs("now");
  const earlier = useJobs("earlier", back);
  const first = jobs.data?.pages[0];
  const weekday = new Intl.DateTimeFormat("en", { weekday: "long" }).format(new Date());
  // An older server sends all jobs, and counts none.
  const count = Math.max(first?.all ?? 0, first?.jobs.length ?? 0);
  const open = first?.open ?? 0;
  const note = `${weekday} · ${count} ${count === 1 ? "job" : "jobs"}, ${open} ${open === 1 ? "machine" : "machines"} open`;
  return (
    <Hall title="Today" note={first && note}>
      {first?.kept && (
        <Notice role="status">
          No signal. This is how it stood {clock(first.kept)}; what is on this device can be worked.
        </Notice>
      )}
      {count === 0 && first && (
        <p>No jobs now. A job stands here as soon as the office has taken the call.</p>
      )}
      <BegunHere />
      <List jobs={jobs} />
      {first && !back && <More onPress={() => setBack(true)}>Earlier: what is signed off</More>}
      {back && <List jobs={earlier} />}
      {back && earlier.data?.pages[0]?.jobs.length === 0 && <p>Nothing is signed off yet.</p>}
    </Hall>
  );
}
