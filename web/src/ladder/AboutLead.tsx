import { useState } from "react";
import styled from "styled-components";
import { plus, type Wire } from "../api/client";
import { useRecord } from "../job/here";
import { Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Dialogue } from "../parts/Sheets";
import { colours, Swatch } from "./Swatch";

interface AskedProps {
  wire: Wire;
  onClose: () => void;
}

const Grid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(10.625rem, 1fr));
  gap: 0.5rem;
`;

const Paint = styled(Plain)<{ $on: boolean }>`
  display: flex;
  gap: 0.625rem;
  align-items: center;
  padding: 0.5rem 0.625rem;
  border-width: ${(p) => (p.$on ? "0.25rem" : "0.125rem")};
`;

/** The colour of a lead as one sees it. What was said before stays in the record. */
export function Colour({ wire, onClose }: AskedProps) {
  const record = useRecord();
  const [colour, setColour] = useState(wire.colour);
  const [stripe, setStripe] = useState(wire.stripe);
  return (
    <Dialogue title={`The lead on ${wire.terminal}`} open onClose={onClose}>
      <Grid role="group" aria-label="Colour">
        {colours.map((c) => (
          <Paint key={c} $on={c === colour} aria-pressed={c === colour} onPress={() => setColour(c)}>
            <Swatch colour={c} stripe="" /> {c}
          </Paint>
        ))}
      </Grid>
      <Text label="Stripe, if it has one" value={stripe} onChange={setStripe} most={20} list="stripes" />
      <datalist id="stripes">
        {colours.map((c) => (
          <option key={c} value={c} />
        ))}
      </datalist>
      <Strong
        isDisabled={!colour}
        onPress={() => {
          onClose();
          if (wire.say) void record([plus(wire.say, { colour, stripe: stripe.trim() })]);
        }}
      >
        It is {stripe.trim() ? `${colour} with ${stripe.trim()} stripe` : colour || "…"}
      </Strong>
      <Plain onPress={onClose}>Leave it</Plain>
    </Dialogue>
  );
}

const proofs = ["the diagram", "one for one", "the maker's note"];

/** One lead goes over to the part that looks different: to which terminal, and by what that is known. */
export function MoveOver({ wire, onto, onClose }: AskedProps & { onto: string }) {
  const record = useRecord();
  const [to, setTo] = useState("");
  const [stop, setStop] = useState(false);
  const lead = `the ${wire.says} lead from ${wire.terminal}`;
  return (
    <Dialogue title={`${wire.says} from ${wire.terminal}`} open onClose={onClose}>
      <Text label={`Terminal on the new ${onto}`} value={to} onChange={setTo} most={20} first />
      <p>Known by:</p>
      {proofs.map((proof) => (
        <Strong
          key={proof}
          isDisabled={!to.trim()}
          onPress={() => {
            onClose();
            void record([{ kind: "lead.moved", body: { from: wire.wire, to: to.trim(), proof } }]);
          }}
        >
          {proof}: it is on {to.trim() || "…"}, tugged
        </Strong>
      ))}
      {stop ? (
        <Plain
          onPress={() => {
            onClose();
            void record([{ kind: "stopped", body: { why: `no place on the new ${onto} for ${lead}` } }]);
          }}
        >
          Stop, ask for help
        </Plain>
      ) : (
        <Plain onPress={() => setStop(true)}>No terminal for it</Plain>
      )}
    </Dialogue>
  );
}
