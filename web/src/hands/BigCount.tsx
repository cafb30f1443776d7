import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { plus, type Lot } from "../api/client";
import { useRecord } from "../job/here";
import { nouns } from "../ladder/Counter";

export const Card = styled.div`
  margin-bottom: 1rem;
  padding: 0.75rem 1.125rem;
  border: 0.1875rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.lit};
  font-size: 1.5rem;
  line-height: 1.2;
  b {
    display: block;
    font-size: 3.375rem;
    line-height: 1;
  }
  div {
    display: flex;
    gap: 0.625rem;
    margin-top: 0.625rem;
  }
`;

const Bigger = styled(Button)`
  flex: 1;
  min-height: 5.75rem;
  border: 0.1875rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.paper};
  color: ${(p) => p.theme.ink};
  font: 700 2.5rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.25rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

/** A count in steps that a glove finds. It goes on the record when it is said to be all. */
export function BigCount({ lot, home }: { lot: Lot; home: boolean }) {
  const record = useRecord();
  const [count, setCount] = useState(0);
  const send = (n: number) => record([plus(lot.tally, { count: n })]);
  return (
    <Card>
      <b>
        {count} of {lot.count}
      </b>
      {nouns(lot)}, {lot.kind} {home ? "home from" : "into"} {lot.tray || "a bag"}
      <div>
        <Bigger aria-label="One less" isDisabled={count === 0} onPress={() => setCount(count - 1)}>
          −
        </Bigger>
        <Bigger aria-label="One more" onPress={() => setCount(count + 1)}>
          +
        </Bigger>
      </div>
      <div>
        <Bigger aria-label={`That is ${count}`} isDisabled={count === 0} onPress={() => send(count)}>
          {count} it is
        </Bigger>
      </div>
    </Card>
  );
}
