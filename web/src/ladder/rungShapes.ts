import styled from "styled-components";
import { moreBelow } from "../parts/scroll";
import { phone, upright } from "../parts/theme";

export const Main = styled.main`
  overflow-y: auto;
  ${moreBelow("paper")}
  ${phone} {
    padding: 0.625rem 0.875rem;
  }
  padding: 0.75rem 1.5rem 0.875rem;
  display: grid;
  align-content: start;
  gap: 0.5rem;
`;

export const Stand = styled.p`
  font-size: ${(p) => p.theme.work};
  color: ${(p) => p.theme.inkQuiet};
  b {
    color: ${(p) => p.theme.ink};
    margin-right: 0.75rem;
  }
  ${phone} {
    font-size: ${(p) => p.theme.small};
  }
`;

export const Title = styled.h1`
  font-size: ${(p) => p.theme.title};
  line-height: 1.1;
  &:focus-visible {
    outline-offset: 0.25rem;
  }
`;

export const Hazard = styled.div`
  display: flex;
  gap: 0.75rem;
  align-items: flex-start;
  padding: 0.5rem 1.375rem 0.5rem 0.75rem;
  background: ${(p) => p.theme.cautionOn};
  border: 0.125rem solid ${(p) => p.theme.caution};
  color: ${(p) => p.theme.caution};
  font-weight: 700;
  clip-path: polygon(0 0, calc(100% - 0.875rem) 0, 100% 0.875rem, 100% 100%, 0 100%);
`;

export const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1.5rem;
  align-items: start;
  ${upright} {
    gap: 0.875rem;
    figure svg {
      width: 9.375rem;
      height: auto;
    }
  }
  ${phone} {
    display: block;
    figure {
      float: right;
      width: 46%;
      max-width: 11.875rem;
      text-align: center;
      margin: 0 0 0.375rem 0.625rem;
    }
    figure svg {
      width: 100%;
      height: auto;
    }
    li {
      overflow: hidden;
      font-size: 1.25rem;
    }
  }
`;

/** The picture or the readings, beside the lines; on a phone the lines run round the picture. */
export const Aside = styled.div<{ $pictures?: boolean; $proof?: boolean }>`
  order: 2;
  max-width: ${(p) => (p.$proof ? "19.375rem" : "16.875rem")};
  ${(p) => p.$pictures && "figure svg { max-height: 11.875rem; }"}
  ${phone} {
    max-width: none;
  }
`;

export const Do = styled.ol`
  li {
    padding: 0.4375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.rung};
    line-height: 1.22;
  }
  li:first-child {
    padding-top: 0.125rem;
  }
`;

export const Facts = styled.dl`
  display: grid;
  grid-template-columns: 5.75rem minmax(0, 1fr);
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  font-size: 1.0625rem;
  line-height: 1.2;
  dt,
  dd {
    padding: 0.375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  dt {
    font-weight: 700;
  }
`;

export const Noted = styled.p`
  padding: 0.375rem 0 0.375rem 0.75rem;
  border-left: 0.25rem solid ${(p) => p.theme.ruleStrong};
  font-size: ${(p) => p.theme.work};
  line-height: 1.25;
`;

/** Pieces of a pair that may stay: side by side, and no ticks. */
export const KeptHere = styled.section`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
  gap: 0.5rem;
  small {
    display: block;
    font-weight: 400;
  }
`;

/** Harmless rungs at the same face: they may share a touch. */
export const Then = styled.section`
  display: grid;
  gap: 0.5rem;
  padding: 0.5rem 0.875rem 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ruleStrong};
  background: ${(p) => p.theme.sheet};
  h2 {
    font-size: ${(p) => p.theme.work};
  }
  li {
    font-size: ${(p) => p.theme.work};
    line-height: 1.3;
  }
  button small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
  }
`;

export const Taken = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.75rem;
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

export const Stack = styled.div`
  display: grid;
  gap: 0.5rem;
`;
