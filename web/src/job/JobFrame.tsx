import type { ComponentType, ReactNode } from "react";
import styled from "styled-components";
import { Strip } from "../ladder/Strip";
import { Lower } from "../parts/Frame";
import { useHold } from "../parts/Hold";
import { Complaint } from "../parts/Sheets";
import { Heard } from "../parts/text";
import { useTitle } from "../parts/title";
import { useJobHere } from "./here";

const Told = styled.div`
  position: fixed;
  left: 0;
  right: 0;
  bottom: ${(p) => p.theme.actions};
  z-index: 3;
`;

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
