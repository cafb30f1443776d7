import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Fit } from "../api/client";

const Card = styled(Button)<{ $chosen: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.125rem 0.875rem;
  padding: 0.625rem 0.875rem;
  text-align: left;
  cursor: pointer;
  color: ${(p) => p.theme.ink};
  background: ${(p) => (p.$chosen ? p.theme.lit : p.theme.sheet)};
  border: ${(p) => (p.$chosen ? 4 : 2)}px solid ${(p) => p.theme.ink};
  margin: ${(p) => (p.$chosen ? 0 : 2)}px;
  font: 400 ${(p) => p.theme.glance} / 1.3 ${(p) => p.theme.text};
  b {
    font-size: 1.3125rem;
    line-height: 1.2;
  }
  .whole {
    grid-column: 1 / -1;
  }
  .right {
    text-align: right;
    white-space: nowrap;
  }
  small {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.1875rem;
  }
`;

const Bar = styled.span`
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 0.75rem;
  margin-top: 0.25rem;
  svg {
    width: 11.875rem;
    height: 0.75rem;
    flex: none;
  }
  rect {
    fill: ${(p) => p.theme.paper};
    stroke: ${(p) => p.theme.ink};
  }
  rect.full {
    fill: ${(p) => p.theme.ink};
  }
`;

const ten = Array.from({ length: 10 }, (_, i) => i);

interface FitCardProps {
  fit: Fit;
  time: string;
  cheapest: boolean;
  chosen: boolean;
  onChoose: () => void;
}

/** One thing to fit, or the test that may spare it: minutes, price, how likely it is to hold, and what it comes to. */
export function FitCard({ fit, time, cheapest, chosen, onChoose }: FitCardProps) {
  return (
    <Card $chosen={chosen} aria-pressed={chosen} onPress={onChoose}>
      <b>{fit.title}</b>
      <b className="right">
        {fit.test ? `+ ${time}` : time}
        {fit.costs && <small> · {fit.costs}</small>}
      </b>
      <small className="whole">
        {fit.says.map((s) => (
          <span key={s}>
            {s}
            <br />
          </span>
        ))}
        {fit.whole}
        {cheapest && ", the least"}
      </small>
      <Bar>
        <svg viewBox="0 0 190 12" aria-hidden="true">
          {ten.map((i) => (
            <rect
              key={i}
              x={i * 19 + 0.5}
              y={0.5}
              width={16}
              height={11}
              className={i < Math.round(fit.holds * 10) ? "full" : ""}
            />
          ))}
        </svg>
        <small>
          {fit.test ? "then holds" : "holds"} {fit.about}
        </small>
      </Bar>
    </Card>
  );
}
