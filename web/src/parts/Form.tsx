import { useState, type FormEvent, type ReactNode } from "react";
import styled from "styled-components";
import { wentWrong } from "../api/client";
import { Strong } from "./Buttons";
import { Complaint } from "./Sheets";

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
