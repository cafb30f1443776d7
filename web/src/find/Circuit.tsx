import styled from "styled-components";
import type { Find } from "../api/client";

type Line = Find["lines"][number];

const Figure = styled.figure`
  figcaption {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
    b {
      color: ${(p) => p.theme.ink};
      margin-right: 0.75rem;
    }
  }
  ol {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    margin-top: 0.625rem;
  }
`;

const Point = styled.li<{ $near: boolean; $gap: string }>`
  position: relative;
  padding-top: 1.75rem;
  padding-right: 0.5rem;
  font-size: ${(p) => p.theme.glance};
  line-height: 1.2;
  color: ${(p) => (p.$near ? p.theme.ink : p.theme.inkQuiet)};
  /* the gap to the next point */
  &:not(:last-child)::before {
    content: "";
    position: absolute;
    left: 1.25rem;
    right: 0;
    top: 0.5rem;
    border-top: ${(p) =>
      p.$gap === "cleared"
        ? `0.375rem solid ${p.theme.back}`
        : p.$gap === "suspect"
          ? `0.375rem dashed ${p.theme.out}`
          : `0.25rem dotted ${p.theme.ruleStrong}`};
  }
  &::after {
    content: "";
    position: absolute;
    left: 0;
    top: 0.0625rem;
    width: 0.875rem;
    height: 0.875rem;
    border: 0.1875rem solid ${(p) => (p.$near ? p.theme.ink : p.theme.ruleStrong)};
    border-radius: 50%;
    background: ${(p) => p.theme.paper};
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const said = (gap: string) => (gap === "cleared" ? "cleared" : gap === "suspect" ? "suspect" : "");

/** A series path as a line: what a test found closed, what is suspect, what is not in reach yet. */
export function Circuit({ line }: { line: Line }) {
  return (
    <Figure>
      <figcaption>
        <b>{line.name}</b>
        what is cleared, what is left, what is not in reach yet
      </figcaption>
      <ol>
        {line.points.map((p, i) => (
          <Point key={p.name} $near={p.state === "reach"} $gap={line.gaps[i] ?? ""}>
            {p.name}
            {p.state !== "reach" && <small>not in reach</small>}
            {said(line.gaps[i] ?? "") && <small>then {said(line.gaps[i] ?? "")}</small>}
          </Point>
        ))}
      </ol>
    </Figure>
  );
}
