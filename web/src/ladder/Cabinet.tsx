import { memo } from "react";
import styled, { useTheme } from "styled-components";
import type { Drawing } from "../api/client";
import { phone, upright } from "../parts/theme";

const Figure = styled.figure`
  display: grid;
  justify-items: center;
  gap: 0.125rem;
  font-size: ${(p) => p.theme.small};
  color: ${(p) => p.theme.inkQuiet};
  text-align: center;
  svg {
    width: 16.875rem;
    max-width: 100%;
    height: auto;
    max-height: 18.75rem;
    ${upright} {
      width: 13.125rem;
    }
    ${phone} {
      width: 100%;
      max-height: 40vh;
    }
  }
  figcaption {
    max-width: 14.375rem;
  }
`;

/** A face of the cabinet, in the core's own strokes: this step's items lit, its fasteners where they sit. */
export const Cabinet = memo(function Cabinet({ picture, wide }: { picture: Drawing; wide?: boolean }) {
  const t = useTheme();
  if (picture.strokes.length === 0) return null;
  const look = (as: string) => {
    const is = (word: string) => as.split(" ").includes(word);
    const dashed = is("off") || is("hidden") ? "5 4" : undefined;
    if (is("lit")) return { fill: t.lit, stroke: t.ink, strokeWidth: 3, strokeDasharray: dashed };
    if (is("screw")) return { fill: t.sheet, stroke: t.ink, strokeWidth: 2, strokeDasharray: dashed };
    if (is("lead")) return { fill: "none", stroke: t.ink, strokeWidth: 1.2 };
    if (is("cabinet")) return { fill: t.sheet, stroke: t.ruleStrong, strokeWidth: 2 };
    return { fill: "none", stroke: t.ruleStrong, strokeWidth: 1.6, strokeDasharray: dashed };
  };
  return (
    <Figure style={wide ? { fontSize: 18 } : undefined}>
      <svg viewBox={`0 0 ${picture.width} ${picture.height}`} role="img" aria-label={picture.says}>
        {picture.strokes.map((s, i) => {
          const drawn = look(s.as);
          if (s.kind === "rect") return <rect key={i} x={s.x} y={s.y} width={s.w} height={s.h} {...drawn} />;
          if (s.kind === "path") return <path key={i} d={s.path} {...drawn} />;
          if (s.kind === "text") {
            const edge = s.as === "edge";
            return (
              <text
                key={i}
                x={s.x}
                y={s.y}
                fontSize={edge ? 20 : 30}
                fontWeight={edge ? 400 : 700}
                textAnchor={edge ? "middle" : "start"}
                fill={edge ? t.inkQuiet : t.ink}
              >
                {s.text}
              </text>
            );
          }
          return (
            <ellipse key={i} cx={s.x + s.w / 2} cy={s.y + s.h / 2} rx={s.w / 2} ry={s.h / 2} {...drawn} />
          );
        })}
      </svg>
      <figcaption>{picture.caption}</figcaption>
    </Figure>
  );
});
