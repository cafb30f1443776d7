import styled from "styled-components";
import { low, phone, upright } from "../parts/theme";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1.08fr) minmax(0, 1fr) 20.625rem;
  ${upright} {
    grid-template: auto auto auto auto / minmax(0, 1fr) minmax(0, 1fr);
    height: auto;
    min-height: 100dvh;
  }
  ${phone} {
    grid-template: auto / minmax(0, 1fr);
    height: auto;
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

export const Column = styled.section`
  padding: 0.875rem 1.25rem;
  overflow-y: auto;
  display: grid;
  align-content: start;
  gap: 0.5625rem;
  & + & {
    border-left: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  }
  h1,
  h2 {
    font-size: 1.6875rem;
    line-height: 1.1;
  }
  .kicker {
    margin-top: 0.375rem;
    line-height: 1.3;
    font-size: ${(p) => p.theme.work};
    color: ${(p) => p.theme.inkQuiet};
    b {
      color: ${(p) => p.theme.ink};
      margin-right: 0.625rem;
    }
    font-weight: 400;
  }
  ${phone} {
    padding: 0.75rem 0.875rem;
    & + & {
      border-left: 0;
      border-top: 0.125rem solid ${(p) => p.theme.ink};
    }
  }
`;

export const Aside = styled(Column).attrs({ as: "aside" })`
  background: ${(p) => p.theme.well};
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  ${upright} {
    grid-column: 1 / -1;
  }
  ${phone} {
    grid-column: auto;
  }
`;

export const Rows = styled.ul`
  background: ${(p) => p.theme.sheet};
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.75rem;
    padding: 0.4375rem 0.75rem;
    line-height: 1.25;
    font-size: ${(p) => p.theme.work};
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.glance};
    text-align: right;
  }
`;

export const Lines = styled(Rows)`
  li {
    display: block;
  }
  span {
    display: block;
    text-align: left;
  }
`;

export const Way = styled.li<{ $best: boolean }>`
  && {
    border: ${(p) => (p.$best ? `0.1875rem solid ${p.theme.ink}` : `0.0625rem solid ${p.theme.ruleStrong}`)};
    background: ${(p) => (p.$best ? p.theme.lit : p.theme.sheet)};
    margin-bottom: 0.5rem;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0.125rem 0.75rem;
  }
  span,
  button {
    grid-column: 1 / -1;
    text-align: left;
  }
`;
