import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Fit, Make, Touch, Typed, View } from "../api/client";
import { JobFrame } from "../job/JobFrame";
import type { JobHere } from "../offline/useJob";
import { useAsk } from "../offline/useAsk";
import { Action, Done, Plain, Strong, useOnce } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { WorthOf } from "./WorthOf";
import { Screen, Column, Aside, Rows, Lines, Way } from "./decideShapes";
import { FitCard } from "./FitCard";

const band = (f: { p50: number; p80: number }) =>
  Math.round(f.p50) === Math.round(f.p80)
    ? `${Math.round(f.p50)} min`
    : `${Math.round(f.p50)} to ${Math.round(f.p80)} min`;

/** What to fit, how to get there and what to bring, and whether to repair at all. */
export function DecideScreen({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const [typed, setTyped] = useState<Typed>({});
  const { got, failed } = useAsk("decide", view, typed as Record<string, string>);
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
    <JobFrame
      name="Decide"
      shape={Screen}
      actions={
        <>
          <Action label="Steps" says="the job" onPress={() => void go(`/jobs/${view.job}`)} />
          {got?.else.map((t) => (
            <Action
              key={t.label}
              label={t.label}
              says={t.says}
              onPress={() => take(t, `/jobs/${view.job}`)}
            />
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
            <Strong onPress={() => void go(`/jobs/${view.job}`)}>Go on with the steps</Strong>
          )}
        </>
      }
    >
      <Column as="main" tabIndex={0}>
        {failed && <Complaint role="alert">{failed}</Complaint>}
        <p className="kicker">
          <b>What to fit</b>
          {got?.decided}
        </p>
        <h1 ref={heading} tabIndex={-1}>
          {got ? got.title || "Nothing to decide yet" : "Working it out …"}
        </h1>
        {got?.say && <p>{got.say}</p>}
        {got && got.known.length > 0 && (
          <Lines aria-label="Evidence">
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
              <b>Answer before sign-off</b>
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
      <Column aria-label="Way in" tabIndex={0}>
        <p className="kicker">
          <b>Way in</b>from where it stands now
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
              <b>To bring</b>
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
    </JobFrame>
  );
}
