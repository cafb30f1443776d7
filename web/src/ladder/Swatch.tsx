import { useId } from "react";
import { useTheme } from "styled-components";

/** How the colours that leads have are drawn. A colour that is not here is drawn hatched; its word says it. */
const paints: Record<string, string> = {
  black: "#1c1c1c",
  blue: "#2457a6",
  brown: "#6b3d1e",
  green: "#2f7d3b",
  grey: "#8b8f92",
  gray: "#8b8f92",
  orange: "#d9731a",
  pink: "#dd8fb0",
  purple: "#6f3d94",
  red: "#b01f27",
  tan: "#c3a06b",
  turquoise: "#2f9c9c",
  violet: "#6f3d94",
  white: "#f7f5ee",
  yellow: "#e8c12a",
};

/** The colours that can be chosen for a lead. */
export const colours = Object.keys(paints).filter((c) => c !== "gray" && c !== "purple");

interface SwatchProps {
  colour: string;
  stripe: string;
}

/** A lead drawn in its colour with its stripe; the words stand beside it. */
export function Swatch({ colour, stripe }: SwatchProps) {
  const t = useTheme();
  const id = useId();
  const base = paints[colour.toLowerCase()];
  const second = stripe ? (paints[stripe.toLowerCase()] ?? t.ruleStrong) : undefined;
  return (
    <svg width="108" height="24" viewBox="0 0 108 24" aria-hidden="true" style={{ flex: "none" }}>
      <defs>
        <pattern id={id} width="14" height="14" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
          <rect width="14" height="14" fill={base ?? t.sheet} />
          {second && <rect width="6" height="14" fill={second} />}
          {!base && <rect width="2" height="14" fill={t.ruleStrong} />}
        </pattern>
      </defs>
      <rect x="1" y="4" width="84" height="16" fill={`url(#${id})`} stroke={t.ink} strokeWidth="1.6" />
      <rect x="85" y="2" width="22" height="20" fill={t.sheet} stroke={t.ink} strokeWidth="1.6" />
    </svg>
  );
}
