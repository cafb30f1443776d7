import { useCallback, useState, type KeyboardEvent, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { withdrawing, type Make, type View } from "../api/client";
import { Bench } from "../bench/Bench";
import { useDraft } from "../offline/useDraft";
import type { JobHere } from "../offline/useJob";
import { useProving } from "../offline/useProving";
import { Action, Done, useOnce } from "../parts/Buttons";
import { useHold } from "../parts/Hold";
import { band, Heard } from "../parts/text";
import { useCamera } from "../photos/TakePhoto";
import { LyingLadder } from "../today/LyingLadder";
import { Ladder } from "./Ladder";
import { NotAsShown } from "./NotAsShown";
import { stillToRead, withReading } from "./ReadingFields";
import { OwnWork } from "./OwnWork";
import { Release } from "./Release";
import { RungView } from "./RungView";
import { stepOf } from "./step";
import { JobFrame } from "../job/JobFrame";
import { Through } from "../job/here";
import { Screen, Place, Lying, Home, Places, PlaceButton, type PlaceName } from "./jobShapes";
import { Ended } from "./Ended";

const placeNames = { ladder: "Steps", rung: "Now", bench: "Bench" };

/** The steps at which something may be other than shown, or photographed. */
const working = ["out", "back", "work", "test", "survey", "check", "own", "final"];

/** The job: its ladder, the rung that is on, the bench, and the actions below. */
export function JobScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const [shown, setLooked] = useState<string>();
  const setShown = (rung: string | undefined) => {
    if (rung === shown) return;
    setLooked(rung);
    job.look(rung);
  };
  const [other, setOther] = useState<"" | "own">();
  const [wrong, setWrong] = useState("");
  const hold = useHold();
  const [place, setPlace] = useState<PlaceName>("rung");
  const { look } = job;
  const showStep = useCallback(
    (rung: string) => {
      const now = rung === shown ? undefined : rung;
      setLooked(now);
      look(now);
      setPlace("rung");
    },
    [shown, look],
  );
  const step = stepOf(view);
  const [draft, setDraft, clearDraft] = useDraft(view.job, step.key);
  const looked = shown ? view.rungs.find((r) => r.id === shown && !r.current) : undefined;

  const record = async (makes: Make[]) => {
    setShown(undefined);
    setPlace("rung");
    return job.record(makes);
  };
  const photo = useCamera({
    onFailed: setWrong,
    onTaken: (sha256) => {
      setWrong("");
      return record([{ kind: "photo", body: { sha256, on: view.photo_on } }]);
    },
  });
  const undo = useOnce(() => {
    if (view.undo) void record(withdrawing(view.undo.events));
  });

  const { side, which } = step;
  const { proving, ask } = useProving(view, side?.proof?.on, draft);
  const touch = (side?.proof && proving?.done) || (side?.done ?? undefined);
  const open = [...(side?.value ? stillToRead(side, draft) : []), ...(touch?.open ?? [])];
  const done = useOnce(() => {
    if (!touch) return;
    const send = async () => {
      // What is recorded is what was typed last, judged by the core.
      const judged = (side?.proof && (await ask())?.done) || touch;
      const lacks = [...(side?.value ? stillToRead(side, draft) : []), ...judged.open];
      if (lacks.length > 0) {
        if (judged.half.length > 0) await record(judged.half);
        return;
      }
      const makes = side?.value ? judged.makes.map((m) => withReading(m, side, draft)) : judged.makes;
      if (await record(makes)) clearDraft(draft);
    };
    void send();
  });
  const failed = useOnce(() => side?.failed && void record(side.failed.makes));

  const onKey = (event: KeyboardEvent) => {
    const act = { " ": done, PageDown: done, z: undo, n: () => setOther(""), p: () => photo.open() }[
      event.key
    ];
    const letter = /^[a-z]$/.test(event.key);
    if (!act || event.repeat || event.ctrlKey || event.metaKey || event.altKey || (letter && !hold.letters))
      return;
    event.preventDefault();
    act();
  };

  let middle: ReactNode;
  if (looked) {
    const lookSide =
      looked.back === "due" || looked.back === "half" || looked.out === "none"
        ? looked.back_side
        : looked.out_side;
    middle = (
      <div style={{ display: "contents" }}>
        {lookSide && (
          <RungView
            side={{ ...lookSide, title: `Looking at: ${lookSide.title}` }}
            which={lookSide === looked.back_side ? "back" : "out"}
            looking
            kept={looked.kept}
            draft={{}}
            onDraft={() => undefined}
            step={looked.id}
          />
        )}
      </div>
    );
  } else if (view.current.kind === "own" && side) {
    middle = <OwnWork view={view} side={side} onOwn={() => setOther("own")} />;
  } else if (side) {
    middle = (
      <RungView
        key={step.key}
        side={side}
        which={which}
        draft={draft}
        onDraft={setDraft}
        asks={proving?.proof}
        shows={proving?.off ? "" : proving?.why}
        onKey={onKey}
        step={`${step.key} ${view.undo?.events[0] ?? ""}`}
      />
    );
  } else {
    middle = <Ended view={view} />;
  }

  return (
    <Through record={record}>
      <JobFrame
        name="Steps"
        shape={Screen}
        wrong={wrong}
        foot={
          <Places aria-label="Places">
            {(["ladder", "rung", "bench"] as const).map((name) => (
              <PlaceButton
                key={name}
                $on={place === name}
                aria-pressed={place === name}
                onPress={() => setPlace(name)}
              >
                {placeNames[name]}
              </PlaceButton>
            ))}
            <PlaceButton $on={false} onPress={() => void go(`/jobs/${view.job}/even`)}>
              Even
            </PlaceButton>
          </Places>
        }
        actions={
          <>
            {view.undo && <Action label="Undo" says={view.undo.say} letter="Z" onPress={undo} />}
            {looked ? (
              <Done
                side="even"
                label="Back to the current step"
                says={side?.title ?? ""}
                onPress={() => setShown(undefined)}
                letter=""
              />
            ) : (
              <>
                {working.includes(view.current.kind) && (
                  <>
                    <Action label="Different here" letter="N" onPress={() => setOther("")} />
                    <Action label={photo.busy ? "Keeping …" : "Photo"} letter="P" onPress={photo.open} />
                  </>
                )}
                {side?.failed && (
                  <Action label={side.failed.label} says={side.failed.says} onPress={failed} />
                )}
                {touch && (
                  <Done
                    side={["work", "survey", "test", "own"].includes(view.current.kind) ? "even" : which}
                    label={touch.label}
                    says={touch.says}
                    open={open}
                    whole={touch.half.length === 0}
                    onPress={done}
                  />
                )}
                {view.current.kind === "stopped" && <Release />}
              </>
            )}
          </>
        }
      >
        <Lying aria-label="Job">
          <LyingLadder marks={view.rungs} whole />
          <span>
            <Home to="/">
              {view.title}
              <Heard>. Back to all jobs</Heard>
            </Home>
            {band(view.foot.p50, view.foot.p80)
              ? `${band(view.foot.p50, view.foot.p80)} to go`
              : view.headline}
          </span>
        </Lying>
        {place !== "rung" && (
          <Heard as="main">
            <h1>
              {view.title}, {placeNames[place]}
            </h1>
          </Heard>
        )}
        <Place $name="ladder" $on={place}>
          <Ladder view={view} shown={looked?.id} onShow={showStep} />
        </Place>
        <Place $name="rung" $on={place}>
          {middle}
        </Place>
        <Place $name="bench" $on={place}>
          <Bench view={view} />
        </Place>
        {photo.input}
        {other !== undefined && (
          <NotAsShown view={view} side={side} open first={other} onClose={() => setOther(undefined)} />
        )}
      </JobFrame>
    </Through>
  );
}
