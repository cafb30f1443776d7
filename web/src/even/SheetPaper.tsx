import styled from "styled-components";
import type { View } from "../api/client";
import { dated } from "../parts/text";

type Sheet = View["sheet"];

const Paper = styled.aside`
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

const Head = styled.header`
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

const Firm = styled.address`
  font-style: normal;
  font-size: ${(p) => p.theme.small};
  p:first-child {
    font-weight: 700;
  }
  @media print {
    text-align: right;
  }
`;

const About = styled.dl`
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

const Table = styled.table`
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

const Number = styled.td`
  white-space: nowrap;
`;

const Todo = styled.section`
  margin-top: 0.875rem;
  padding: 0.5rem 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ink};
`;

const Signed = styled.div`
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

function Part({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <section>
      <h3>{title}</h3>
      {lines.map((l, i) => (
        <p key={i}>{l}</p>
      ))}
    </section>
  );
}

function Fitted({ sheet }: { sheet: Sheet }) {
  if (sheet.parts.length === 0) return null;
  return (
    <Table>
      <thead>
        <tr>
          <th>Part</th>
          <th>Number</th>
          <th>Why</th>
          <th>Old part</th>
        </tr>
      </thead>
      <tbody>
        {sheet.parts.map((p) => (
          <tr key={p.part}>
            <td>{p.part}</td>
            <Number>{p.number}</Number>
            <td>{p.why}</td>
            <td>{p.old}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Measured({ sheet }: { sheet: Sheet }) {
  if (sheet.measured.length === 0) return null;
  return (
    <section>
      <h3>What we measured</h3>
      <Table>
        <thead>
          <tr>
            <th>What</th>
            <th>Read</th>
            <th>Limit</th>
            <th>When, who, with</th>
          </tr>
        </thead>
        <tbody>
          {sheet.measured.map((m, i) => (
            <tr key={i}>
              <td>{m.what}</td>
              <td>
                {m.value}
                {m.note && <small>{m.note}</small>}
              </td>
              <td>{m.limit}</td>
              <td>
                {[dated(m.at, sheet), m.by, m.meter && `meter ${m.meter.replace(/^m-/, "")}`]
                  .filter(Boolean)
                  .join(", ")}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}

/** The sheet that the customer is given, as it stands now; it prints on one page where it can. */
export function SheetPaper({ sheet }: { sheet: Sheet }) {
  return (
    <Paper aria-label="Sheet" tabIndex={0}>
      <Head as="div">
        <div>
          <h2>{sheet.title}</h2>
          <p>
            {sheet.state}
            {sheet.signed && ` ${dated(sheet.signed.at, sheet)}`}
          </p>
        </div>
        {sheet.firm.length > 0 && (
          <Firm>
            {sheet.firm.map((l) => (
              <p key={l}>{l}</p>
            ))}
          </Firm>
        )}
      </Head>
      <About>
        {sheet.about.map((r) => (
          <div key={r.what}>
            <dt>{r.what}</dt>
            <dd>{r.say}</dd>
          </div>
        ))}
      </About>
      <Part title="What was wrong" lines={sheet.wrong} />
      <Part title="What we found, and how we know" lines={sheet.found} />
      {(sheet.parts.length > 0 || sheet.done.length > 0) && (
        <section>
          <h3>What we did</h3>
          <Fitted sheet={sheet} />
          {sheet.done.map((l, i) => (
            <p key={i}>{l}</p>
          ))}
        </section>
      )}
      <Measured sheet={sheet} />
      <Part title="Tried at the end" lines={sheet.tried} />
      <Part title="Not tested" lines={sheet.not_tested} />
      <Part title="Left as it is, and why" lines={sheet.explained} />
      {sheet.todo.length > 0 && (
        <Todo>
          <b>For you to do.</b> {sheet.todo.join(" ")}
        </Todo>
      )}
      <Signed>
        <p>
          for the company:{" "}
          {sheet.signed ? `${sheet.signed.by}, ${dated(sheet.signed.at, sheet)}` : "not signed off yet"}
        </p>
        <p>for the site: {sheet.customer ? `${sheet.customer}, told and shown` : ""}</p>
      </Signed>
      <footer>{sheet.note}</footer>
    </Paper>
  );
}
