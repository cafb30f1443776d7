import { useId, useState, type FormEvent, type ReactNode } from "react";
import styled from "styled-components";
import { wentWrong } from "../api/client";
import { Choice, Strong } from "./Buttons";
import { Complaint, Field } from "./Sheets";

const Rows = styled.form`
  display: grid;
  gap: 0.875rem;
`;

/** Fields beside each other where there is room. */
export const Pair = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(10rem, 1fr));
  align-items: end;
  gap: 0.875rem;
`;

/** Buttons beside each other. */
export const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
`;

const Note = styled.small`
  font-size: ${(p) => p.theme.small};
  font-weight: 400;
  color: ${(p) => p.theme.inkQuiet};
`;

interface TextProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  note?: string;
  most?: number;
  lines?: number;
  type?: "text" | "tel" | "date";
  decimal?: boolean;
  first?: boolean;
}

/** One field of a form, with what it is for below it. */
export function Text({
  label,
  value,
  onChange,
  note,
  most = 200,
  lines,
  type = "text",
  decimal,
  first,
}: TextProps) {
  const id = useId();
  const shared = {
    value,
    maxLength: most,
    autoComplete: "off",
    "aria-describedby": note ? id : undefined,
  };
  return (
    <Field>
      {label}
      {lines ? (
        <textarea {...shared} rows={lines} onChange={(e) => onChange(e.target.value)} />
      ) : (
        <input
          {...shared}
          type={type}
          inputMode={decimal ? "decimal" : undefined}
          autoFocus={first}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
      {note && <Note id={id}>{note}</Note>}
    </Field>
  );
}

interface OneOfProps {
  label: string;
  values: readonly string[];
  value: string;
  onChange: (value: string) => void;
  /** What the values are called, where that is not themselves. */
  names?: Record<string, string>;
}

/** One of a few values, as buttons. */
export const OneOf = ({ label, values, value, onChange, names = {} }: OneOfProps) => (
  <Beside role="group" aria-label={label}>
    {values.map((v) => (
      <Choice key={v} aria-pressed={value === v} onPress={() => onChange(v)}>
        {names[v] ?? v}
      </Choice>
    ))}
  </Beside>
);

interface FormProps {
  keep: () => Promise<void>;
  label: string;
  children: ReactNode;
}

/** A form that is kept by one touch; what is wrong is said, and what was written stays. */
export function Form({ keep, label, children }: FormProps) {
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    setWrong("");
    try {
      await keep();
    } catch (err) {
      setWrong(wentWrong(err));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Rows onSubmit={(e) => void submit(e)}>
      {children}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      <Strong type="submit">{busy ? "Keeping it …" : label}</Strong>
    </Rows>
  );
}
