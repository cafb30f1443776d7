import type { View } from "../api/client";
import { dated } from "../parts/text";
import { Paper, Head, Firm, About, Table, Number, Todo, Signed } from "./sheetShapes";

type Sheet = View["sheet"];

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
