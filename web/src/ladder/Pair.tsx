import styled from "styled-components";
import { plus, type Lot, type Side } from "../api/client";
import { useRecord } from "../job/here";
import { Astray, Step } from "./Counter";

const Beside = styled.span`
  display: inline-flex;
  gap: 0.5rem;
  margin-left: 0.75rem;
  vertical-align: middle;
`;

/** One fact of a step; where it is a lot that was accepted, it can be corrected here. */
export const Pair = ({ fact, lot }: { fact: Side["facts"][number]; lot?: Lot }) => (
  <>
    <dt>{fact.name}</dt>
    <dd>
      {fact.say}
      {lot && <Correct lot={lot} />}
    </dd>
  </>
);

/** What is accepted as the map says may be counted otherwise, or one may be gone. */
function Correct({ lot }: { lot: Lot }) {
  const record = useRecord();
  const less = lot.count - 1;
  const send = (count: number) => void record([plus(lot.tally, { count })]);
  return (
    <Beside>
      {less >= 0 && (
        <Step aria-label={`Only ${less}: ${lot.kind}`} onPress={() => send(less)}>
          {less}
        </Step>
      )}
      <Step aria-label={`${lot.count + 1} of them: ${lot.kind}`} onPress={() => send(lot.count + 1)}>
        {lot.count + 1}
      </Step>
      <Astray lot={lot} />
    </Beside>
  );
}
