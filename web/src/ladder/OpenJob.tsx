import { useNavigate } from "react-router";
import styled from "styled-components";
import { DecideScreen } from "../decide/DecideScreen";
import { EvenScreen } from "../even/EvenScreen";
import { FindScreen } from "../find/FindScreen";
import { HandOverScreen } from "../handover/HandOverScreen";
import { HandsScreen } from "../hands/HandsScreen";
import { useJob } from "../offline/useJob";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Heard } from "../parts/text";
import { useSession } from "../signin/session";
import { AboutJob } from "./AboutJob";
import { JobScreen } from "./JobScreen";

const Shape = styled.main`
  height: 100dvh;
  display: grid;
  grid-template: 3.75rem 1fr 6.75rem / ${(p) => p.theme.ladder} 1fr ${(p) => p.theme.bench};
  gap: 0.125rem;
  background: ${(p) => p.theme.rule};
  div {
    background: ${(p) => p.theme.sheet};
  }
  div:first-of-type,
  div:last-of-type {
    grid-column: 1 / -1;
  }
`;

const Failed = styled.main`
  padding: 2.5rem;
  display: grid;
  align-content: start;
  gap: 1rem;
  max-width: 40rem;
`;

export type Screen = "ladder" | "even" | "find" | "decide" | "hands" | "hand-over" | "about";

/** One job, open on this device: its ladder, the search for what is wrong, or what stands between it and even. */
export default function OpenJob({ job: id, screen }: { job: string; screen: Screen }) {
  const { me } = useSession();
  const go = useNavigate();
  const job = useJob(id, me.id);
  if (job.view) {
    if (screen === "even") return <EvenScreen job={job} view={job.view} />;
    if (screen === "decide") return <DecideScreen job={job} view={job.view} />;
    if (screen === "hands") return <HandsScreen job={job} view={job.view} />;
    if (screen === "hand-over") return <HandOverScreen job={job} view={job.view} />;
    if (screen === "about") return <AboutJob job={job} view={job.view} />;
    if (screen === "find") return <FindScreen job={job} view={job.view} />;
    return <JobScreen job={job} view={job.view} />;
  }
  if (!job.failed) {
    return (
      <Shape aria-busy="true">
        <Heard as="h1">Opening the job</Heard>
        <div />
        <div />
        <div />
        <div />
        <div />
      </Shape>
    );
  }
  return (
    <Failed>
      <h1>This job cannot be opened</h1>
      <Complaint role="alert">{job.failed}</Complaint>
      <Strong onPress={job.again}>Try again</Strong>
      <Plain onPress={() => void go("/")}>Back to all jobs</Plain>
    </Failed>
  );
}
