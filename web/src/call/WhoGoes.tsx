import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import type { components } from "../api/schema";
import { answer } from "../parts/Buttons";
import { words } from "../parts/text";

const Group = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
`;

const One = styled(ToggleButton)`
  ${answer}
  small {
    display: block;
    font-weight: 400;
  }
`;

interface WhoGoesProps {
  goers: components["schemas"]["Goer"][];
  goes: string[];
  onGoes: (goes: string[]) => void;
}

/** Who goes to the job: none, one or several, each with the tickets held. */
export const WhoGoes = ({ goers, goes, onGoes }: WhoGoesProps) => (
  <>
    <h2 aria-hidden="true">Who goes?</h2>
    <Group
      aria-label="Who goes?"
      selectionMode="multiple"
      selectedKeys={goes}
      onSelectionChange={(keys) => onGoes(goers.map((p) => p.id).filter((id) => keys.has(id)))}
    >
      {goers.map((p) => (
        <One key={p.id} id={p.id}>
          {goes.includes(p.id) ? "✓ " : ""}
          {p.name}
          {p.tickets.length > 0 && <small>{words(p.tickets)}</small>}
        </One>
      ))}
    </Group>
  </>
);
