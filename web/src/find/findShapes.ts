import styled from "styled-components";
import { low, phone, upright } from "../parts/theme";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 25rem;
  ${upright} {
    grid-template-columns: minmax(0, 1fr) 18.75rem;
  }
  ${phone} {
    grid-template: auto 1fr auto auto / minmax(0, 1fr);
    height: auto;
    min-height: 100dvh;
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

export const Main = styled.main`
  padding: 0.875rem 1.625rem;
  overflow-y: auto;
  display: grid;
  align-content: start;
  gap: 0.75rem;
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.1;
  }
  ${phone} {
    padding: 0.75rem 0.875rem;
  }
`;

export const Head = styled.p`
  b {
    margin-right: 0.75rem;
  }
  color: ${(p) => p.theme.inkQuiet};
`;

export const Steps = styled.ol`
  li {
    padding: 0.4375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.rung};
    line-height: 1.22;
  }
`;

export const Outcomes = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12.5rem, 1fr));
  gap: 0.75rem;
  button {
    min-height: 5.25rem;
    text-align: left;
  }
`;

export const Aside = styled.aside`
  padding: 0.625rem 1.125rem 0.875rem;
  overflow-y: auto;
  background: ${(p) => p.theme.well};
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  display: grid;
  align-content: start;
  gap: 0.5rem;
  h2 {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

export const Rows = styled.ul`
  background: ${(p) => p.theme.sheet};
  li {
    display: flex;
    gap: 0.625rem;
    align-items: center;
    justify-content: space-between;
    padding: 0.375rem 0.75rem;
    min-height: 2.75rem;
    font-size: ${(p) => p.theme.glance};
    line-height: 1.25;
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
  }
  button {
    flex: none;
    white-space: nowrap;
  }
`;

export const Shown = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12.5rem, 1fr));
  gap: 0.75rem;
  li {
    padding: 0.75rem 0.875rem;
    background: ${(p) => p.theme.sheet};
    border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
    font-size: ${(p) => p.theme.glance};
  }
  b {
    display: block;
    font-size: 1.25rem;
  }
`;

export const Takes = styled.dl`
  display: grid;
  grid-template-columns: 11.25rem minmax(0, 1fr);
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.work};
  dt,
  dd {
    padding: 0.5625rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  dt {
    font-weight: 700;
  }
`;
