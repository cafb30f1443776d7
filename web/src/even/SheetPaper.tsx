import styled from "styled-components";
import type { View } from "../api/client";
import { dated } from "../parts/text";

const Paper = styled.aside`
  overflow-y: auto;
  padding: 1.375rem 1.625rem;
  background: ${(p) => p.theme.field};
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.glance};
  line-height: 1.35;
  h2 {
    padding-bottom: 0.5rem;
    margin-bottom: 0.5rem;
    border-bottom: 0.125rem solid ${(p) => p.theme.ink};
    font-size: 1.375rem;
  }
  h3 {
    margin-top: 0.625rem;
    font-size: ${(p) => p.theme.glance};
  }
  footer {
    margin-top: 0.875rem;
    padding-top: 0.625rem;
    border-top: 0.125rem solid ${(p) => p.theme.ink};
  }
`;

const Firm = styled.address`
  margin-bottom: 0.75rem;
  font-style: normal;
  p:first-child {
    font-weight: 700;
  }
`;

const Figure = styled.p`
  display: flex;
  justify-content: space-between;
  gap: 0.75rem;
  padding: 0.25rem 0;
  border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  span:last-child {
    text-align: right;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
  }
`;

function Part({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <section>
      <h3>{title}</h3>
      {lines.map((l) => (
        <p key={l}>{l}</p>
      ))}
    </section>
  );
}

/** The customer's sheet as it stands now. */
export function SheetPaper({ sheet }: { sheet: View["sheet"] }) {
  return (
    <Paper aria-label="Sheet" tabIndex={0}>
      {sheet.firm.length > 0 && (
        <Firm>
          {sheet.firm.map((l) => (
            <p key={l}>{l}</p>
          ))}
        </Firm>
      )}
      <h2>{sheet.title}</h2>
      {sheet.about.map((r) => (
        <Figure key={r.what}>
          <span>{r.what}</span>
          <span>{r.say}</span>
        </Figure>
      ))}
      <Part title="What was wrong" lines={sheet.wrong} />
      <Part title="As found" lines={sheet.found} />
      <Part title="What was done" lines={sheet.done} />
      {sheet.measured.length > 0 && (
        <section>
          <h3>Measured</h3>
          {sheet.measured.map((m) => (
            <Figure key={m.what}>
              <span>{m.what}</span>
              <span>
                {[m.value, dated(m.at, sheet), m.by, m.meter && `meter ${m.meter.replace(/^m-/, "")}`]
                  .filter(Boolean)
                  .join(" · ")}
                {m.note && <small>{m.note}</small>}
              </span>
            </Figure>
          ))}
        </section>
      )}
      <Part title="Not tested" lines={sheet.not_tested} />
      <Part title="Explained" lines={sheet.explained} />
      <Part title="Who" lines={sheet.who} />
      {sheet.signed && (
        <Figure>
          <span>Signed off</span>
          <span>
            {sheet.signed.by}, {dated(sheet.signed.at, sheet)}
          </span>
        </Figure>
      )}
      <footer>{sheet.note}</footer>
    </Paper>
  );
}
