import styled from "styled-components";
import { figures } from "../parts/Figure";
import { low, phone } from "../parts/theme";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

export const Top = styled.section`
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.875rem;
  padding: 0.5rem 2.5rem;
  background: ${(p) => p.theme.sheet};
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  font-size: 1.375rem;
  ${phone} {
    padding: 0.375rem 0.875rem;
    font-size: 1.125rem;
  }
`;

export const Main = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 20.625rem;
  gap: 1.875rem;
  padding: 1.375rem 2.75rem;
  overflow-y: auto;
  align-content: start;
  h1 {
    font-size: 3.625rem;
    line-height: 1.05;
  }
  ${phone} {
    display: block;
    padding: 0.75rem 0.875rem;
    h1 {
      font-size: 2.5rem;
    }
  }
`;

export const Big = styled.p`
  margin-top: 1.125rem;
  font-size: 2.875rem;
  line-height: 1.2;
  ${phone} {
    font-size: 2.5rem;
  }
`;

export const Bite = styled.p`
  margin-top: 0.875rem;
  padding: 0.625rem 1.125rem;
  background: ${(p) => p.theme.cautionOn};
  border: 0.125rem solid ${(p) => p.theme.caution};
  color: ${(p) => p.theme.caution};
  font-size: 1.875rem;
  font-weight: 700;
  line-height: 1.2;
`;

/** What is written down at a line, as large as the line. */
export const Typed = styled.div`
  margin-top: 1.125rem;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.75rem 1.25rem;
  font-size: 1.875rem;
  ${figures}
  input {
    width: 16.25rem;
    min-height: 5.25rem;
    font: 600 2.75rem/1 ${(p) => p.theme.mono};
    text-align: right;
  }
  small {
    display: block;
    font-size: inherit;
    font-weight: 400;
  }
  .answers {
    flex: 1;
  }
  .asked {
    display: none;
  }
  [role="radiogroup"] {
    display: grid;
    gap: 0.75rem;
  }
  button {
    min-height: 5.75rem;
    font-size: 2.125rem;
  }
`;
