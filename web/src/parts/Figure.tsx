import type { ReactNode } from "react";
import { Input, Label, TextField } from "react-aria-components";
import styled, { css } from "styled-components";

/** A field that figures are typed into: its edge, its ground, its example and its focus. */
export const figures = css`
  input {
    padding: 0.25rem 0.625rem;
    border: 0.125rem solid ${(p) => p.theme.ruleStrong};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
  }
  input::placeholder {
    color: ${(p) => p.theme.inkQuiet};
    font-weight: 400;
    opacity: 1;
  }
  input:focus {
    border-color: ${(p) => p.theme.ink};
    outline: 0.125rem solid ${(p) => p.theme.ink};
  }
`;

/** Its label and its field lie in the row or the grid that they stand in. */
const Loose = styled(TextField)`
  display: contents;
`;

/** A field with its unit behind it, in one line. */
const WithUnit = styled.span<{ $whole?: boolean }>`
  display: flex;
  align-items: center;
  gap: 0.5rem;
  min-width: 0;
  ${(p) => p.$whole && "grid-column: 1 / -1;"}
`;

interface FigureProps {
  id: string;
  label: string;
  /** Small, below the label. */
  note?: ReactNode;
  value: string;
  onChange: (value: string) => void;
  /** Called with Enter, and with the key of a pedal. */
  onEnter?: () => void;
  /** How it may be written. */
  example?: string;
  unit?: string;
  most: number;
  decimal?: boolean;
  first?: boolean;
  /** It takes the whole row, so that no sign or digit is hidden. */
  whole?: boolean;
}

/** A figure, or a value as people write it, with its label beside it. */
export function Figure(props: FigureProps) {
  const { id, label, note, value, onChange, onEnter, example, unit, most, decimal, first, whole } = props;
  const input = (
    <Input
      inputMode={decimal ? "decimal" : "text"}
      placeholder={example}
      style={example ? { minWidth: `min(100%, ${example.length}ch + 1.875rem)` } : undefined}
    />
  );
  return (
    <Loose
      id={id}
      value={value}
      onChange={onChange}
      maxLength={most}
      autoComplete="off"
      autoFocus={first}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === "PageDown") onEnter?.();
        else e.continuePropagation();
      }}
    >
      <Label>
        {label}
        {note && <small>{note}</small>}
      </Label>
      {unit === undefined ? (
        input
      ) : (
        <WithUnit $whole={whole}>
          {input}
          {unit}
        </WithUnit>
      )}
    </Loose>
  );
}
