import type { ComponentType, MouseEvent, ReactNode } from "react";
import styled from "styled-components";
import { Strip } from "../ladder/Strip";
import { Lower } from "../parts/Frame";
import { useHold } from "../parts/Hold";
import { Complaint } from "../parts/Sheets";
import { Heard } from "../parts/text";
import { useTitle } from "../parts/title";
import { useJobHere } from "./here";

/** The first thing that a keyboard meets: past the strip. */
const Skip = styled.a`
  position: absolute;
  left: 0.75rem;
  top: -10rem;
  z-index: 5;
  padding: 0.75rem 1.125rem;
  background: ${(p) => p.theme.lit};
  color: ${(p) => p.theme.ink};
  font-weight: 700;
  &:focus {
    top: 0.5rem;
  }
`;

const Told = styled.div`
  position: fixed;
  left: 0;
  right: 0;
  bottom: ${(p) => p.theme.actions};
  z-index: 3;
`;

function toContent(event: MouseEvent) {
  event.preventDefault();
  const main = document.querySelector("main");
  if (!main) return;
  main.tabIndex = -1;
  main.focus();
}

interface JobFrameProps {
  /** What stands in the browser's title before the job's. */
  name: string;
  /** The grid that its parts stand in. */
  shape: ComponentType<{ children: ReactNode }>;
  children: ReactNode;
  /** At the lower edge, under either thumb. */
  actions?: ReactNode;
  /** Below the actions: the places of a phone. */
  foot?: ReactNode;
  /** What went wrong on the screen itself. */
  wrong?: string;
}

/** What every screen of a job has: the strip, its content, its actions, what was refused, and its title. */
export function JobFrame({ name, shape: Shape, children, actions, foot, wrong }: JobFrameProps) {
  const { view, refused } = useJobHere();
  const { left } = useHold();
  useTitle(`${name}: ${view.title}`);
  const amiss = refused ?? wrong;
  return (
    <Shape>
      <Skip href="#content" onClick={toContent}>
        To the content
      </Skip>
      <Strip />
      {children}
      {amiss && (
        <Told>
          <Complaint role="alert">{amiss}</Complaint>
        </Told>
      )}
      {actions && <Lower $left={left}>{actions}</Lower>}
      {foot}
      <Heard role="status">{view.undo && `Recorded: ${view.undo.say}`}</Heard>
    </Shape>
  );
}
