import { Button } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { low, phone, upright } from "../parts/theme";

/** What a phone shows one at a time. */
export type PlaceName = "ladder" | "rung" | "bench";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / ${(p) => p.theme.ladder} minmax(0, 1fr) ${(p) => p.theme.bench};
  ${upright} {
    grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr) 18.75rem;
  }
  ${phone} {
    grid-template: auto auto minmax(0, 1fr) auto auto / minmax(0, 1fr);
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

/** On a phone the three columns are three places, one at a time. */
export const Place = styled.div<{ $name: PlaceName; $on: PlaceName }>`
  display: contents;
  ${upright} {
    display: ${(p) => (p.$name === "ladder" ? "none" : "contents")};
  }
  ${phone} {
    display: ${(p) => (p.$name === p.$on ? "contents" : "none")};
  }
`;

export const Lying = styled.section`
  display: none;
  grid-column: 1 / -1;
  align-items: center;
  justify-content: space-between;
  gap: 0.875rem;
  padding: 0.375rem 0.875rem;
  background: ${(p) => p.theme.sheet};
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.small};
  line-height: 1.25;
  text-align: right;
  svg {
    flex: 0 1 auto;
    min-width: 0;
    height: 3.125rem;
  }
  ${upright} {
    display: flex;
    padding: 0.75rem 1.125rem;
    font-size: ${(p) => p.theme.glance};
    svg {
      height: 5.25rem;
    }
  }
  ${phone} {
    display: flex;
  }
`;

export const Home = styled(Link)`
  display: block;
  padding: 0.125rem 0;
  color: ${(p) => p.theme.ink};
  font-weight: 700;
`;

export const Places = styled.nav`
  display: none;
  ${phone} {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    grid-column: 1 / -1;
    background: ${(p) => p.theme.sheet};
    border-top: 0.125rem solid ${(p) => p.theme.ink};
  }
`;

export const PlaceButton = styled(Button)<{ $on: boolean }>`
  min-height: 3.5rem;
  border: 0;
  border-top: 0.25rem solid ${(p) => (p.$on ? p.theme.ink : "transparent")};
  border-left: 0.0625rem solid ${(p) => p.theme.rule};
  background: ${(p) => (p.$on ? p.theme.lit : "transparent")};
  color: ${(p) => p.theme.ink};
  font: 700 1.0625rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: -0.375rem;
  }
`;
