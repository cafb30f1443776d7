import styled, { useTheme } from "styled-components";
import type { Mark } from "../api/client";

const words: Record<Mark, string> = {
  none: "",
  todo: "not yet",
  half: "half done",
  due: "came off, not back",
  done: "done",
  lapsed: "proof ended",
};

interface FlagProps {
  side: "out" | "back";
  mark: Mark;
  size?: number;
}

/** A flag of the ladder: its point down for out, up for back. */
export function Flag({ side, mark, size = 28 }: FlagProps) {
  const t = useTheme();
  if (mark === "none") return null;
  const colour = side === "out" ? t.out : t.back;
  const edge = mark === "todo" ? 1.5 : mark === "due" ? 3.2 : 2.4;
  const shape = side === "out" ? "M2 3 H26 V18 L14 26 L2 18 Z" : "M2 25 H26 V10 L14 2 L2 10 Z";
  const half = side === "out" ? "M2 3 H26 V13 H2 Z" : "M2 25 H26 V14 H2 Z";
  return (
    <svg width={size} height={size} viewBox="0 0 28 28" role="img" aria-label={`${side}: ${words[mark]}`}>
      <path
        d={shape}
        fill={mark === "done" ? colour : t.sheet}
        stroke={mark === "todo" ? t.ruleStrong : colour}
        strokeWidth={edge}
        strokeDasharray={mark === "lapsed" ? "4 3" : undefined}
        strokeLinejoin="miter"
      />
      {mark === "half" && <path d={half} fill={colour} />}
    </svg>
  );
}

/** Two level bars with one step: even. */
export function EvenMark({ size = 76 }: { size?: number }) {
  const t = useTheme();
  return (
    <svg width={size} height={(size * 62) / 76} viewBox="0 0 76 62" aria-hidden="true">
      <path d="M0 8 H30 V0 H76 V11 H40 V19 H0 Z" fill={t.out} />
      <path d="M0 51 H30 V43 H76 V54 H40 V62 H0 Z" fill={t.back} />
    </svg>
  );
}

/** A caution: never alone, its sentence stands beside it. */
export function CautionMark() {
  const t = useTheme();
  return (
    <Fixed width="24" height="22" viewBox="0 0 24 22" aria-hidden="true">
      <path
        d="M12 2 L22.5 20 H1.5 Z"
        fill="none"
        stroke={t.caution}
        strokeWidth="2.2"
        strokeLinejoin="round"
      />
      <path d="M12 8 V14" stroke={t.caution} strokeWidth="2.4" />
      <circle cx="12" cy="17" r="1.4" fill={t.caution} />
    </Fixed>
  );
}

const Fixed = styled.svg`
  flex: none;
`;
