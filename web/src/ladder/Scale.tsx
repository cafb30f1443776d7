import styled from "styled-components";
import type { Asks } from "../offline/asks";

type Judged = Asks["judge"]["out"];

const Box = styled.figure<{ $good: boolean }>`
  display: grid;
  gap: 0.25rem;
  svg {
    width: 100%;
    height: 5.75rem;
    overflow: visible;
  }
  svg.beyond {
    width: 1px;
    height: 1px;
  }
  line {
    stroke: ${(p) => p.theme.ruleStrong};
    stroke-width: 2;
  }
  rect.limits {
    fill: ${(p) => p.theme.backOn};
    stroke: ${(p) => p.theme.back};
    stroke-width: 2;
  }
  rect.error {
    fill: ${(p) => p.theme.ink};
  }
  line.value {
    stroke: ${(p) => (p.$good ? p.theme.ink : p.theme.stop)};
    stroke-width: 5;
  }
  path {
    fill: ${(p) => p.theme.stop};
  }
  text {
    font: 500 0.9375rem ${(p) => p.theme.text};
    fill: ${(p) => p.theme.inkQuiet};
    text-anchor: middle;
  }
  text.value {
    font-size: 1.0625rem;
    font-weight: 700;
    fill: ${(p) => (p.$good ? p.theme.ink : p.theme.stop)};
  }
  figcaption {
    font-size: ${(p) => p.theme.work};
    line-height: 1.25;
    color: ${(p) => (p.$good ? p.theme.ink : p.theme.stop)};
    font-weight: ${(p) => (p.$good ? 400 : 600)};
  }
`;

/** A place of the scale across the drawing, in per cent; its ends lie within. Figures keep their size on a phone. */
const place = (at: number) => 5 + 90 * at;
const x = (at: number) => `${place(at)}%`;
const wide = (from: number, to: number) => `${Math.max(0, place(to) - place(from))}%`;

/** The value stands above its mark, but never over an edge of the drawing. */
const within = (at: number) => `${Math.min(88, Math.max(12, place(at)))}%`;

/** A reading that is being taken: between its limits, with what the meter's own error leaves, and in a sentence. */
export function Scale({ judged }: { judged: Judged }) {
  const { scale, say, verdict } = judged;
  const good = verdict === "pass";
  return (
    <Box $good={good} role="status" data-verdict={verdict}>
      {scale && (
        <svg aria-hidden="true">
          <line x1={x(0)} x2={x(1)} y1={48} y2={48} />
          {(scale.low !== null || scale.high !== null) && (
            <rect
              className="limits"
              x={x(scale.low ?? 0)}
              y={33}
              width={wide(scale.low ?? 0, scale.high ?? 1)}
              height={30}
            />
          )}
          <rect
            className="error"
            x={x(scale.error[0] ?? scale.at)}
            y={41}
            width={wide(scale.error[0] ?? scale.at, scale.error[1] ?? scale.at)}
            height={14}
          />
          {scale.beyond ? (
            <svg className="beyond" x={x(scale.at)} y={34}>
              <path d={scale.beyond === "right" ? "M 0 0 l 18 14 l -18 14 z" : "M 0 0 l -18 14 l 18 14 z"} />
            </svg>
          ) : (
            <line className="value" x1={x(scale.at)} x2={x(scale.at)} y1={26} y2={68} />
          )}
          <text className="value" x={within(scale.at)} y={18}>
            {scale.says}
          </text>
          {scale.marks.map((m) => (
            <g key={m.at}>
              <line x1={x(m.at)} x2={x(m.at)} y1={64} y2={70} />
              <text x={x(m.at)} y={88}>
                {m.say}
              </text>
            </g>
          ))}
        </svg>
      )}
      <figcaption>{say}</figcaption>
    </Box>
  );
}
