import styled from "styled-components";
import { phone, upright } from "./theme";

/** The lower strip of a screen: its actions, at the lower edge, within reach of either thumb. */
export const Lower = styled.footer<{ $left?: boolean }>`
  grid-column: 1 / -1;
  display: flex;
  flex-direction: ${(p) => (p.$left ? "row-reverse" : "row")};
  gap: 10px;
  padding: 12px 14px;
  min-height: ${(p) => p.theme.actions};
  background: ${(p) => p.theme.sheet};
  border-top: 2px solid ${(p) => p.theme.ink};
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
    gap: 8px;
    padding: 8px 10px;
    > button {
      flex: 1 1 28%;
      min-height: 56px;
      padding: 6px 10px;
      font-size: 17px;
      line-height: 1.15;
    }
    > button:last-of-type:not(:first-of-type) {
      flex: 1 0 100%;
      min-height: 76px;
      padding: 8px 18px;
      font-size: 23px;
    }
    kbd {
      display: none;
    }
    small {
      font-size: 15px;
      line-height: 1.15;
    }
  }
`;
