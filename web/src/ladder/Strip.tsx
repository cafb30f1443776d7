import { useState } from "react";
import { Link } from "react-router";
import { useJobHere } from "../job/here";
import { Plain } from "../parts/Buttons";
import { Dialogue } from "../parts/Sheets";
import { clock, Heard } from "../parts/text";
import { useSession } from "../signin/session";
import { elsewhere, signalWords } from "./signal";
import { Bar, Cell, Name, Reason, Skip, Spring, StopButton, Top, Unused } from "./stripShapes";

function toContent() {
  const main = document.querySelector("main");
  if (!main) return;
  main.tabIndex = -1;
  main.focus();
}

/** The top strip: the job, what can hurt with its proof, who is here, and Stop. */
export function Strip() {
  const job = useJobHere();
  const { view } = job;
  const { me, signIn } = useSession();
  const other = elsewhere(job.others, me.id);
  const [stopping, setStopping] = useState(false);
  return (
    <Top>
      <Skip onPress={toContent}>To the content</Skip>
      <Bar>
        <Name to="/">
          <b>{view.title}</b>
          <small>{view.words || view.machine}</small>
          <Heard>Back to all jobs</Heard>
        </Name>
        {view.energies.map((e) => (
          <Cell
            key={e.energy}
            $minor={e.energy !== view.worst}
            $warn={e.warn && (view.foot.off > 0 || e.level === "shut")}
          >
            <span>
              <b>{e.name}</b> {e.say}
            </span>
            <small>
              {e.reading || e.by
                ? [e.reading, clock(e.at), e.by, e.meter && `meter ${e.meter.replace(/^m-/, "")}`]
                    .filter(Boolean)
                    .join(" · ")
                : e.how}
            </small>
          </Cell>
        ))}
        {view.loose.map((l) => (
          <Cell key={l.move} $warn $minor>
            <b>{l.say}</b>
            <small>since: {l.move.toLowerCase()} off</small>
          </Cell>
        ))}
        <Spring />
        {other && (
          <Cell role="status">
            <span>{other.who}</span>
            <small>{other.step}</small>
          </Cell>
        )}
        <Cell
          $warn={job.held.length > 0}
          $minor={job.waiting === 0 && job.held.length === 0 && job.signal !== "signed-out"}
        >
          <span>
            {view.here.length > 0
              ? view.here.map((h) => (h === "you" ? "You" : h)).join(" and ")
              : "Nobody here yet"}
          </span>
          <small>
            {signalWords(job)} {job.signal === "signed-out" && <Plain onPress={signIn}>Sign in</Plain>}
          </small>
        </Cell>
        <StopButton onPress={() => setStopping(true)}>Stop</StopButton>
        <Dialogue title="Stop the job" open={stopping} onClose={() => setStopping(false)}>
          {view.stops.map((s) => (
            <Reason
              key={s.label}
              onPress={() => {
                setStopping(false);
                void job.record(s.makes);
              }}
            >
              {s.label}
              <small>{s.says}</small>
            </Reason>
          ))}
          <Plain onPress={() => setStopping(false)}>Go on working</Plain>
        </Dialogue>
      </Bar>
      {view.out_of_use.map((o) => (
        <Unused key={o.snag} role="alert">
          <span>
            <b>Out of use: {o.name.toLowerCase()}, told by telephone.</b> {o.do}
          </span>
          <Link to={`/jobs/${view.job}/even`}>Record what was found</Link>
        </Unused>
      ))}
    </Top>
  );
}
