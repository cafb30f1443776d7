import styled from "styled-components";
import type { ProofAsk, ProofStep } from "../api/client";
import type { Draft } from "../offline/useDraft";
import { Plain } from "../parts/Buttons";
import { typedIn } from "../parts/typedIn";

const Steps = styled.div`
  display: grid;
  grid-template-columns: 9.25rem 8.625rem;
  gap: 0.3125rem 0.75rem;
  align-items: center;
  label,
  legend {
    font-size: 1.0625rem;
    line-height: 1.15;
    font-weight: 600;
    small {
      display: block;
      font-size: ${(p) => p.theme.small};
      font-weight: 400;
      color: ${(p) => p.theme.inkQuiet};
    }
  }
  > .whole {
    grid-column: 1 / -1;
  }
  > span {
    display: flex;
    align-items: center;
    gap: 0.5rem;
    font-size: 1.25rem;
  }
  ${typedIn}
  input {
    width: 100%;
    min-height: 3.5rem;
    min-width: 0;
    font: 600 1.5rem/1 ${(p) => p.theme.mono};
    text-align: right;
  }
  p {
    grid-column: 1 / -1;
    font-size: 1.0625rem;
    line-height: 1.25;
  }
  fieldset {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0.5rem;
    padding: 0;
    border: 0;
  }
`;

const Choice = styled(Plain)`
  &[aria-pressed="true"] {
    background: ${(p) => p.theme.strong};
    color: ${(p) => p.theme.doneText};
  }
`;

/** More letters than stand beside a label: the field takes the row, so that no sign or digit is hidden. */
const wide = 6;

/** The id of a step's field, which its label names. */
export const fieldOf = (key: string) => `proof-${key.replace(/\W+/g, "-")}`;

interface ProofStepsProps {
  proof: ProofAsk;
  draft: Draft;
  onDraft: (draft: Draft) => void;
}

/** A proof in the order in which it is done: what is written down at each step, and other ways where there are some. */
export function ProofSteps({ proof, draft, onDraft }: ProofStepsProps) {
  const set = (key: string) => (value: string) => onDraft({ ...draft, [key]: value });
  return (
    <Steps data-proof={proof.way}>
      {proof.ways.length > 1 && (
        <fieldset>
          <legend>How is it tested?</legend>
          {proof.ways.map((w) => (
            <Choice key={w.way} aria-pressed={w.way === proof.way} onPress={() => set("way")(w.way)}>
              {w.name}
            </Choice>
          ))}
        </fieldset>
      )}
      {proof.note && <p>{proof.note}</p>}
      {proof.steps.map((s) => (
        <StepField key={s.key} step={s} value={draft[s.key] ?? ""} onChange={set(s.key)} />
      ))}
    </Steps>
  );
}

interface StepFieldProps {
  step: ProofStep;
  value: string;
  onChange: (value: string) => void;
}

function StepField({ step, value, onChange }: StepFieldProps) {
  if (step.answers.length > 0) return <Answers step={step} value={value} onChange={onChange} />;
  const id = fieldOf(step.key);
  return (
    <>
      <label htmlFor={id}>
        {step.label}
        {step.note && <small>{step.note}</small>}
      </label>
      <span className={value.length > wide ? "whole" : undefined}>
        <input
          id={id}
          inputMode={step.unit ? "decimal" : "text"}
          maxLength={step.unit ? 14 : 40}
          autoComplete="off"
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
        {step.unit && ` ${step.unit}`}
      </span>
    </>
  );
}

/** What was seen, by one touch. */
export function Answers({ step, value, onChange }: StepFieldProps) {
  return (
    <fieldset>
      <legend>{step.do}</legend>
      {step.answers.map((a) => (
        <Choice key={a.value} aria-pressed={a.value === value} onPress={() => onChange(a.value)}>
          {a.say}
        </Choice>
      ))}
    </fieldset>
  );
}
