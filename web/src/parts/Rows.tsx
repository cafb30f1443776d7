import styled from "styled-components";

/** One thing of a list: its name, what is known of it, and what can be done with it. */
export const Row = styled.article<{ $quiet?: boolean }>`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  padding: 10px 14px 10px 18px;
  background: ${(p) => (p.$quiet ? "transparent" : p.theme.sheet)};
  border: 1px ${(p) => (p.$quiet ? "dashed" : "solid")} ${(p) => p.theme.ruleStrong};
  > div:first-child {
    flex: 1 1 260px;
  }
  h2,
  h3 {
    font-size: 20px;
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

/** What must not be overlooked. */
export const Warn = styled.strong`
  color: ${(p) => p.theme.amber};
`;

/** A heading of a group, with how many there are. */
export const Group = styled.h2`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 18px;
  margin-top: 6px;
  font-size: 17px;
  color: ${(p) => p.theme.inkQuiet};
`;
