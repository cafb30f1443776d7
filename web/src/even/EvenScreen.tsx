import { useState } from "react";
import { useNavigate } from "react-router";
import { withdrawing, type View } from "../api/client";
import { JobFrame } from "../job/JobFrame";
import { db } from "../offline/db";
import type { JobHere } from "../offline/useJob";
import { Action, Done, Plain, Strong, useOnce } from "../parts/Buttons";
import { EvenMark } from "../parts/Marks";
import { Dialogue } from "../parts/Sheets";
import { save } from "../parts/save";
import { clock } from "../parts/text";
import { SnagRow } from "./SnagRow";
import { SheetPaper } from "./SheetPaper";
import { Screen, Left, Head, Whole, Row, Group } from "./evenShapes";
import { LyingLadder } from "../today/LyingLadder";

/** What stands between the job and even, the touches that settle it, the sheet, and signing off. */
export function EvenScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const [short, setShort] = useState(false);
  const toLadder = () => void go(`/jobs/${view.job}`);
  const ready = view.sign_off.open.length === 0;
  const sign = useOnce(() => {
    if (ready) void job.record(view.sign_off.makes);
    else setShort(true);
  });
  // What a touch settles stands here, also while it is merely still to come.
  const irregular = view.snags.filter((s) => !s.explained && (!s.regular || s.touches.length > 0));
  const explained = view.snags.filter((s) => s.explained);
  const regular = view.between.filter((b) => !irregular.some((s) => s.id === b.snag));
  const undoSigning = view.undo && view.signed ? view.undo : undefined;
  const undo = useOnce(() => undoSigning && void job.record(withdrawing(undoSigning.events)));

  return (
    <JobFrame
      name="Even"
      shape={Screen}
      actions={
        <>
          <Action label="Steps" says="back to the job" onPress={toLadder} />
          <Action label="Print sheet" says="A4 or Letter" onPress={() => window.print()} />
          <Action
            label="Save sheet"
            says="Markdown"
            onPress={() => save(`${view.job}.md`, "text/markdown", view.sheet.markdown)}
          />
          {view.differences.length > 0 && (
            <Action
              label="Save map"
              says="as found, YAML"
              onPress={() => window.open(`/api/jobs/${view.job}/map`, "_self")}
            />
          )}
          <Action label="Save record" says="JSON Lines" onPress={() => void saveRecord(view.job)} />
          {undoSigning && <Action label="Undo" says={undoSigning.say} onPress={undo} />}
          {!view.signed && (
            <Done
              side="even"
              label={view.sign_off.label}
              says={view.sign_off.says}
              notYet={!ready}
              letter=""
              onPress={sign}
            />
          )}
        </>
      }
    >
      <Left>
        <Head>
          <EvenMark />
          <div>
            <h1>{view.headline}</h1>
            <p>
              {view.standing}
              {view.signed && ` · ${view.signed.by}, ${clock(view.signed.at)}`}
            </p>
          </div>
        </Head>
        <Whole>
          <LyingLadder marks={view.rungs} whole />
        </Whole>
        {job.held.length > 0 && <Group>Kept on this device, not taken by the server</Group>}
        {job.held.map((h) => (
          <Row key={h.id} $tone="stop">
            <div>
              <h2>{h.says}</h2>
              <p>{h.problem} It counts for nobody yet. Record it otherwise, or send it again.</p>
            </div>
            <Plain onPress={job.retry}>Send again</Plain>
          </Row>
        ))}
        {irregular.length > 0 && <Group>To settle</Group>}
        {irregular.map((s) => (
          <SnagRow key={s.id} snag={s} />
        ))}
        {regular.length > 0 && <Group>Still to come</Group>}
        {regular.map((b, i) => (
          <Row key={i} $tone="regular">
            <div>
              <h2>{b.what}</h2>
              <p>{b.say}</p>
            </div>
            <Plain onPress={toLadder}>Go on</Plain>
          </Row>
        ))}
        {explained.length > 0 && <Group>Explained</Group>}
        {explained.map((s) => (
          <Row key={s.id} $tone="explained">
            <div>
              <h2>{s.say}</h2>
              <p>
                {s.explained?.text} ({s.explained?.by})
              </p>
            </div>
          </Row>
        ))}
        {view.taken_back.length > 0 && <Group>Others’ records taken back</Group>}
        {view.taken_back.map((r) => (
          <Row key={r.at + r.text} $tone="regular">
            <div>
              <h2>{r.text}</h2>
              <p>
                taken back by {r.by}, {clock(r.at)}
              </p>
            </div>
          </Row>
        ))}
      </Left>
      <SheetPaper sheet={view.sheet} />
      <Dialogue title={view.headline} open={short} onClose={() => setShort(false)}>
        <ul>
          {view.sign_off.open.map((o) => (
            <li key={o}>{o}</li>
          ))}
        </ul>
        <Strong onPress={toLadder}>Go on with the steps</Strong>
        <Plain onPress={() => setShort(false)}>Stay here</Plain>
      </Dialogue>
    </JobFrame>
  );
}

/** The record as it is kept on this device: one event a line, in the order of recording. */
async function saveRecord(job: string) {
  const kept = await db.events.where({ job }).toArray();
  const events = kept
    .map((k) => k.event)
    .sort((a, b) => (a.num ?? Infinity) - (b.num ?? Infinity) || a.n - b.n);
  save(`${job}.jsonl`, "application/jsonl", events.map((e) => JSON.stringify(e) + "\n").join(""));
}
