import styled from "styled-components";

/** One thing of a list: its name, what is known of it, and what can be done with it. */
export const Row = styled.article<{ $quiet?: boolean }>`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1.25rem;
  align-items: center;
  padding: 0.625rem 0.875rem 0.625rem 1.125rem;
  background: ${(p) => (p.$quiet ? "transparent" : p.theme.sheet)};
  border: 0.0625rem ${(p) => (p.$quiet ? "dashed" : "solid")} ${(p) => p.theme.ruleStrong};
  > div:first-child {
    flex: 1 1 16.25rem;
  }
  h2,
  h3 {
    font-size: 1.25rem;
    line-height: 1.25;
  }
  p {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
    white-space: pre-line;
  }
  a {
    color: ${(p) => p.theme.ink};
  }
`;

/** The same with one way on, which stays beside it on a phone. */
export const Line = styled(Row)`
  > div:first-child {
    flex-basis: 10rem;
  }
  > a {
    display: flex;
    align-items: center;
    min-height: ${(p) => p.theme.touchSmall};
    padding: 0 1.125rem;
  }
`;

/** What must not be overlooked. */
export const Warn = styled.strong`
  color: ${(p) => p.theme.caution};
`;

/** A heading of a group, with how many there are. */
export const Group = styled.h2`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 1.125rem;
  margin-top: 0.375rem;
  font-size: 1.0625rem;
  color: ${(p) => p.theme.inkQuiet};
`;
