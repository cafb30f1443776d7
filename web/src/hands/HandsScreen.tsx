import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { withdrawing, type Make, type View } from "../api/client";
import { useDraft } from "../offline/useDraft";
import type { JobHere } from "../offline/useJob";
import { useProving } from "../offline/useProving";
import { Action, Done, useOnce } from "../parts/Buttons";
import { useHold } from "../parts/Hold";
import { Complaint } from "../parts/Sheets";
import { clock, Line } from "../parts/text";
import { low, phone } from "../parts/theme";
import { typedIn } from "../parts/typedIn";
import { Cabinet } from "../ladder/Cabinet";
import { nouns } from "../ladder/Counter";
import { Answers, fieldOf } from "../ladder/ProofSteps";
import { stepOf } from "../ladder/step";
import { BigCount, Card } from "./BigCount";
import { stepsOf, toCount } from "./lines";
import { canSpeak, speak, useAwake } from "./senses";
import { JobFrame } from "../job/JobFrame";

const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

const Top = styled.section`
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.875rem;
  padding: 0.5rem 2.5rem;
  background: ${(p) => p.theme.sheet};
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  font-size: 1.375rem;
  ${phone} {
    padding: 0.375rem 0.875rem;
    font-size: 1.125rem;
  }
`;

const Main = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 20.625rem;
  gap: 1.875rem;
  padding: 1.375rem 2.75rem;
  overflow-y: auto;
  align-content: start;
  h1 {
    font-size: 3.625rem;
    line-height: 1.05;
  }
  ${phone} {
    display: block;
    padding: 0.75rem 0.875rem;
    h1 {
      font-size: 2.5rem;
    }
  }
`;

const Big = styled.p`
  margin-top: 1.125rem;
  font-size: 2.875rem;
  line-height: 1.2;
  ${phone} {
    font-size: 2.5rem;
  }
`;

const Bite = styled.p`
  margin-top: 0.875rem;
  padding: 0.625rem 1.125rem;
  background: ${(p) => p.theme.cautionOn};
  border: 0.125rem solid ${(p) => p.theme.caution};
  color: ${(p) => p.theme.caution};
  font-size: 1.875rem;
  font-weight: 700;
  line-height: 1.2;
`;

/** What is written down at a line, as large as the line. */
const Typed = styled.div`
  margin-top: 1.125rem;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.75rem 1.25rem;
  font-size: 1.875rem;
  ${typedIn}
  input {
    width: 16.25rem;
    min-height: 5.25rem;
    font: 600 2.75rem/1 ${(p) => p.theme.mono};
    text-align: right;
  }
  fieldset {
    flex: 1;
    display: grid;
    gap: 0.75rem;
    border: 0;
    padding: 0;
  }
  legend {
    position: absolute;
    clip-path: inset(50%);
  }
  button {
    min-height: 5.75rem;
    font-size: 2.125rem;
  }
  button[aria-pressed="true"] {
    background: ${(p) => p.theme.strong};
    color: ${(p) => p.theme.doneText};
  }
`;

/** One rung on the whole screen, line by line, for hands that are full: keys, a pedal, the rung read aloud. */
export function HandsScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const heading = useRef<HTMLHeadingElement>(null);
  const { letters } = useHold();
  const { side, which, key } = stepOf(view);
  const [at, setAt] = useState({ key, line: 0 });
  const asked = at.key === key ? at.line : 0;
  const [draft, setDraft, clearDraft] = useDraft(view.job, key);
  const { proving, ask } = useProving(view, side?.proof?.on, draft);
  const steps = stepsOf(side, side?.proof ? (proving?.proof ?? side.proof).steps : []);
  // What was ticked leaves the list: past its end nothing is left but Done.
  const line = Math.min(asked, steps.length);
  const now = steps[line];
  useAwake();
  useEffect(() => {
    heading.current?.focus({ preventScroll: true });
  }, [key, line, view.undo?.events]);

  const record = (makes: Make[]) => void job.record(makes);
  const touch = (side?.proof && proving?.done) || (side?.done ?? undefined);
  // What needs a choice or a look is done on the ladder's own screen.
  const there = !touch || !!side?.value || view.current.kind === "work";
  const open = touch?.open ?? [];
  const finish = async () => {
    const judged = (side?.proof && (await ask())?.done) || touch;
    if (!judged) return;
    const makes = judged.open.length > 0 ? judged.half : judged.makes;
    if (makes.length > 0 && (await job.record(makes)) && judged.open.length === 0) clearDraft(draft);
  };
  const last = line >= steps.length - 1;
  const lot = toCount(side);
  const next = useOnce(() => {
    if (now?.make) record([now.make]);
    else if (!last) setAt({ key, line: line + 1 });
    else if (there) void go(`/jobs/${view.job}`);
    else void finish();
  });
  const failed = useOnce(() => side?.failed && record(side.failed.makes));
  const back = () => setAt({ key, line: Math.max(0, line - 1) });
  const undo = useOnce(() => view.undo && record(withdrawing(view.undo.events)));
  const say = () => speak([side?.title, ...(side?.hazards ?? []), now?.say].filter(Boolean).join(". "));
  const onKey = (event: KeyboardEvent) => {
    const act = { " ": next, PageDown: next, ArrowUp: back, PageUp: back, z: undo, r: say, f: failed }[
      event.key
    ];
    if (!act || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    if (/^[a-z]$/.test(event.key) && !letters) return;
    event.preventDefault();
    act();
  };
  const worst = view.energies.find((e) => e.energy === view.worst);
  return (
    <JobFrame
      name="Hands busy"
      shape={Screen}
      actions={
        <>
          {view.undo && <Action label="Undo" says={view.undo.say} letter="Z" onPress={undo} />}
          {canSpeak() && side && <Action label="Say it" says="reads aloud" letter="R" onPress={say} />}
          {line > 0 && <Action label="Back one" says={`line ${line}`} letter="↑" onPress={back} />}
          {side?.failed && last && (
            <Action label={side.failed.label} says={side.failed.says} letter="F" onPress={failed} />
          )}
          <Action label="Steps" says="the whole step" onPress={() => void go(`/jobs/${view.job}`)} />
          <Done
            side={view.current.kind === "work" ? "even" : which}
            label={
              now?.make ? "It is so" : !last ? "Next line" : there ? "To the steps" : (touch?.label ?? "")
            }
            says={
              now?.make
                ? "one touch, one record"
                : !last
                  ? "Space, Page Down or the pedal"
                  : there
                    ? "it asks for more than a touch"
                    : (touch?.says ?? "")
            }
            open={last && !there && !now?.make ? open : []}
            whole={touch?.half.length === 0}
            onPress={next}
          />
        </>
      }
    >
      <Top aria-label="Where you stand">
        <b>{side?.stand ?? view.headline}</b>
        {steps.length > 0 && (
          <span>
            line {Math.min(line + 1, steps.length)} of {steps.length}
          </span>
        )}
        {worst && (
          <span>
            {worst.name} {worst.say}
            {worst.at && `, ${clock(worst.at)}`}
          </span>
        )}
      </Top>
      <Main>
        <div>
          <h1 ref={heading} tabIndex={-1} onKeyDown={onKey} style={{ outline: "none" }}>
            {side?.title ?? view.headline}
          </h1>
          {side?.ticket && <Complaint role="alert">{side.ticket}</Complaint>}
          {side?.hazards.map((h) => (
            <Bite key={h}>{h}</Bite>
          ))}
          {now && (
            <Big>
              <Line text={now.say} />
            </Big>
          )}
          {now?.proof && (
            <Typed>
              {now.proof.answers.length > 0 ? (
                <Answers
                  step={now.proof}
                  value={draft[now.proof.key] ?? ""}
                  onChange={(v) => setDraft({ ...draft, [now.proof?.key ?? ""]: v })}
                />
              ) : (
                <>
                  <label htmlFor={fieldOf(now.proof.key)}>
                    {now.proof.label}
                    {now.proof.note && `, ${now.proof.note}`}
                  </label>
                  <input
                    key={now.proof.key}
                    id={fieldOf(now.proof.key)}
                    autoFocus
                    autoComplete="off"
                    maxLength={40}
                    value={draft[now.proof.key] ?? ""}
                    onChange={(e) => setDraft({ ...draft, [now.proof?.key ?? ""]: e.target.value })}
                    onKeyDown={(e) => {
                      if (e.key === "Enter" || e.key === "PageDown") next();
                    }}
                  />
                  {now.proof.unit}
                </>
              )}
            </Typed>
          )}
          {proving?.why && last && <Big>{proving.why}</Big>}
          {!side && <Big>{view.standing}</Big>}
          {last && !now?.make && open.length > 0 && <Big>Still to look at: {open.join(", ")}</Big>}
          {side && <Cabinet picture={side.picture} wide />}
        </div>
        <aside>
          {side?.lots
            .filter((l) => l !== lot)
            .map((l) => (
              <Card key={l.lot}>
                <b>{l.tray || "–"}</b>
                {l.counted ?? l.count} {nouns(l)}, {l.kind}
              </Card>
            ))}
          {lot && <BigCount key={`${lot.lot}-${lot.side}`} lot={lot} home={which === "back"} />}
        </aside>
      </Main>
    </JobFrame>
  );
}
