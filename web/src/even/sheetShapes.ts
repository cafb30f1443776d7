import styled from "styled-components";

export const Paper = styled.aside`
  overflow-y: auto;
  padding: 1.375rem 1.625rem;
  background: ${(p) => p.theme.field};
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.35;
  h3 {
    margin-top: 0.875rem;
    padding-bottom: 0.25rem;
    margin-bottom: 0.25rem;
    border-bottom: 0.0625rem solid ${(p) => p.theme.ruleStrong};
    font-size: ${(p) => p.theme.glance};
  }
  footer {
    margin-top: 1.25rem;
    padding-top: 0.625rem;
    border-top: 0.0625rem solid ${(p) => p.theme.ruleStrong};
    font-size: ${(p) => p.theme.small};
  }
  @media print {
    padding: 0;
    font-size: 10.5pt;
    line-height: 1.3;
    section,
    tr {
      break-inside: avoid;
    }
  }
`;

export const Head = styled.header`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0.75rem 1.5rem;
  padding-bottom: 0.75rem;
  border-bottom: 0.1875rem solid ${(p) => p.theme.ink};
  h2 {
    font-size: 1.625rem;
    line-height: 1.15;
  }
  @media print {
    display: flex !important;
  }
`;

export const Firm = styled.address`
  font-style: normal;
  font-size: ${(p) => p.theme.small};
  p:first-child {
    font-weight: 700;
  }
  @media print {
    text-align: right;
  }
`;

export const About = styled.dl`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(9.5rem, 1fr));
  gap: 0.375rem 1rem;
  padding: 0.625rem 0;
  border-bottom: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  dt {
    font-size: ${(p) => p.theme.small};
    color: ${(p) => p.theme.inkQuiet};
  }
  dd {
    font-weight: 700;
  }
`;

export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    font-size: ${(p) => p.theme.small};
    font-weight: 500;
    color: ${(p) => p.theme.inkQuiet};
  }
  th,
  td {
    padding: 0.25rem 0.75rem 0.25rem 0;
    text-align: left;
    vertical-align: top;
  }
  th:last-child,
  td:last-child {
    padding-right: 0;
    text-align: right;
  }
  td {
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
  }
  @media print {
    td {
      overflow-wrap: normal;
    }
  }
`;

export const Number = styled.td`
  white-space: nowrap;
`;

export const Todo = styled.section`
  margin-top: 0.875rem;
  padding: 0.5rem 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ink};
`;

export const Signed = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2rem;
  margin-top: 2.5rem;
  p {
    padding-top: 0.25rem;
    border-top: 0.0625rem solid ${(p) => p.theme.ink};
    font-size: ${(p) => p.theme.small};
  }
`;
