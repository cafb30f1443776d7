import { memo } from "react";
import { useTheme } from "styled-components";
import type { JobRow } from "../api/client";

const pitch = 16;
const widest = 226;

/** A job's ladder lying on its side: out above, back below; whole fills its place. Filled above and hollow below is still off. */
export const LyingLadder = memo(function LyingLadder({
  marks,
  whole,
}: {
  marks: JobRow["marks"];
  whole?: boolean;
}) {
  const t = useTheme();
  const width = Math.max(1, marks.length) * pitch + 8;
  const off = marks.filter((m) => m.out === "done" && (m.back === "due" || m.back === "half")).length;
  const done = marks.filter((m) => m.back === "done").length;
  return (
    <svg
      viewBox={`0 0 ${whole ? width : Math.max(width, widest)} 62`}
      width={whole ? undefined : widest}
      preserveAspectRatio="xMinYMid meet"
      role="img"
      aria-label={`${marks.length} steps, ${off} still off, ${done} back`}
    >
      <path d={`M0 10 H${width} M0 52 H${width}`} stroke={t.ruleStrong} strokeWidth="2" />
      {marks.map((m, i) => {
        const x = i * pitch + 5;
        const out = m.out === "done" ? t.out : t.sheet;
        const back = m.back === "done" ? t.back : t.sheet;
        const due = m.back === "due" || m.back === "half";
        return (
          <g key={i}>
            <path
              d={`M${x + 6} 18 V44`}
              stroke={t.ruleStrong}
              strokeDasharray={m.out === "none" ? "3 3" : undefined}
            />
            {m.out !== "none" && (
              <path
                d={`M${x} 4 h12 v8 l-6 5 l-6 -5 Z`}
                fill={out}
                stroke={m.out === "todo" ? t.ruleStrong : t.out}
                strokeWidth={1.4}
                strokeDasharray={m.out === "lapsed" ? "2 2" : undefined}
              />
            )}
            {m.back !== "none" && (
              <path
                d={`M${x} 58 h12 v-8 l-6 -5 l-6 5 Z`}
                fill={back}
                stroke={m.back === "todo" ? t.ruleStrong : t.back}
                strokeWidth={due ? 2.4 : 1.4}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
});
