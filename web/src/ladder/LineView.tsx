import { useState } from "react";
import styled from "styled-components";
import { withdrawing, type Line } from "../api/client";
import { Plain } from "../parts/Buttons";
import { phone } from "../parts/theme";
import { Figure, figures } from "../parts/Figure";
import { Ticked } from "./Tick";
import { withValue } from "./proof";
import { useRecord } from "../job/here";

const Row = styled.div<{ $state: "open" | "good" | "bad" }>`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.75rem;
  align-items: center;
  padding: 0.5rem 0.75rem;
  background: ${(p) => p.theme.sheet};
  border: 0.125rem ${(p) => (p.$state === "open" ? "dashed" : "solid")}
    ${(p) => (p.$state === "bad" ? p.theme.stop : p.theme.back)};
  label,
  > p {
    flex: 1 1 15rem;
    font-size: 1.1875rem;
    font-weight: 600;
    line-height: 1.25;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
    color: ${(p) => (p.$state === "bad" ? p.theme.stop : p.theme.inkQuiet)};
  }
  ${figures}
  input {
    width: 11.875rem;
    min-height: 3.5rem;
    font: 600 1.375rem/1 ${(p) => p.theme.mono};
    ${phone} {
      flex: 1 1 9.375rem;
    }
  }
`;

const WithOther = styled.div`
  display: flex;
  gap: 0.5rem;
  align-items: stretch;
`;

interface ValueFieldProps {
  id: string;
  label: string;
  ask: string;
  note?: string;
  state?: "open" | "good" | "bad";
  value: string;
  onChange: (value: string) => void;
  onEnter?: () => void;
  /** It may be left out. */
  optional?: boolean;
  children?: React.ReactNode;
}

/** A value as people write it, with an example of how. */
export function ValueField(props: ValueFieldProps) {
  const { id, label, ask, note, state = "open", value, onChange, onEnter, optional, children } = props;
  return (
    <Row $state={state} data-state={state} data-optional={optional || undefined}>
      <Figure
        id={id}
        label={label}
        note={note || `such as ${ask}`}
        example={ask}
        most={60}
        value={value}
        onChange={onChange}
        onEnter={onEnter}
      />
      {children}
    </Row>
  );
}

interface LineViewProps {
  line: Line;
  looking?: boolean;
}

/** One line of a side: ticked, or given its value; what the core says of it stands beneath. */
export function LineView({ line, looking }: LineViewProps) {
  const record = useRecord();
  const [draft, setDraft] = useState<string>();
  if (line.ask) {
    const value = draft ?? line.value;
    const said = line.said || (line.was ? `came off at ${line.was}` : "");
    const send = () => {
      if (!value.trim() || value === line.value) return;
      void record([withValue(line.tick, value.trim(), line.into || undefined)]).then(
        (done) => done && setDraft(undefined),
      );
    };
    return (
      <ValueField
        id={`line-${line.line}`}
        label={line.say}
        ask={line.ask}
        note={said}
        state={line.ticked ? "good" : line.bad ? "bad" : "open"}
        value={value}
        onChange={setDraft}
        onEnter={send}
        optional={line.may}
      >
        {!looking && (
          <Plain isDisabled={!value.trim() || value === line.value} onPress={send}>
            {line.value && value === line.value ? "Kept" : "Keep"}
          </Plain>
        )}
      </ValueField>
    );
  }
  const tick = (
    <Ticked
      ticked={line.ticked}
      isDisabled={looking}
      act={() => record(line.ticked ? withdrawing([line.event]) : [line.tick])}
    >
      {line.say}
      {line.said && <small>{line.said}</small>}
    </Ticked>
  );
  if ((line.kind === "old" || line.kind === "look") && !line.ticked) {
    return (
      <Row
        $state={line.may ? "good" : "open"}
        role="group"
        aria-label={line.say}
        data-look={line.kind === "look" || undefined}
      >
        <p>{line.say}</p>
        {line.or.map((to) => (
          <Plain key={to.label} isDisabled={looking} onPress={() => void record(to.makes)}>
            {to.label}
          </Plain>
        ))}
      </Row>
    );
  }
  if (line.or.length === 0 || looking) return tick;
  return (
    <WithOther>
      {tick}
      {line.or.map((other) => (
        <Plain key={other.label} onPress={() => void record(other.makes)}>
          {other.label}
        </Plain>
      ))}
    </WithOther>
  );
}
