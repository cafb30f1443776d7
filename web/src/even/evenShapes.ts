import styled from "styled-components";
import { low, phone, upright } from "../parts/theme";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 26.875rem;
  ${upright} {
    grid-template: auto minmax(0, 1fr) minmax(0, 0.8fr) auto / minmax(0, 1fr);
  }
  ${phone} {
    height: auto;
    min-height: 100dvh;
    grid-template: auto auto auto auto / minmax(0, 1fr);
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

export const Left = styled.main`
  overflow-y: auto;
  padding: 1rem 1.75rem;
  ${phone} {
    padding: 0.625rem 0.75rem;
  }
  display: flex;
  flex-direction: column;
  gap: 0.625rem;
  > * {
    flex: none;
  }
`;

export const Head = styled.section`
  display: flex;
  gap: 1.875rem;
  align-items: center;
  padding: 0.875rem 1.625rem;
  ${phone} {
    gap: 0.875rem;
    padding: 0.625rem 0.75rem;
    h1 {
      font-size: 1.5rem;
    }
  }
  background: ${(p) => p.theme.sheet};
  border: 0.125rem solid ${(p) => p.theme.ink};
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.15;
  }
  p {
    color: ${(p) => p.theme.inkQuiet};
  }
`;

export const Whole = styled.section`
  padding: 0.625rem 1.375rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  svg {
    display: block;
    width: 100%;
    max-height: 10rem;
  }
`;

export const Row = styled.article<{ $tone: "open" | "explained" | "stop" | "regular" }>`
  display: flex;
  flex-wrap: wrap;
  gap: 0.625rem;
  align-items: center;
  padding: 0.5rem 0.75rem 0.5rem 0.875rem;
  min-height: 4.625rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  border-left: 0.4375rem solid
    ${(p) => ({ open: p.theme.out, regular: p.theme.ruleStrong, explained: p.theme.back, stop: p.theme.stop })[p.$tone]};
  > div {
    flex: 1 1 16.25rem;
    min-width: 0;
  }
  h2 {
    font-size: 1.25rem;
    line-height: 1.25;
  }
  p {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

export const Group = styled.h2`
  margin-top: 0.25rem;
  font-size: ${(p) => p.theme.glance};
  color: ${(p) => p.theme.inkQuiet};
`;
