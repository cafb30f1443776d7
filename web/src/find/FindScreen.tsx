import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { withdrawing, type Make, type Proposal, type View } from "../api/client";
import { stillToRead, withReading, type ReadingDraft } from "../ladder/ReadingFields";
import { JobFrame } from "../job/JobFrame";
import type { JobHere } from "../offline/useJob";
import { Through } from "../job/here";
import { useAsk } from "../offline/useAsk";
import { Action, Done, Strong, useOnce } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Suspects } from "./Suspects";
import { Screen, Main, Aside } from "./findShapes";
import { Advice } from "./Advice";
import { Others, Results } from "./Others";

/** What is wrong: one test with its reason, its outcomes, the suspects and how a result moved them. */
export function FindScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const { got: find, failed } = useAsk("find", view, undefined);
  const heading = useRef<HTMLHeadingElement>(null);
  const [draft, setDraft] = useState<ReadingDraft>({});
  const [looked, setLooked] = useState<string>();
  const others = find?.others ?? [];
  const advice = others.find((p) => p.title === looked) ?? find?.advice ?? undefined;
  const rest = [find?.advice, ...others].filter((p) => p && p !== advice) as Proposal[];
  const title = advice?.title ?? "";
  useEffect(() => heading.current?.focus({ preventScroll: true }), [title]);

  const record = async (makes: Make[]) => {
    setDraft({});
    setLooked(undefined);
    return job.record(makes);
  };
  const accept = (p: Proposal) => {
    if (!p.accept) return;
    void record(p.accept.makes).then((done) => {
      if (done) void go(`/jobs/${view.job}`);
    });
  };
  const undo = useOnce(() => {
    if (view.undo) void record(withdrawing(view.undo.events));
  });
  const task = advice?.task ?? undefined;
  const keep = useOnce(() => {
    const make = task?.done?.makes[0];
    if (!task || !make || stillToRead(task, draft).length > 0) return;
    void record([withReading(make, task, draft)]);
  });

  return (
    <Through record={record}>
      <JobFrame
        name="Find the fault"
        shape={Screen}
        actions={
          <>
            {view.undo && <Action label="Undo" says={view.undo.say} onPress={undo} />}
            <Action label="Steps" says="the job" onPress={() => void go(`/jobs/${view.job}`)} />
            {advice && (
              <Action
                label="Decide"
                says="what to fit, what it takes"
                onPress={() => void go(`/jobs/${view.job}/decide`)}
              />
            )}
            {advice?.not_done && (
              <Action
                label="Cannot"
                says="another test"
                onPress={() => {
                  if (advice.not_done) void record([advice.not_done]);
                }}
              />
            )}
            {advice?.nothing && (
              <Action
                label={advice.nothing.label}
                says={advice.nothing.says}
                onPress={() => {
                  if (advice.nothing) void record(advice.nothing.makes);
                }}
              />
            )}
            {advice?.accept && (
              <Done
                side="even"
                label={advice.accept.label}
                says={advice.accept.says}
                letter=""
                onPress={() => accept(advice)}
              />
            )}
            {task?.value && (
              <Done
                side="even"
                label="Save the reading"
                says={draft["value"]?.trim() || "as the meter shows it"}
                open={stillToRead(task, draft)}
                whole
                letter=""
                onPress={keep}
              />
            )}
            {!advice && find && (
              <Strong onPress={() => void go(`/jobs/${view.job}`)}>Back to the steps</Strong>
            )}
          </>
        }
      >
        <Main>
          {failed && <Complaint role="alert">{failed}</Complaint>}
          {!find && !failed && <h1>Working it out …</h1>}
          {find && !advice && (
            <>
              <h1>What is wrong?</h1>
              <p>{find.say}</p>
            </>
          )}
          {advice && find && (
            <Advice
              find={find}
              advice={advice}
              instead={looked !== undefined}
              heading={heading}
              draft={draft}
              onDraft={setDraft}
              onKeep={keep}
            />
          )}
        </Main>
        <Aside aria-label="Suspects and results" tabIndex={0}>
          {find && <Suspects find={find} />}
          <Others rest={rest} onLook={setLooked} />
          {find && <Results find={find} />}
        </Aside>
      </JobFrame>
    </Through>
  );
}
