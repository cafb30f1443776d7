import { css } from "styled-components";

/** A field that figures are typed into: its edge, its ground, its example and its focus. */
export const typedIn = css`
  input {
    padding: 0.25rem 0.625rem;
    border: 0.125rem solid ${(p) => p.theme.ruleStrong};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
  }
  input::placeholder {
    color: ${(p) => p.theme.inkQuiet};
    font-weight: 400;
    opacity: 1;
  }
  input:focus {
    border-color: ${(p) => p.theme.ink};
    outline: 0.125rem solid ${(p) => p.theme.ink};
  }
`;
