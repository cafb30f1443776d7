import { useNavigate } from "react-router";
import styled from "styled-components";
import { DecideScreen } from "../decide/DecideScreen";
import { EvenScreen } from "../even/EvenScreen";
import { FindScreen } from "../find/FindScreen";
import { HandOverScreen } from "../handover/HandOverScreen";
import { HandsScreen } from "../hands/HandsScreen";
import { JobProvider } from "../job/here";
import { roomWarning, useRoom } from "../offline/room";
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

/** The screens of one job, by what stands after its address; the steps where nothing does. */
const screens = {
  ladder: JobScreen,
  even: EvenScreen,
  find: FindScreen,
  decide: DecideScreen,
  hands: HandsScreen,
  "hand-over": HandOverScreen,
  about: AboutJob,
};
export type Screen = keyof typeof screens;

/** One job, open on this device: its ladder, the search for what is wrong, or what stands between it and even. */
export default function OpenJob({ job: id, rest }: { job: string; rest: string }) {
  const screen = rest in screens ? (rest as Screen) : "ladder";
  const { me } = useSession();
  const go = useNavigate();
  const job = useJob(id, me.id);
  const warning = roomWarning(useRoom());
  if (job.view) {
    const open = { ...job, view: job.view };
    const Shown = screens[screen];
    return (
      <JobProvider job={open}>
        <Shown job={open} view={open.view} />
      </JobProvider>
    );
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
      <Complaint role="alert">{warning ?? job.failed}</Complaint>
      <Strong onPress={job.again}>Try again</Strong>
      <Plain onPress={() => void go("/")}>Back to all jobs</Plain>
    </Failed>
  );
}
