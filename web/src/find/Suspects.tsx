import { useState } from "react";
import styled from "styled-components";
import type { Find } from "../api/client";
import { Plain } from "../parts/Buttons";
import { Heard } from "../parts/text";

const Row = styled.li`
  padding: 0.5rem 0.75rem 0.625rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  div {
    display: flex;
    justify-content: space-between;
    gap: 0.625rem;
    font-size: ${(p) => p.theme.work};
    line-height: 1.25;
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.glance};
    text-align: right;
    white-space: nowrap;
  }
  svg {
    display: block;
    width: 100%;
    height: 1.125rem;
    margin-top: 0.25rem;
  }
  rect.ground {
    fill: ${(p) => p.theme.well};
  }
  rect.now {
    fill: ${(p) => p.theme.ink};
  }
  rect.was {
    fill: ${(p) => p.theme.out};
  }
`;

const List = styled.ul`
  display: grid;
  gap: 0.4375rem;
`;

const few = 3;

/** The likeliest in words, each with a bar and a mark where it stood before the last result. */
export function Suspects({ find }: { find: Find }) {
  const [all, setAll] = useState(false);
  const shown = all ? find.suspects : find.suspects.slice(0, few);
  const rest = find.suspects.length - few;
  return (
    <>
      <h2>Suspects</h2>
      <List>
        {shown.map((s) => (
          <Row key={s.fault}>
            <div>
              <b>{s.name}</b>
              <span>{s.about}</span>
            </div>
            <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
              <rect className="ground" width="100" height="10" y="2" />
              <rect className="now" width={s.p * 100} height="10" y="2" />
              {Math.abs(s.was - s.p) > 0.005 && (
                <rect className="was" x={Math.min(99, s.was * 100)} width="1" height="12" />
              )}
            </svg>
            {Math.abs(s.was - s.p) > 0.005 && (
              <Heard>before the last result {Math.round(s.was * 100)} %</Heard>
            )}
          </Row>
        ))}
      </List>
      {rest > 0 && (
        <Plain onPress={() => setAll(!all)}>
          {all ? "Only the first three" : rest === 1 ? "One more suspect" : `${rest} more suspects`}
        </Plain>
      )}
    </>
  );
}
