import styled from "styled-components";
import { phone } from "../parts/theme";

export const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 0.875rem 1.75rem;
  align-items: start;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
  section {
    display: grid;
    gap: 0.625rem;
  }
  h2 {
    font-size: 1.3125rem;
    line-height: 1.15;
  }
  p {
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.glance};
  }
`;

export const Choices = styled.div`
  display: grid;
  gap: 0.375rem;
`;

export const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
`;

export const Lines = styled.ul`
  background: ${(p) => p.theme.sheet};
  font-size: ${(p) => p.theme.glance};
  li {
    padding: 0.375rem 0.75rem;
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
`;

export const Plate = styled.img`
  max-width: 100%;
  max-height: 11.25rem;
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
`;

/** A complaint, and that it is one of several. */
export const WithAlso = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.5rem;
  > :only-child {
    grid-column: 1 / -1;
  }
`;

/** Hazards somebody now: red, and before all else. */
export const Danger = styled.div`
  display: grid;
  gap: 0.5rem;
  padding: 0.875rem 1rem;
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  p {
    color: inherit;
  }
  h2 {
    font-size: 1.5rem;
  }
  ol {
    display: grid;
    gap: 0.375rem;
    padding-left: 1.3em;
    font-size: 1.125rem;
    line-height: 1.3;
  }
`;
