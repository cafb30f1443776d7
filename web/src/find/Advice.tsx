import { Fragment, type RefObject } from "react";
import type { Find, Proposal } from "../api/client";
import { useRecord } from "../job/here";
import { LineView } from "../ladder/LineView";
import { ReadingFields, type ReadingDraft } from "../ladder/ReadingFields";
import { Plain } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Line } from "../parts/text";
import { Circuit } from "./Circuit";
import { Head, Outcomes, Shown, Steps, Takes } from "./findShapes";
import { minutes } from "./minutes";

interface AdviceProps {
  find: Find;
  advice: Proposal;
  /** It was chosen instead of what is advised. */
  instead: boolean;
  heading: RefObject<HTMLHeadingElement | null>;
  draft: ReadingDraft;
  onDraft: (draft: ReadingDraft) => void;
  onKeep: () => void;
}

/** One test, or the repair: why, what to do, what it can show, what it takes. */
export function Advice({ find, advice, instead, heading, draft, onDraft, onKeep }: AdviceProps) {
  const record = useRecord();
  const task = advice.task ?? undefined;
  return (
    <>
      <Head>
        <b>{advice.test ? (instead ? "Instead" : "Next test") : "Repair now"}</b>
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
      {find.contradiction && <Complaint role="alert">Unexpected result. Repeat the test.</Complaint>}
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
        <ReadingFields side={task} id="find-value" draft={draft} onDraft={onDraft} onEnter={onKeep} />
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
      {advice.test && find.lines.map((line) => <Circuit key={line.name} line={line} />)}
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
  );
}
