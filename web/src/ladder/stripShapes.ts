import { Button } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { Plain } from "../parts/Buttons";
import { phone, upright } from "../parts/theme";

/** The first thing that a keyboard meets: past the strip. */
export const Skip = styled(Button)`
  position: absolute;
  left: 0.75rem;
  top: -10rem;
  z-index: 5;
  padding: 0.75rem 1.125rem;
  background: ${(p) => p.theme.lit};
  color: ${(p) => p.theme.ink};
  font-weight: 700;
  border: 0;
  &[data-focused] {
    top: 0.5rem;
  }
`;

export const Top = styled.header`
  grid-column: 1 / -1;
`;

export const Bar = styled.div`
  display: flex;
  min-height: ${(p) => p.theme.strip};
  background: ${(p) => p.theme.sheet};
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.25;
`;

export const Cell = styled.div<{ $warn?: boolean; $minor?: boolean }>`
  display: grid;
  ${phone} {
    display: ${(p) => (p.$minor ? "none" : "grid")};
    padding: 0.25rem 0.75rem;
  }
  align-content: center;
  padding: 0.25rem 1.125rem;
  border-right: 0.0625rem solid ${(p) => p.theme.rule};
  background: ${(p) => (p.$warn ? p.theme.cautionOn : "none")};
  color: ${(p) => (p.$warn ? p.theme.caution : p.theme.ink)};
  small {
    font-size: ${(p) => p.theme.small};
    color: ${(p) => (p.$warn ? p.theme.caution : p.theme.inkQuiet)};
  }
`;

export const Name = styled(Link)`
  display: grid;
  align-content: center;
  padding: 0.25rem 1.125rem;
  border-right: 0.0625rem solid ${(p) => p.theme.rule};
  color: ${(p) => p.theme.ink};
  text-decoration: none;
  max-width: 20rem;
  ${phone} {
    display: none;
  }
  ${upright} {
    max-width: 14.375rem;
  }
  b {
    font-size: ${(p) => p.theme.work};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

export const Spring = styled.div`
  flex: 1;
`;

/** An emergency that a caller told of, until somebody has looked at it. */
export const Unused = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.375rem 0.875rem;
  padding: 0.5rem 1.125rem;
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.3;
  span {
    flex: 1 1 20rem;
  }
  a {
    padding: 0.75rem 1.125rem;
    border: 0.125rem solid ${(p) => p.theme.stopText};
    color: inherit;
    font-weight: 700;
  }
`;

export const StopButton = styled(Button)`
  padding: 0 2.125rem;
  ${phone} {
    padding: 0 1rem;
  }
  border: ${(p) => (p.theme.name === "torch" ? `0.125rem solid ${p.theme.stop}` : 0)};
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  font: 700 1.4375rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.lit};
    outline-offset: -0.375rem;
  }
`;

export const Reason = styled(Plain)`
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
  }
`;
