import styled from "styled-components";
import type { components } from "../api/schema";
import { Group, One } from "../parts/Fields";
import { words } from "../parts/text";

const People = styled(Group)`
  align-items: stretch;
`;

const Person = styled(One)`
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
    <People
      aria-label="Who goes?"
      selectionMode="multiple"
      selectedKeys={goes}
      onSelectionChange={(keys) => onGoes(goers.map((p) => p.id).filter((id) => keys.has(id)))}
    >
      {goers.map((p) => (
        <Person key={p.id} id={p.id}>
          {goes.includes(p.id) ? "✓ " : ""}
          {p.name}
          {p.tickets.length > 0 && <small>{words(p.tickets)}</small>}
        </Person>
      ))}
    </People>
  </>
);
