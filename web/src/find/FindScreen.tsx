import { Fragment, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { withdrawing, type Make, type Proposal, type View } from "../api/client";
import { LineView } from "../ladder/LineView";
import { ReadingFields, stillToRead, withReading, type ReadingDraft } from "../ladder/ReadingFields";
import { JobFrame } from "../job/JobFrame";
import type { JobHere } from "../offline/useJob";
import { Through } from "../job/here";
import { useAsk } from "../offline/useAsk";
import { Action, Done, Plain, Strong, useOnce } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Line } from "../parts/text";
import { low, phone, upright } from "../parts/theme";
import { Circuit } from "./Circuit";
import { Suspects } from "./Suspects";

const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 25rem;
  ${upright} {
    grid-template-columns: minmax(0, 1fr) 18.75rem;
  }
  ${phone} {
    grid-template: auto auto auto auto / minmax(0, 1fr);
    height: auto;
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

const Main = styled.main`
  padding: 0.875rem 1.625rem;
  overflow-y: auto;
  display: grid;
  align-content: start;
  gap: 0.75rem;
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.1;
  }
  ${phone} {
    padding: 0.75rem 0.875rem;
  }
`;

const Head = styled.p`
  b {
    margin-right: 0.75rem;
  }
  color: ${(p) => p.theme.inkQuiet};
`;

const Steps = styled.ol`
  li {
    padding: 0.4375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.rung};
    line-height: 1.22;
  }
`;

const Outcomes = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12.5rem, 1fr));
  gap: 0.75rem;
  button {
    min-height: 5.25rem;
    text-align: left;
  }
`;

const Aside = styled.aside`
  padding: 0.625rem 1.125rem 0.875rem;
  overflow-y: auto;
  background: ${(p) => p.theme.well};
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  display: grid;
  align-content: start;
  gap: 0.5rem;
  h2 {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Rows = styled.ul`
  background: ${(p) => p.theme.sheet};
  li {
    display: flex;
    gap: 0.625rem;
    align-items: center;
    justify-content: space-between;
    padding: 0.375rem 0.75rem;
    min-height: 2.75rem;
    font-size: ${(p) => p.theme.glance};
    line-height: 1.25;
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
  }
  button {
    flex: none;
    white-space: nowrap;
  }
`;

const Shown = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12.5rem, 1fr));
  gap: 0.75rem;
  li {
    padding: 0.75rem 0.875rem;
    background: ${(p) => p.theme.sheet};
    border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
    font-size: ${(p) => p.theme.glance};
  }
  b {
    display: block;
    font-size: 1.25rem;
  }
`;

const Takes = styled.dl`
  display: grid;
  grid-template-columns: 11.25rem minmax(0, 1fr);
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.work};
  dt,
  dd {
    padding: 0.5625rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  dt {
    font-weight: 700;
  }
`;

const minutes = (m: number) => `${m < 9.5 ? Math.round(m * 2) / 2 : Math.round(m)} min`;

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
          {advice && (
            <>
              <Head>
                <b>{advice.test ? (looked ? "Instead" : "Next test") : "Repair now"}</b>
                {minutes(advice.minutes)}
                {advice.test
                  ? advice.ready
                    ? ", nothing more to open"
                    : `, ${advice.access.length} ${advice.access.length === 1 ? "step" : "steps"} to open`
                  : ", including the final test"}
              </Head>
              <h1 ref={heading} tabIndex={-1}>
                {advice.title}
              </h1>
              <p>{advice.why}</p>
              {find?.contradiction && <Complaint role="alert">Unexpected result. Repeat the test.</Complaint>}
              {task?.ticket && <Complaint role="alert">{task.ticket}</Complaint>}
              {task && task.do.length > 0 && (
                <Steps>
                  {task.do.map((line, i) => (
                    <li key={i}>
                      <Line text={line} />
                    </li>
                  ))}
                </Steps>
              )}
              {task?.value && (
                <ReadingFields side={task} id="find-value" draft={draft} onDraft={setDraft} onEnter={keep} />
              )}
              {task && task.choices.length > 0 && (
                <Outcomes>
                  {task.choices.map((c) => (
                    <Plain key={c.label} onPress={() => void record(c.makes)}>
                      {c.label}
                    </Plain>
                  ))}
                </Outcomes>
              )}
              {task?.lines.map((line) => (
                <LineView key={line.line} line={line} />
              ))}
              {task?.said && <p>{task.said}</p>}
              {advice.first && <Complaint role="note">{advice.first}</Complaint>}
              {advice.shows.length > 0 && !(task && task.choices.length > 0) && (
                <Shown aria-label="What it can show">
                  {advice.shows.map((o) => (
                    <li key={o.say}>
                      <b>{o.say}</b>
                      {o.about}: then {o.then}
                    </li>
                  ))}
                </Shown>
              )}
              {advice.test && find?.lines.map((line) => <Circuit key={line.name} line={line} />)}
              {advice.takes.length > 0 && (
                <Takes>
                  {advice.takes.map((t) => (
                    <Fragment key={t.what}>
                      <dt>{t.what}</dt>
                      <dd>{t.say}</dd>
                    </Fragment>
                  ))}
                </Takes>
              )}
              {!task && advice.access.length > 0 && (
                <Steps aria-label="To open first">
                  {advice.access.map((name) => (
                    <li key={name}>{name}</li>
                  ))}
                </Steps>
              )}
            </>
          )}
        </Main>
        <Aside aria-label="Suspects and results" tabIndex={0}>
          {find && <Suspects find={find} />}
          {rest.length > 0 && (
            <>
              <h2>Other tests</h2>
              <Rows>
                {rest.slice(0, 5).map((p) => (
                  <li key={p.title}>
                    <span>
                      {p.title}
                      <small>
                        {p.test
                          ? p.gain >= 0.1
                            ? `worth about ${minutes(p.gain)} in all`
                            : "costs more than it saves"
                          : minutes(p.minutes)}
                      </small>
                    </span>
                    <Plain onPress={() => setLooked(p.title)} aria-label={`Look at: ${p.title}`}>
                      Look
                    </Plain>
                  </li>
                ))}
              </Rows>
            </>
          )}
          {find && find.results.length > 0 && (
            <>
              <h2>Results</h2>
              <Rows>
                {find.results.map((r) => (
                  <li key={r.event}>
                    <span>
                      {r.title}
                      <small>{r.say}</small>
                    </span>
                    <Plain
                      onPress={() => void record(withdrawing([r.event]))}
                      aria-label={`Take back: ${r.title}`}
                    >
                      Take back
                    </Plain>
                  </li>
                ))}
              </Rows>
            </>
          )}
        </Aside>
      </JobFrame>
    </Through>
  );
}
