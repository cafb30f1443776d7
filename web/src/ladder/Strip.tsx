import { useState } from "react";
import { Button } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { useJobHere } from "../job/here";
import type { JobHere } from "../offline/useJob";
import { Plain } from "../parts/Buttons";
import { Dialogue } from "../parts/Sheets";
import { clock, Heard } from "../parts/text";
import { phone, upright } from "../parts/theme";
import { useSession } from "../signin/session";

/** The first thing that a keyboard meets: past the strip. */
const Skip = styled(Button)`
  position: absolute;
  left: 0.75rem;
  top: -10rem;
  z-index: 5;
  padding: 0.75rem 1.125rem;
  background: ${(p) => p.theme.lit};
  color: ${(p) => p.theme.ink};
  font-weight: 700;
  border: 0;
  &[data-focused] {
    top: 0.5rem;
  }
`;

function toContent() {
  const main = document.querySelector("main");
  if (!main) return;
  main.tabIndex = -1;
  main.focus();
}

const Top = styled.header`
  grid-column: 1 / -1;
`;

const Bar = styled.div`
  display: flex;
  min-height: ${(p) => p.theme.strip};
  background: ${(p) => p.theme.sheet};
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.25;
`;

const Cell = styled.div<{ $warn?: boolean; $minor?: boolean }>`
  display: grid;
  ${phone} {
    display: ${(p) => (p.$minor ? "none" : "grid")};
    padding: 0.25rem 0.75rem;
  }
  align-content: center;
  padding: 0.25rem 1.125rem;
  border-right: 0.0625rem solid ${(p) => p.theme.rule};
  background: ${(p) => (p.$warn ? p.theme.cautionOn : "none")};
  color: ${(p) => (p.$warn ? p.theme.caution : p.theme.ink)};
  small {
    font-size: ${(p) => p.theme.small};
    color: ${(p) => (p.$warn ? p.theme.caution : p.theme.inkQuiet)};
  }
`;

const Name = styled(Link)`
  display: grid;
  align-content: center;
  padding: 0.25rem 1.125rem;
  border-right: 0.0625rem solid ${(p) => p.theme.rule};
  color: ${(p) => p.theme.ink};
  text-decoration: none;
  max-width: 20rem;
  ${phone} {
    display: none;
  }
  ${upright} {
    max-width: 14.375rem;
  }
  b {
    font-size: ${(p) => p.theme.work};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Spring = styled.div`
  flex: 1;
`;

/** An emergency that a caller told of, until somebody has looked at it. */
const Unused = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.375rem 0.875rem;
  padding: 0.5rem 1.125rem;
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.3;
  span {
    flex: 1 1 20rem;
  }
  a {
    padding: 0.75rem 1.125rem;
    border: 0.125rem solid ${(p) => p.theme.stopText};
    color: inherit;
    font-weight: 700;
  }
`;

const StopButton = styled(Button)`
  padding: 0 2.125rem;
  ${phone} {
    padding: 0 1rem;
  }
  border: ${(p) => (p.theme.name === "torch" ? `0.125rem solid ${p.theme.stop}` : 0)};
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  font: 700 1.4375rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.lit};
    outline-offset: -0.375rem;
  }
`;

const Reason = styled(Plain)`
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
  }
`;

/** How the sending goes, in few words. */
export function signalWords(job: Pick<JobHere, "signal" | "waiting" | "held">): string {
  const n = job.waiting;
  if (job.held.length > 0) return `${job.held.length} not taken by the server`;
  const waiting = n > 0 ? `, ${n} waiting` : "";
  if (job.signal === "offline") return `no signal${waiting}`;
  if (job.signal === "signed-out") return `signed out${waiting}`;
  return n > 0 ? `sending ${n}` : "all sent";
}

/** The top strip: the job, what can hurt with its proof, who is here, and Stop. */
export function Strip() {
  const job = useJobHere();
  const { view } = job;
  const { signIn } = useSession();
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
