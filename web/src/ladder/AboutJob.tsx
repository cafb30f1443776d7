import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { withdrawing, type View } from "../api/client";
import type { JobHere } from "../offline/useJob";
import { Choice, Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Beside } from "../parts/Form";
import { Complaint, Dialogue } from "../parts/Sheets";
import { clock } from "../parts/text";
import { useSession } from "../signin/session";
import { JobFrame } from "../job/JobFrame";
import { low } from "../parts/theme";

const Screen = styled.div`
  min-height: 100dvh;
  display: grid;
  grid-template-rows: auto 1fr;
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

const Page = styled.main`
  padding: 1.5rem;
  display: grid;
  align-content: start;
  gap: 1.125rem;
  max-width: 56.25rem;
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.1;
  }
  h2 {
    font-size: 1.3125rem;
  }
  section {
    display: grid;
    gap: 0.625rem;
  }
  a {
    color: ${(p) => p.theme.ink};
  }
`;

const Facts = styled.dl`
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 0.25rem 1.125rem;
  dt {
    color: ${(p) => p.theme.inkQuiet};
  }
  dd {
    white-space: pre-line;
  }
`;

/** What is known of a job before anybody is there: where it is, who goes, and whether it is a job at all. */
export function AboutJob({ job, view }: { job: JobHere; view: View }) {
  const go = useNavigate();
  const { me } = useSession();
  const [calling, setCalling] = useState(false);
  const about = view.about;
  const w = about.where;
  const goes = about.people.filter((p) => p.on).map((p) => p.id);
  const give = (to: string[]) => void job.record([{ kind: "job.given", body: { to } }]);
  const rows: [string, string | undefined][] = [
    ["Machine", [w.name, w.model, w.serial].filter(Boolean).join(" · ")],
    ["Where it stands", w.stands],
    ["Site", w.site],
    ["Address", w.address],
    ["Contact", w.contact],
    ["How to get in", w.access],
  ];
  return (
    <JobFrame name="Who and where" shape={Screen}>
      <Page tabIndex={0}>
        <h1>{view.title}</h1>
        {view.words && <p>“{view.words}”</p>}
        {about.called_off && (
          <Complaint role="note">
            Called off by {about.called_off.by}, {clock(about.called_off.at)}: {about.called_off.text}.{" "}
            <Plain onPress={() => void job.record(withdrawing(about.again))}>Take it up again</Plain>
          </Complaint>
        )}
        <Beside>
          {!about.called_off && (
            <Strong onPress={() => void go(`/jobs/${view.job}`)}>
              {view.visit.stage === "open" ? "Go on with the steps" : "To the steps"}
            </Strong>
          )}
          <Plain onPress={() => void go(`/jobs/${view.job}/decide`)}>What to bring</Plain>
          <Plain onPress={() => void go(`/machines/${w.machine}`)}>The machine’s page</Plain>
        </Beside>
        <section aria-label="Where">
          <h2>Where</h2>
          <Facts>
            {rows
              .filter(([, say]) => say)
              .map(([what, say]) => (
                <div key={what} style={{ display: "contents" }}>
                  <dt>{what}</dt>
                  <dd>{say}</dd>
                </div>
              ))}
            {w.phone && (
              <>
                <dt>Telephone</dt>
                <dd>
                  <a href={`tel:${w.phone.replace(/[^+0-9]/g, "")}`}>{w.phone}</a>
                </dd>
              </>
            )}
          </Facts>
        </section>
        <section aria-label="Who goes">
          <h2>Who goes?</h2>
          {goes.length === 0 && <p>Nobody is named yet.</p>}
          <Beside role="group" aria-label="Who goes?">
            {about.people.map((p) => (
              <Choice
                key={p.id}
                aria-pressed={p.on}
                onPress={() => give(p.on ? goes.filter((id) => id !== p.id) : [...goes, p.id])}
              >
                {p.on ? "✓ " : ""}
                {p.id === me.id ? "I go" : p.name}
                {p.note && <small>{p.note}</small>}
              </Choice>
            ))}
          </Beside>
          {view.arrive.length > 0 && (
            <Beside>
              <Plain onPress={() => void job.record(view.arrive)}>I am at the machine</Plain>
              <span>A step that you record there says so by itself.</span>
            </Beside>
          )}
          {view.here.includes("you") && view.visit.stage === "new" && (
            <Beside>
              <span>You are at the machine.</span>
              <Plain onPress={() => void job.record([{ kind: "visit.ended", body: {} }])}>
                I am not there
              </Plain>
            </Beside>
          )}
        </section>
        {about.reasons.length > 0 && (
          <section aria-label="Is it a job at all?">
            <h2>Made in error?</h2>
            <Beside>
              <Plain onPress={() => void go(`/call?instead=${view.job}`)}>It is another machine</Plain>
              <Plain onPress={() => setCalling(true)}>Call it off</Plain>
            </Beside>
          </section>
        )}
        <Link to="/">Back to all jobs</Link>
      </Page>
      {calling && (
        <CallOff
          reasons={about.reasons}
          onClose={() => setCalling(false)}
          onReason={(reason) => {
            setCalling(false);
            void job.record([{ kind: "job.called-off", body: { reason } }]);
          }}
        />
      )}
    </JobFrame>
  );
}

interface CallOffProps {
  reasons: string[];
  onClose: () => void;
  onReason: (reason: string) => void;
}

/** Why it is called off: it stays in the list of earlier ones with that. */
function CallOff({ reasons, onClose, onReason }: CallOffProps) {
  const [text, setText] = useState("");
  return (
    <Dialogue title="Call the job off: why?" open onClose={onClose}>
      {reasons.map((r) => (
        <Plain key={r} onPress={() => onReason(r)}>
          {r[0]?.toUpperCase() + r.slice(1)}
        </Plain>
      ))}
      <Text label="Another reason" value={text} onChange={setText} />
      <Strong isDisabled={!text.trim()} onPress={() => onReason(text.trim())}>
        Call it off
      </Strong>
      <Plain onPress={onClose}>Leave it</Plain>
    </Dialogue>
  );
}
