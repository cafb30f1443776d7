import styled from "styled-components";

/** The middle of the job where no step stands in it. */
export const Middle = styled.main`
  padding: 1.5rem;
  display: grid;
  align-content: start;
  gap: 1rem;
  h1 {
    font-size: ${(p) => p.theme.title};
    line-height: 1.1;
  }
`;
