import { QRCodeSVG } from "qrcode.react";
import { useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { useTheme } from "styled-components";
import type { Make, Remark, Row, View } from "../api/client";
import type { JobHere } from "../offline/useJob";
import { Text } from "../parts/Fields";
import { Action, Done, Plain, Strong } from "../parts/Buttons";
import { cut } from "../parts/cut";
import { Dialogue } from "../parts/Sheets";
import { clock } from "../parts/text";
import { JobFrame } from "../job/JobFrame";
import { LyingLadder } from "../today/LyingLadder";
import { Screen, Page, Parts, Part, Tag } from "./handOverShapes";

function Rows({ title, rows }: { title: string; rows: Row[] }) {
  if (rows.length === 0) return null;
  return (
    <Part>
      <h2>{title}</h2>
      <ul>
        {rows.map((r, i) => (
          <li key={i}>
            <b>{r.what}</b>
            <span>{r.say}</span>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Lines({ title, lines }: { title: string; lines: ReactNode[] }) {
  if (lines.length === 0) return null;
  return (
    <Part>
      <h2>{title}</h2>
      <ul>
        {lines.map((l, i) => (
          <li key={i}>{typeof l === "string" ? <span>{l}</span> : l}</li>
        ))}
      </ul>
    </Part>
  );
}

const remark = (r: Remark) => (
  <>
    <b>
      {clock(r.at)} {r.by}
    </b>
    <span>{r.text}</span>
  </>
);

/** The state of the open machine on one page, the tag for it, leaving it and taking it up. */
export function HandOverScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const theme = useTheme();
  const [leaving, setLeaving] = useState(false);
  const [text, setText] = useState("");
  const h = view.hand_over;
  const mine = view.here.includes("you");
  const others = view.here.filter((p) => p !== "you");
  const takeOver = async () => {
    await job.record([{ kind: "took-over", body: {} }]);
    void go(`/jobs/${view.job}`);
  };
  const leave = async () => {
    setLeaving(false);
    const note = text.trim();
    const left: Make = { kind: "left", body: note ? { tag: cut(note, 200) } : {} };
    await job.record(note ? [{ kind: "note", body: { text: note } }, left] : [left]);
  };
  return (
    <JobFrame
      name="Hand-over"
      shape={Screen}
      actions={
        <>
          <Action label="Steps" onPress={() => void go(`/jobs/${view.job}`)} />
          <Action label="Print" says="page and tag" onPress={() => window.print()} />
          {mine && <Action label="Leave it" says="every proof ends" onPress={() => setLeaving(true)} />}
          {mine && others.length === 0 ? (
            <Done
              side="even"
              label="Go on with it"
              says="you are at the machine"
              letter=""
              onPress={() => void go(`/jobs/${view.job}`)}
            />
          ) : (
            <Done
              side="even"
              label={others.length > 0 ? `Take over from ${others.join(" and ")}` : "Take it over"}
              says="every proof ends: measure again"
              letter=""
              onPress={() => void takeOver()}
            />
          )}
        </>
      }
    >
      <Page tabIndex={0}>
        <header>
          <h1>Hand-over: {h.title}</h1>
          <p>
            {h.machine}. {h.state}
          </p>
          <LyingLadder marks={view.rungs} whole />
        </header>
        <Tag aria-label="Tag for the machine">
          {h.tag.map((l, i) => (
            <p key={i}>{l}</p>
          ))}
          <div>
            <QRCodeSVG
              value={`${window.location.origin}/jobs/${view.job}`}
              size={150}
              bgColor={theme.name === "torch" ? theme.ruleStrong : "#ffffff"}
              fgColor={theme.name === "torch" ? theme.paper : "#000000"}
              title={`The job ${view.job}`}
              level="M"
            />
          </div>
          <small>Job {view.job}</small>
        </Tag>
        <Parts>
          <Rows title="Hazards" rows={h.hurts} />
          <Lines
            title={h.last ? `Since you last recorded, ${clock(h.last.at)}` : "What was recorded"}
            lines={h.since.map(remark)}
          />
          <Rows title="Off the machine, and where it lies" rows={h.off} />
          <Rows title="In trays and bags" rows={h.trays} />
          <Rows title="Disconnected leads" rows={h.leads} />
          <Rows title="Inside, and must come out" rows={h.inside} />
          <Lines title="Next" lines={h.next} />
          <Lines title="To settle" lines={h.open} />
          <Lines title="To bring" lines={h.bring} />
          <Lines title="Notes" lines={h.notes.map(remark)} />
        </Parts>
      </Page>
      <Dialogue title="Leave the machine" open={leaving} onClose={() => setLeaving(false)}>
        <Text label="What should the next one know?" value={text} onChange={setText} most={500} lines={3} />
        <p>Every proof ends with this. Hang the tag on the machine.</p>
        <Strong onPress={() => void leave()}>Leave open and tag it</Strong>
        <Plain onPress={() => setLeaving(false)}>Stay</Plain>
      </Dialogue>
    </JobFrame>
  );
}
