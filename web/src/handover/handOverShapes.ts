import styled from "styled-components";
import { low, phone, upright } from "../parts/theme";

export const Screen = styled.div`
  height: 100dvh;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  @media print {
    display: block;
    height: auto;
    > header,
    > footer {
      display: none;
    }
  }
  ${low} {
    height: auto;
    min-height: 100dvh;
  }
`;

export const Page = styled.main`
  overflow-y: auto;
  padding: 1rem 1.75rem 1.5rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 18.75rem;
  gap: 0.875rem 1.875rem;
  align-content: start;
  > header {
    h1 {
      font-size: ${(p) => p.theme.title};
      line-height: 1.15;
    }
    svg {
      max-height: 5.625rem;
      width: 100%;
    }
  }
  ${phone} {
    display: flex;
    flex-direction: column;
    padding: 0.625rem 0.875rem;
    > aside {
      order: 1;
      align-self: center;
    }
  }
  @media print {
    overflow: visible;
    background: #fff;
    color: #000;
  }
`;

export const Parts = styled.div`
  columns: 2;
  column-gap: 1.875rem;
  ${upright} {
    columns: 1;
  }
  ${phone} {
    columns: 1;
  }
`;

export const Part = styled.section`
  break-inside: avoid;
  margin-bottom: 0.875rem;
  h2 {
    margin-bottom: 0.25rem;
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
    gap: 0.875rem;
    padding: 0.3125rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.work};
    line-height: 1.25;
  }
  li > :only-child {
    grid-column: 1 / 3;
  }
`;

export const Tag = styled.aside`
  grid-column: 2;
  grid-row: 1 / 3;
  align-self: start;
  display: grid;
  gap: 0.5rem;
  justify-items: center;
  padding: 1.125rem 1.25rem;
  border: 0.1875rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.sheet};
  clip-path: polygon(1.375rem 0, calc(100% - 1.375rem) 0, 100% 1.375rem, 100% 100%, 0 100%, 0 1.375rem);
  font-size: ${(p) => p.theme.glance};
  line-height: 1.25;
  text-align: center;
  p:first-of-type {
    font-size: 1.375rem;
    font-weight: 700;
    color: ${(p) => p.theme.stop};
  }
  > div {
    padding: 0.625rem;
    background: ${(p) => (p.theme.name === "torch" ? p.theme.ruleStrong : "#fff")};
  }
  @media print {
    > div {
      background: #fff;
    }
    svg path:first-of-type {
      fill: #fff;
    }
    svg path:last-of-type {
      fill: #000;
    }
  }
`;
