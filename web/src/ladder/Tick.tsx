import { useRef, useState, type ReactNode } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { slip } from "../parts/Buttons";

/** One thing that is so or not yet so: a square to tick and its words. */
export const Tick = styled(Button)<{ $ticked: boolean }>`
  display: flex;
  gap: 0.875rem;
  align-items: center;
  min-height: 3.75rem;
  width: 100%;
  padding: 0.5rem 0.875rem;
  border: 0.125rem solid ${(p) => p.theme.back};
  background: ${(p) => p.theme.sheet};
  color: ${(p) => p.theme.ink};
  font: 600 1.1875rem/1.25 ${(p) => p.theme.text};
  text-align: left;
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
  i {
    flex: none;
    display: grid;
    place-items: center;
    width: 1.875rem;
    height: 1.875rem;
    border: 0.1562rem solid ${(p) => p.theme.back};
    background: ${(p) => (p.$ticked ? p.theme.back : "transparent")};
    color: ${(p) => p.theme.onStrong};
    font-style: normal;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

/**
 * A tick that shows at once, and lets no second touch through right after the first: a slip of a wet
 * glove, or a slow device touched again.
 */
export function useTick(ticked: boolean, act: () => Promise<unknown> | undefined): [boolean, () => void] {
  const [wanted, setWanted] = useState<boolean>(); // while it is being kept
  const last = useRef(-slip);
  const press = () => {
    const now = performance.now();
    if (wanted !== undefined || now - last.current < slip) return;
    const doing = act();
    if (!doing) return;
    last.current = now;
    setWanted(!ticked);
    void doing.finally(() => setWanted(undefined));
  };
  return [wanted ?? ticked, press];
}

interface TickedProps {
  ticked: boolean;
  isDisabled?: boolean;
  act: () => Promise<unknown> | undefined;
  children: ReactNode;
}

/** One thing to tick, guarded. */
export function Ticked({ ticked, isDisabled, act, children }: TickedProps) {
  const [shown, press] = useTick(ticked, act);
  return (
    <Tick $ticked={shown} aria-pressed={shown} isDisabled={isDisabled} onPress={press}>
      <i aria-hidden="true">{shown ? "✓" : ""}</i>
      <span>{children}</span>
    </Tick>
  );
}
