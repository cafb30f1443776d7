import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { withdrawing, type Make, type Snag, type View } from "../api/client";
import { JobFrame } from "../job/JobFrame";
import { db } from "../offline/db";
import type { JobHere } from "../offline/useJob";
import { Text } from "../parts/Fields";
import { Action, Done, Plain, Strong, useOnce } from "../parts/Buttons";
import { EvenMark } from "../parts/Marks";
import { Dialogue } from "../parts/Sheets";
import { save } from "../parts/save";
import { clock } from "../parts/text";
import { low, phone, upright } from "../parts/theme";
import { LineView } from "../ladder/LineView";
import { LyingLadder } from "../today/LyingLadder";
import { SheetPaper } from "./SheetPaper";
import { useRecord } from "../job/here";

const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 26.875rem;
  ${upright} {
    grid-template: auto minmax(0, 1fr) minmax(0, 0.8fr) auto / minmax(0, 1fr);
  }
  ${phone} {
    height: auto;
    min-height: 100dvh;
    grid-template: auto auto auto auto / minmax(0, 1fr);
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

const Left = styled.main`
  overflow-y: auto;
  padding: 1rem 1.75rem;
  ${phone} {
    padding: 0.625rem 0.75rem;
  }
  display: flex;
  flex-direction: column;
  gap: 0.625rem;
  > * {
    flex: none;
  }
`;

const Head = styled.section`
  display: flex;
  gap: 1.875rem;
  align-items: center;
  padding: 0.875rem 1.625rem;
  ${phone} {
    gap: 0.875rem;
    padding: 0.625rem 0.75rem;
    h1 {
      font-size: 1.5rem;
    }
  }
  background: ${(p) => p.theme.sheet};
  border: 0.125rem solid ${(p) => p.theme.ink};
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.15;
  }
  p {
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Whole = styled.section`
  padding: 0.625rem 1.375rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  svg {
    display: block;
    width: 100%;
    max-height: 10rem;
  }
`;

const Row = styled.article<{ $tone: "open" | "explained" | "stop" | "regular" }>`
  display: flex;
  flex-wrap: wrap;
  gap: 0.625rem;
  align-items: center;
  padding: 0.5rem 0.75rem 0.5rem 0.875rem;
  min-height: 4.625rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  border-left: 0.4375rem solid
    ${(p) => ({ open: p.theme.out, regular: p.theme.ruleStrong, explained: p.theme.back, stop: p.theme.stop })[p.$tone]};
  > div {
    flex: 1 1 16.25rem;
    min-width: 0;
  }
  h2 {
    font-size: 1.25rem;
    line-height: 1.25;
  }
  p {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Group = styled.h2`
  margin-top: 0.25rem;
  font-size: ${(p) => p.theme.glance};
  color: ${(p) => p.theme.inkQuiet};
`;

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
          <Action label="Print" says="the sheet" onPress={() => window.print()} />
          <Action
            label="Save"
            says="sheet, Markdown"
            onPress={() => save(`${view.job}.md`, "text/markdown", view.sheet.markdown)}
          />
          {view.differences.length > 0 && (
            <Action
              label="Save"
              says="map as found, YAML"
              onPress={() => window.open(`/api/jobs/${view.job}/map`, "_self")}
            />
          )}
          <Action label="Save" says="record, JSON Lines" onPress={() => void saveRecord(view.job)} />
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

/** One thing short of even, with the touches that settle it. */
function SnagRow({ snag }: { snag: Snag }) {
  const record = useRecord();
  const [asking, setAsking] = useState<"explain" | "inspect">();
  const [text, setText] = useState("");
  const inspect = snag.grade === "stop" && snag.kind !== "stopped";
  return (
    <Row $tone={snag.grade === "stop" ? "stop" : "open"}>
      <div>
        <h2>{snag.say}</h2>
        <p>{snag.do}</p>
      </div>
      {snag.line && <LineView line={snag.line} />}
      {snag.touches.map((t) => (
        <Plain key={t.label} onPress={() => void record(t.makes)}>
          {t.label}
        </Plain>
      ))}
      {snag.explain && <Plain onPress={() => setAsking("explain")}>Explain</Plain>}
      {inspect && <Plain onPress={() => setAsking("inspect")}>Inspected</Plain>}
      <Dialogue title={snag.say} open={asking !== undefined} onClose={() => setAsking(undefined)}>
        <Text
          label={`{asking === "inspect"
            ? "What did you find? (not by the person who raised it)"
            : "Why is it so? It is printed on the sheet."}`}
          value={text}
          onChange={setText}
          most={2000}
          lines={3}
          first
        />
        <Strong
          isDisabled={!text.trim()}
          onPress={() => {
            const make: Make =
              asking === "inspect"
                ? { kind: "inspected", body: { snag: snag.id, finding: text } }
                : { kind: "snag.explained", body: { snag: snag.id, reason: text } };
            setAsking(undefined);
            void record([make]);
          }}
        >
          Record it
        </Strong>
        <Plain onPress={() => setAsking(undefined)}>Not now</Plain>
      </Dialogue>
    </Row>
  );
}
