import styled from "styled-components";
import type { ProofAsk, ProofStep } from "../api/client";
import type { Draft } from "../offline/useDraft";
import { OneOf } from "../parts/Fields";
import { Figure, figures } from "../parts/Figure";

const Steps = styled.div`
  display: grid;
  grid-template-columns: 9.25rem 8.625rem;
  gap: 0.3125rem 0.75rem;
  align-items: center;
  label,
  .asked {
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
  font-size: 1.25rem;
  ${figures}
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
  .answers {
    grid-column: 1 / -1;
    display: grid;
    gap: 0.25rem;
  }
  [role="radiogroup"] {
    display: grid;
    grid-template-columns: 1fr 1fr;
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
        <Answered
          ask="How is it tested?"
          answers={proof.ways.map((w) => ({ value: w.way, say: w.name }))}
          value={proof.way}
          onChange={set("way")}
        />
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
  return (
    <Figure
      id={fieldOf(step.key)}
      label={step.label}
      note={step.note}
      unit={step.unit}
      decimal={step.unit !== ""}
      most={step.unit ? 14 : 40}
      whole={value.length > wide}
      value={value}
      onChange={onChange}
    />
  );
}

/** What was seen, by one touch. */
export const Answers = ({ step, value, onChange }: StepFieldProps) => (
  <Answered ask={step.do} answers={step.answers} value={value} onChange={onChange} />
);

interface AnsweredProps {
  ask: string;
  answers: { value: string; say: string }[];
  value: string;
  onChange: (value: string) => void;
}

const Answered = ({ ask, answers, value, onChange }: AnsweredProps) => (
  <div className="answers">
    <span className="asked" aria-hidden="true">
      {ask}
    </span>
    <OneOf
      label={ask}
      values={answers.map((a) => a.value)}
      names={Object.fromEntries(answers.map((a) => [a.value, a.say]))}
      value={value}
      onChange={onChange}
    />
  </div>
);
