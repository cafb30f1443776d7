import styled from "styled-components";
import { low, phone, upright } from "./theme";

/** The lower strip of a screen: its actions, at the lower edge, within reach of either thumb. */
export const Lower = styled.footer<{ $left?: boolean }>`
  grid-column: 1 / -1;
  position: sticky;
  bottom: 0;
  z-index: 2;
  display: flex;
  flex-direction: ${(p) => (p.$left ? "row-reverse" : "row")};
  gap: 0.625rem;
  padding: 0.75rem 0.875rem;
  min-height: ${(p) => p.theme.actions};
  background: ${(p) => p.theme.sheet};
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  ${upright} {
    flex-wrap: wrap;
    > button {
      flex: 1 1 28%;
    }
    > button:last-of-type:not(:first-of-type) {
      flex: 1 0 100%;
    }
  }
  ${phone} {
    flex-wrap: wrap;
    gap: 0.5rem;
    padding: 0.5rem 0.625rem;
    > button {
      flex: 1 1 28%;
      min-height: 3.5rem;
      padding: 0.375rem 0.625rem;
      font-size: 1.0625rem;
      line-height: 1.15;
    }
    > button:last-of-type:not(:first-of-type) {
      flex: 1 0 100%;
      min-height: 4.75rem;
      padding: 0.5rem 1.125rem;
      font-size: 1.4375rem;
    }
    kbd {
      display: none;
    }
    small {
      font-size: 0.9375rem;
      line-height: 1.15;
    }
    /* Many of them say only what they are called, so that half the screen is left. */
    &:has(> button:nth-of-type(5)) > button:not(:last-of-type) {
      flex-basis: 40%;
      min-height: 3rem;
      small {
        display: none;
      }
    }
  }
  ${low} {
    flex-wrap: nowrap;
    min-height: 0;
    padding: 0.25rem 0.5rem;
    > button,
    > button:last-of-type:not(:first-of-type) {
      flex: 1 1 0;
      min-height: 3rem;
      padding: 0.25rem 0.625rem;
      font-size: 1.0625rem;
    }
    > button:last-of-type:not(:first-of-type) {
      flex: 2 1 0;
    }
    kbd,
    small {
      display: none;
    }
  }
`;
