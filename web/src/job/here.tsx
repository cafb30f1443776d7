import { createContext, useContext, type ReactNode } from "react";
import { withdrawing, type Make, type View } from "../api/client";
import type { JobHere } from "../offline/useJob";

/** Records what a touch makes; false where it was not kept. */
export type Recorder = (makes: Make[]) => Promise<boolean>;

/** The open job with its view. */
export type OpenJob = JobHere & { view: View };

const Here = createContext<OpenJob | undefined>(undefined);
const Recording = createContext<Recorder | undefined>(undefined);

interface JobProviderProps {
  job: OpenJob;
  children: ReactNode;
}

/** One job is open: whatever shows it, or records on it, finds it here. */
export const JobProvider = ({ job, children }: JobProviderProps) => (
  <Here value={job}>
    <Recording value={job.record}>{children}</Recording>
  </Here>
);

/** Within, records go another way first: a screen closes what is open before it records. */
export const Through = ({ record, children }: { record: Recorder; children: ReactNode }) => (
  <Recording value={record}>{children}</Recording>
);

/** The open job. */
export function useJobHere(): OpenJob {
  const job = useContext(Here);
  if (!job) throw new Error("no job is open here");
  return job;
}

/** Records on the open job. */
export function useRecord(): Recorder {
  const record = useContext(Recording);
  if (!record) throw new Error("nothing records here");
  return record;
}

/** Takes back this viewer's last touch; undefined where there is none. */
export function useUndo(): (() => void) | undefined {
  const record = useRecord();
  const { undo } = useJobHere().view;
  return undo ? () => void record(withdrawing(undo.events)) : undefined;
}
