import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import { withdrawing, type Make, type View } from "../api/client";
import { useDraft } from "../offline/useDraft";
import type { JobHere } from "../offline/useJob";
import { useProving } from "../offline/useProving";
import { Action, Done, useOnce } from "../parts/Buttons";
import { useHold } from "../parts/Hold";
import { Complaint } from "../parts/Sheets";
import { clock, Line } from "../parts/text";
import { Cabinet } from "../ladder/Cabinet";
import { nouns } from "../ladder/Counter";
import { Answers, fieldOf } from "../ladder/ProofSteps";
import { stepOf } from "../ladder/step";
import { BigCount, Card } from "./BigCount";
import { stepsOf, toCount } from "./lines";
import { canSpeak, speak, useAwake } from "./senses";
import { JobFrame } from "../job/JobFrame";
import { Screen, Top, Main, Big, Bite, Typed } from "./handsShapes";
import { Figure } from "../parts/Figure";

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
                <Figure
                  key={now.proof.key}
                  id={fieldOf(now.proof.key)}
                  label={now.proof.label}
                  note={now.proof.note}
                  unit={now.proof.unit}
                  decimal={now.proof.unit !== ""}
                  most={40}
                  first
                  value={draft[now.proof.key] ?? ""}
                  onChange={(v) => setDraft({ ...draft, [now.proof?.key ?? ""]: v })}
                  onEnter={next}
                />
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
