import { useState } from "react";
import type { CallHeard } from "../api/client";
import { Choice, Plain } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Beside, Choices, Danger, Lines, WithAlso } from "./look";

interface EmergencyProps {
  emergency: NonNullable<CallHeard["emergency"]>;
  told: boolean;
  onTold: (told: boolean) => void;
}

/** What hurts somebody now: what to tell the caller, line by line, and that they were told. */
export function Emergency({ emergency, told, onTold }: EmergencyProps) {
  return (
    <Danger role="alert">
      <h2>{emergency.name}</h2>
      <p>Tell them now:</p>
      <ol>
        {emergency.say.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      <Choice aria-pressed={told} onPress={() => onTold(!told)}>
        {told ? "✓ They were told" : "I have told them this"}
      </Choice>
      <p>It becomes an urgent visit to make safe. The machine is out of use until then.</p>
    </Danger>
  );
}

interface WhatItMeansProps {
  heard: CallHeard;
  answers: Record<string, string>;
  onAnswer: (id: string, value: string) => void;
  onChoose: (complaint: string) => void;
  also: string[];
  onAlso: (complaints: string[]) => void;
}

/** What the core made of it: the map, the complaint, what matters, and what was before. */
export function WhatItMeans({ heard, answers, onAnswer, onChoose, also, onAlso }: WhatItMeansProps) {
  const [all, setAll] = useState(false);
  const good = heard.complaints.filter((c) => c.good || c.id === heard.complaint);
  const shown = all || good.length === 0 ? heard.complaints : good.slice(0, 4);
  const asked = heard.asks.map((a) => a.id);
  return (
    <>
      {heard.map ? (
        <>
          <h2>{heard.machine}</h2>
          {heard.nearest ? <Complaint role="note">{heard.how}</Complaint> : <p>The map {heard.how}.</p>}
        </>
      ) : (
        <Complaint role="note">{heard.how}</Complaint>
      )}
      {heard.map && (
        <>
          <h2>It means</h2>
          {heard.unknown && (
            <p>
              None of this machine’s complaints. Choose one, or leave it: the job keeps the customer’s own
              words.
            </p>
          )}
          <Choices role="group" aria-label="The complaint">
            {shown.map((c) => (
              <WithAlso key={c.id}>
                <Choice aria-pressed={c.id === heard.complaint} onPress={() => onChoose(c.id)}>
                  {c.name}
                  {c.by.length > 0 && <small>said: {c.by.join(", ")}</small>}
                </Choice>
                {c.id !== heard.complaint && heard.complaint !== "" && (
                  <Choice
                    aria-label={`Also: ${c.name}`}
                    aria-pressed={also.includes(c.id)}
                    onPress={() =>
                      onAlso(also.includes(c.id) ? also.filter((id) => id !== c.id) : [...also, c.id])
                    }
                  >
                    {also.includes(c.id) ? "✓ Also" : "Also"}
                  </Choice>
                )}
              </WithAlso>
            ))}
          </Choices>
          {shown.length < heard.complaints.length && (
            <Plain onPress={() => setAll(true)}>Something else</Plain>
          )}
        </>
      )}
      {(heard.asks.length > 0 || Object.keys(answers).length > 0) && <h2>Ask them</h2>}
      {heard.asks.map((a) => (
        <div key={a.id} role="group" aria-label={a.ask}>
          <b>{a.ask}</b>
          <p>{a.tell}</p>
          <Beside>
            {a.values.map((v) => (
              <Choice key={v} aria-pressed={answers[a.id] === v} onPress={() => onAnswer(a.id, v)}>
                {v}
                {v === a.usual && <small>the usual</small>}
              </Choice>
            ))}
          </Beside>
        </div>
      ))}
      {Object.entries(answers)
        .filter(([id]) => !asked.includes(id))
        .map(([id, value]) => (
          <p key={id}>
            {id}: <b>{value}</b>
          </p>
        ))}
      {heard.before.length > 0 && (
        <>
          <h2>This machine before</h2>
          <Lines>
            {heard.before.map((b) => (
              <li key={b}>{b}</li>
            ))}
          </Lines>
        </>
      )}
      {heard.like.length > 0 && (
        <>
          <h2>Past causes on this model</h2>
          <Lines>
            {heard.like.map((l) => (
              <li key={l}>{l}</li>
            ))}
          </Lines>
        </>
      )}
    </>
  );
}
