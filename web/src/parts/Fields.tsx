import {
  Input,
  Label,
  Text as Said,
  TextArea,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
} from "react-aria-components";
import styled from "styled-components";
import { answer } from "./Buttons";

const Boxed = styled(TextField)`
  display: grid;
  gap: 0.25rem;
  font-size: ${(p) => p.theme.glance};
  font-weight: 600;
  input,
  textarea {
    min-height: ${(p) => p.theme.touchSmall};
    padding: 0.5rem 0.75rem;
    border: 0.125rem solid ${(p) => p.theme.ruleStrong};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
    font: 400 1.25rem/1.3 ${(p) => p.theme.text};
    width: 100%;
  }
  input::placeholder {
    font-style: italic;
    color: ${(p) => p.theme.inkQuiet};
  }
  input:focus,
  textarea:focus {
    border-color: ${(p) => p.theme.ink};
    outline: 0.125rem solid ${(p) => p.theme.ink};
  }
  small {
    font-size: ${(p) => p.theme.small};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

interface TextProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What it is for, below it. */
  note?: string;
  /** How it may be written: an example, drawn so that it is not taken for a value. */
  example?: string;
  most?: number;
  lines?: number;
  type?: "text" | "tel" | "date" | "password";
  decimal?: boolean;
  first?: boolean;
  autoComplete?: string;
  /** Words that are offered, by the id of their list. */
  list?: string;
  lowerCase?: boolean;
}

/** One field with its label above. */
export function Text({
  label,
  value,
  onChange,
  note,
  example,
  most = 200,
  lines,
  type = "text",
  decimal,
  first,
  autoComplete = "off",
  list,
  lowerCase,
}: TextProps) {
  return (
    <Boxed
      value={value}
      onChange={onChange}
      maxLength={most}
      autoFocus={first}
      autoComplete={autoComplete}
      type={type}
    >
      <Label>{label}</Label>
      {lines ? (
        <TextArea rows={lines} />
      ) : (
        <Input
          inputMode={decimal ? "decimal" : undefined}
          placeholder={example && `such as ${example}`}
          list={list}
          autoCapitalize={lowerCase ? "none" : undefined}
        />
      )}
      {note && (
        <Said slot="description" elementType="small">
          {note}
        </Said>
      )}
    </Boxed>
  );
}

/** Answers beside each other. */
export const Group = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
`;

/** One of several answers; what holds is marked and announced as chosen. */
export const One = styled(ToggleButton)`
  ${answer}
`;

interface OneOfProps {
  label: string;
  values: readonly string[];
  value: string;
  onChange: (value: string) => void;
  /** What the values are called, where that is not themselves. */
  names?: Record<string, string>;
  /** It may be left out: a second touch takes the answer back. */
  optional?: boolean;
}

/** One of a few values, as buttons of which one holds. */
export const OneOf = ({ label, values, value, onChange, names = {}, optional }: OneOfProps) => (
  <Group
    aria-label={label}
    selectionMode="single"
    disallowEmptySelection={!optional}
    selectedKeys={value ? [value] : []}
    onSelectionChange={(keys) => {
      const [key = ""] = [...keys];
      onChange(String(key));
    }}
  >
    {values.map((v) => (
      <One key={v} id={v}>
        {names[v] ?? v}
      </One>
    ))}
  </Group>
);
