import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import type { Fit, Make, Touch, Typed, View } from "../api/client";
import { Strip } from "../ladder/Strip";
import { core } from "../offline/core";
import type { JobHere } from "../offline/useJob";
import { useWeighed } from "../offline/useWeighed";
import { Action, Done, Plain, Strong, useOnce } from "../parts/Buttons";
import { Lower } from "../parts/Frame";
import { Complaint } from "../parts/Sheets";
import { phone, upright } from "../parts/theme";
import { FitCard } from "./FitCard";
import { WorthOf } from "./WorthOf";

const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1.08fr) minmax(0, 1fr) 330px;
  ${upright} {
    grid-template: auto auto auto auto / minmax(0, 1fr) minmax(0, 1fr);
    height: auto;
    min-height: 100dvh;
  }
  ${phone} {
    grid-template: auto / minmax(0, 1fr);
    height: auto;
  }
`;

const Column = styled.section`
  padding: 14px 20px;
  overflow-y: auto;
  display: grid;
  align-content: start;
  gap: 9px;
  & + & {
    border-left: 1px solid ${(p) => p.theme.ruleStrong};
  }
  h1,
  h2 {
    font-size: 27px;
    line-height: 1.1;
  }
  .kicker {
    margin-top: 6px;
    line-height: 1.3;
    font-size: ${(p) => p.theme.work};
    color: ${(p) => p.theme.inkQuiet};
    b {
      color: ${(p) => p.theme.ink};
      margin-right: 10px;
    }
    font-weight: 400;
  }
  ${phone} {
    padding: 12px 14px;
    & + & {
      border-left: 0;
      border-top: 2px solid ${(p) => p.theme.ink};
    }
  }
`;

const Aside = styled(Column).attrs({ as: "aside" })`
  background: ${(p) => p.theme.well};
  border-left: 2px solid ${(p) => p.theme.ink};
  ${upright} {
    grid-column: 1 / -1;
  }
  ${phone} {
    grid-column: auto;
  }
`;

const Rows = styled.ul`
  background: ${(p) => p.theme.sheet};
  li {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 7px 12px;
    line-height: 1.25;
    font-size: ${(p) => p.theme.work};
  }
  li + li {
    border-top: 1px solid ${(p) => p.theme.rule};
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.glance};
    text-align: right;
  }
`;

const Lines = styled(Rows)`
  li {
    display: block;
  }
  span {
    display: block;
    text-align: left;
  }
`;

const Way = styled.li<{ $best: boolean }>`
  && {
    border: ${(p) => (p.$best ? `3px solid ${p.theme.ink}` : `1px solid ${p.theme.ruleStrong}`)};
    background: ${(p) => (p.$best ? p.theme.lit : p.theme.sheet)};
    margin-bottom: 8px;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 12px;
  }
  span,
  button {
    grid-column: 1 / -1;
    text-align: left;
  }
`;

const band = (f: { p50: number; p80: number }) =>
  Math.round(f.p50) === Math.round(f.p80)
    ? `${Math.round(f.p50)} min`
    : `${Math.round(f.p50)} to ${Math.round(f.p80)} min`;

/** What to fit, how to get there and what to bring, and whether to repair at all. */
export function DecideScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const [typed, setTyped] = useState<Typed>({});
  const { got, failed } = useWeighed(
    view,
    (id, viewer, now) => core.decide(id, viewer, now, typed),
    JSON.stringify(typed),
  );
  const [title, setTitle] = useState<string>();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus({ preventScroll: true }), []);

  const fits = got?.fits ?? [];
  const chosen: Fit | undefined = fits.find((f) => f.title === title) ?? fits[0];
  const record = (makes: Make[]) => job.record(makes);
  const take = (touch: Touch | null | undefined, then: string) => {
    if (!touch) return;
    void record(touch.makes).then((done) => {
      if (done) void go(then);
    });
  };
  const accept = useOnce(() => take(chosen?.accept, `/jobs/${view.job}`));
  const best = got?.ways[0];

  return (
    <Screen>
      <Strip view={view} job={job} />
      <Column as="main" tabIndex={0}>
        {failed && <Complaint role="alert">{failed}</Complaint>}
        {job.refused && <Complaint role="alert">{job.refused}</Complaint>}
        <p className="kicker">
          <b>What to fit</b>
          {got?.decided}
        </p>
        <h1 ref={heading} tabIndex={-1}>
          {got ? got.title || "Nothing to decide yet" : "Weighing what is known …"}
        </h1>
        {got?.say && <p>{got.say}</p>}
        {got && got.known.length > 0 && (
          <Lines aria-label="What speaks for it">
            {got.known.map((k, i) => (
              <li key={i}>
                <b>{k.what}</b>
                {k.say && <span>{k.say}</span>}
              </li>
            ))}
          </Lines>
        )}
        {fits.map((f, i) => (
          <FitCard
            key={f.title}
            fit={f}
            time={band(f)}
            cheapest={i === 0}
            chosen={f === chosen}
            onChoose={() => setTitle(f.title)}
          />
        ))}
        {got && got.why.length > 0 && (
          <>
            <h2 className="kicker">
              <b>Asked before it is even</b>
            </h2>
            <Lines>
              {got.why.map((w) => (
                <li key={w.what + w.say}>
                  <b>{w.what}</b>
                  <span>{w.say}</span>
                </li>
              ))}
            </Lines>
          </>
        )}
      </Column>
      <Column aria-label="How to get there" tabIndex={0}>
        <p className="kicker">
          <b>How to get there</b>from where it stands now
        </p>
        <h2>{got?.go}</h2>
        {got && got.stops.length > 0 && (
          <Complaint role="note">
            {got.stops.map((s) => (
              <span key={s}>{s} </span>
            ))}
          </Complaint>
        )}
        {got?.who.map((w) => (
          <p key={w}>{w}</p>
        ))}
        {got && got.ways.length > 0 && (
          <Rows aria-label="Ways in">
            {got.ways.map((w, i) => (
              <Way key={w.title} $best={i === 0}>
                <b>{w.title}</b>
                <b>{band(w)}</b>
                <span>{w.says}</span>
                {w.accept && (
                  <Plain onPress={() => w.accept && void record(w.accept.makes)}>{w.accept.label}</Plain>
                )}
              </Way>
            ))}
          </Rows>
        )}
        {got && got.bring.length > 0 && (
          <>
            <h2 className="kicker">
              <b>Bring</b>before the journey
            </h2>
            <Rows aria-label="What to bring">
              {got.bring.map((b) => (
                <li key={b.what}>
                  {b.what}
                  <span>{b.say}</span>
                </li>
              ))}
            </Rows>
          </>
        )}
        {got && got.earlier.length > 0 && (
          <>
            <h2 className="kicker">
              <b>This machine before</b>
            </h2>
            <Lines>
              {got.earlier.map((e) => (
                <li key={e.what + e.say}>
                  <b>{e.what}</b>
                  <span>{e.say}</span>
                </li>
              ))}
            </Lines>
          </>
        )}
      </Column>
      <Aside aria-label="Repair or replace" tabIndex={0}>
        {got?.worth && <WorthOf worth={got.worth} usual={got.usual} typed={typed} onType={setTyped} />}
      </Aside>
      <Lower>
        <Action label="Ladder" says="the job" onPress={() => void go(`/jobs/${view.job}`)} />
        {got?.else.map((t) => (
          <Action key={t.label} label={t.label} says={t.says} onPress={() => take(t, `/jobs/${view.job}`)} />
        ))}
        {chosen?.accept ? (
          <Done
            side="even"
            label={chosen.accept.label}
            says={`${chosen.accept.says}${best && !chosen.test ? `, ${band(chosen)}` : ""}`}
            letter=""
            onPress={accept}
          />
        ) : (
          <Strong onPress={() => void go(`/jobs/${view.job}`)}>Go on with the ladder</Strong>
        )}
      </Lower>
    </Screen>
  );
}
