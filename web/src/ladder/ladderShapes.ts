import { Button } from "react-aria-components";
import styled from "styled-components";
import { phone } from "../parts/theme";

/** In pixels: the folded rows count into what fits a measured height. */
export const foldHeight = 30;

export const Column = styled.nav`
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: ${(p) => p.theme.sheet};
  border-right: 0.125rem solid ${(p) => p.theme.ink};
  ${phone} {
    border-right: 0;
  }
`;

export const Head = styled.div`
  display: flex;
  justify-content: space-between;
  padding: 0.75rem 1rem 0.375rem;
  font-weight: 700;
  font-size: ${(p) => p.theme.glance};
  span:first-child {
    color: ${(p) => p.theme.out};
  }
  span:last-child {
    color: ${(p) => p.theme.back};
  }
  span:nth-child(2) {
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

export const Rows = styled.ol`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  /* The two rails. */
  &::before,
  &::after {
    content: "";
    position: absolute;
    top: 0;
    bottom: 0;
    width: 0.25rem;
    background: ${(p) => p.theme.ruleStrong};
  }
  &::before {
    left: 1.9375rem;
  }
  &::after {
    right: 1.9375rem;
  }
`;

export const Item = styled.li<{ $dashed: boolean }>`
  position: relative;
  z-index: 1;
  &::before {
    content: "";
    position: absolute;
    left: 2.0625rem;
    right: 2.0625rem;
    top: 0;
    border-top: 0.125rem ${(p) => (p.$dashed ? "dashed" : "solid")} ${(p) => p.theme.ruleStrong};
  }
`;

export const Row = styled(Button)<{ $current: boolean; $shown: boolean; $height: number }>`
  position: relative;
  display: grid;
  grid-template-columns: 4.125rem minmax(0, 1fr) 4.125rem;
  align-items: center;
  width: 100%;
  height: ${(p) => p.$height}px;
  padding: 0;
  border: solid ${(p) => p.theme.ink};
  border-width: ${(p) => (p.$current ? "0.1875rem 0" : "0")};
  background: ${(p) => (p.$current ? p.theme.lit : "transparent")};
  color: ${(p) => p.theme.ink};
  font: 600 1.0625rem/1.1 ${(p) => p.theme.text};
  text-align: left;
  cursor: pointer;
  svg {
    justify-self: center;
  }
  span.words {
    grid-column: 2;
    ${(p) => p.$shown && !p.$current && "text-decoration: underline; text-underline-offset: 0.1875rem;"}
    ${(p) => p.$current && "font-size: 1.3125rem; font-weight: 700;"}
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  svg.back {
    grid-column: 3;
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: -0.25rem;
  }
`;

export const Cell = styled.span`
  display: grid;
  place-items: center;
`;

export const Fold = styled.li`
  position: relative;
  z-index: 1;
  height: ${foldHeight}px;
  padding: 0.3125rem 4.125rem;
  font-size: ${(p) => p.theme.small};
  color: ${(p) => p.theme.inkQuiet};
`;

export const Foot = styled.div`
  padding: 0.625rem 1rem 0.75rem;
  background: ${(p) => p.theme.strong};
  color: ${(p) => p.theme.doneText};
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  strong {
    display: block;
    font-size: ${(p) => p.theme.work};
    line-height: 1.2;
  }
  span {
    font-size: ${(p) => p.theme.glance};
  }
`;
