import { useRef, type ReactNode } from "react";
import { Button } from "react-aria-components";
import styled, { css } from "styled-components";
import type { Theme } from "./theme";

const calm = css`
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.1875rem;
  }
`;

/** At most so many lines: the strip keeps its height, so that nothing moves under a finger. */
const lines = (n: number) => css`
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: ${n};
  overflow: hidden;
`;

/** How a button with a strong edge looks. */
const plain = css`
  min-height: ${(p) => p.theme.touchSmall};
  padding: 0.5rem 1.125rem;
  border: 0.125rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.paper};
  color: ${(p) => p.theme.ink};
  font: 600 ${(p) => p.theme.work} / 1.2 ${(p) => p.theme.text};
  text-align: left;
  cursor: pointer;
  &[data-pressed] {
    background: ${(p) => p.theme.well};
  }
  &[data-disabled] {
    border-style: dashed;
    background: ${(p) => p.theme.sheet};
    color: ${(p) => p.theme.inkQuiet};
    cursor: default;
  }
  ${calm}
`;

/** A plain button with a strong edge. */
export const Plain = styled(Button)`
  ${plain}
`;

/** The one that leads on. */
export const Strong = styled(Plain)`
  background: ${(p) => p.theme.strong};
  color: ${(p) => p.theme.doneText};
  text-align: center;
  &[data-pressed] {
    filter: brightness(1.4);
    background: ${(p) => p.theme.strong};
  }
`;

const Tall = styled(Plain)`
  position: relative;
  min-height: 5rem;
  padding: 0.625rem 2.75rem 0.625rem 1rem;
  small {
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
    max-width: 18ch;
    ${lines(2)}
  }
`;

const Key = styled.kbd`
  position: absolute;
  top: 0.5rem;
  right: 0.625rem;
  font: 500 ${(p) => p.theme.small} / 1 ${(p) => p.theme.mono};
`;

interface ActionProps {
  label: string;
  says?: string;
  letter?: string;
  onPress: () => void;
}

/** An action of the lower strip, with the letter that does the same. */
export function Action({ label, says, letter, onPress }: ActionProps) {
  return (
    <Tall onPress={onPress}>
      {label}
      {says && <small>{says}</small>}
      {letter && <Key aria-hidden="true">{letter}</Key>}
    </Tall>
  );
}

type Which = "out" | "back" | "even";

const edge = (theme: Theme, side: Which) => ({ out: theme.out, back: theme.back, even: theme.ink })[side];

const DoneButton = styled(Button)<{ $side: Which; $open: boolean; $long: boolean }>`
  position: relative;
  flex: 1;
  min-width: 16.25rem;
  min-height: 5rem;
  padding: ${(p) => (p.$long ? "0.25rem" : "0.625rem")} 4.75rem ${(p) => (p.$long ? "0.25rem" : "0.625rem")}
    1.5rem;
  border: ${(p) => (p.theme.name === "torch" ? `0.125rem solid ${edge(p.theme, p.$side)}` : 0)};
  color: ${(p) => (p.theme.name === "torch" ? edge(p.theme, p.$side) : p.theme.doneText)};
  background: ${(p) => ({ out: p.theme.doneOut, back: p.theme.doneBack, even: p.theme.strong })[p.$side]};
  clip-path: ${(p) =>
    p.$side === "back"
      ? "polygon(0 0, calc(100% - 1.375rem) 0, 100% 1.375rem, 100% 100%, 0 100%)"
      : "polygon(0 0, 100% 0, 100% calc(100% - 1.375rem), calc(100% - 1.375rem) 100%, 0 100%)"};
  text-align: left;
  cursor: pointer;
  font: 700 ${(p) => (p.$long ? "1.3125rem/1.1" : "1.75rem/1.15")} ${(p) => p.theme.text};
  small {
    display: block;
    margin-top: 0.125rem;
    font-size: ${(p) => (p.$long ? p.theme.glance : p.theme.work)};
    font-weight: 500;
  }
  &[data-pressed] {
    filter: brightness(1.2);
  }
  &[data-focus-visible] {
    box-shadow: inset 0 0 0 0.25rem ${(p) => p.theme.lit};
  }
  ${(p) =>
    p.$open &&
    css`
      clip-path: none;
      color: ${p.theme.ink};
      background: ${p.theme.sheet};
      border: 0.1875rem dashed ${edge(p.theme, p.$side)};
      &[data-focus-visible] {
        box-shadow: none;
        outline: 0.1875rem solid ${p.theme.ink};
        outline-offset: 0.125rem;
      }
    `}
`;

/** A second touch within this is a slip of a wet glove. */
export const slip = 700;

/** Lets a touch through, and not a second one right after it. */
export function useOnce(act: () => void) {
  const last = useRef(-slip);
  return () => {
    const now = performance.now();
    if (now - last.current < slip) return;
    last.current = now;
    act();
  };
}

interface DoneProps {
  side: Which;
  label: string;
  says: string;
  /** What is still to look at: the touch then records half. */
  open?: string[];
  /** There is no half of it: what is open comes first. */
  whole?: boolean;
  /** Not yet: dashed, in its own words. */
  notYet?: boolean;
  letter?: string;
  onPress: () => void;
}

/** Done says on itself what it will record. While something is open it is dashed and says what. */
export function Done({
  side,
  label,
  says,
  open = [],
  whole,
  notYet,
  letter = "Space",
  onPress,
}: DoneProps): ReactNode {
  const first = open[0];
  const more = open.length > 1 ? `, and ${open.length - 1} more` : "";
  const words = first ? `Still open: ${first}${more}` : label;
  return (
    <DoneButton $side={side} $open={notYet || open.length > 0} $long={words.length > 32} onPress={onPress}>
      {words}
      <small>{first ? (whole ? `then “${label}”` : `a touch records half; then “${label}”`) : says}</small>
      <Key aria-hidden="true">{letter}</Key>
    </DoneButton>
  );
}

/** One of several answers; the one that holds is pressed. */
export const Choice = styled(Plain)`
  &[aria-pressed="true"] {
    background: ${(p) => p.theme.lit};
    border-width: 0.25rem;
    padding: 0.375rem 1rem;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

/** How one of several answers looks; the one that holds is marked. */
export const answer = css`
  ${plain}
  &[data-selected] {
    background: ${(p) => p.theme.lit};
    border-width: 0.25rem;
    padding: 0.375rem 1rem;
  }
`;
