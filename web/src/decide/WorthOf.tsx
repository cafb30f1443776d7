import styled from "styled-components";
import type { Figures, Typed } from "../api/client";
import type { Asks } from "../offline/asks";
import { Complaint } from "../parts/Sheets";
import { Figure, figures } from "../parts/Figure";

const Field = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 0.625rem;
  label {
    font-size: ${(p) => p.theme.glance};
    line-height: 1.2;
  }
  ${figures}
  input {
    width: 7rem;
    flex: none;
    min-height: 3rem;
    font: 600 1.25rem/1 ${(p) => p.theme.mono};
  }
`;

const Bars = styled.ul`
  display: grid;
  gap: 0.25rem;
  div {
    display: flex;
    justify-content: space-between;
    gap: 0.625rem;
    font-size: ${(p) => p.theme.work};
  }
  li {
    display: grid;
    gap: 0.125rem;
  }
  svg {
    width: 100%;
    height: 1.375rem;
  }
  rect {
    fill: ${(p) => p.theme.sheet};
    stroke: ${(p) => p.theme.ink};
  }
  rect.full {
    fill: ${(p) => p.theme.ink};
  }
`;

const asked: { key: keyof Figures; label: string }[] = [
  { key: "new", label: "New machine, installed" },
  { key: "years_left", label: "This one lasts, years" },
  { key: "years_new", label: "A new one lasts, years" },
  { key: "run_this", label: "This one runs at, a year" },
  { key: "run_new", label: "A new one, a year" },
  { key: "interest", label: "Interest, % a year" },
];

/** An amount in whole units, with its currency where the company has said one. */
const money = (currency: string, amount: number) => [currency, Math.round(amount)].filter(Boolean).join(" ");

interface WorthOfProps {
  worth: NonNullable<Asks["decide"]["out"]["worth"]>;
  usual: Figures;
  typed: Typed;
  onType: (typed: Typed) => void;
}

/** Repair and replacement beside each other, each a year, on the customer's own figures. */
export function WorthOf({ worth, usual, typed, onType }: WorthOfProps) {
  const most = Math.max(worth.repair, worth.replace, 1);
  const rows = [
    { what: "Repair", yearly: worth.repair, years: worth.years_left },
    { what: "Replace", yearly: worth.replace, years: worth.years_new },
  ];
  return (
    <>
      <h2 className="kicker">
        <b>Repair or replace</b>a year
      </h2>
      {worth.says ? (
        <>
          <Bars>
            {rows.map((r) => (
              <li key={r.what}>
                <div>
                  <b>{r.what}</b>
                  <span>
                    {money(worth.money, r.yearly)} a year for {r.years} years
                  </span>
                </div>
                <svg viewBox="0 0 300 22" preserveAspectRatio="none" aria-hidden="true">
                  <rect x={1} y={1} width={298} height={20} />
                  <rect x={1} y={1} width={(298 * r.yearly) / (most * 1.1)} height={20} className="full" />
                </svg>
              </li>
            ))}
          </Bars>
          <p role="status">{worth.says}</p>
          {worth.note && <p>{worth.note}</p>}
        </>
      ) : (
        <p>
          The repair comes to about <b>{money(worth.money, worth.cost)}</b>. {worth.note} Say what a new one
          costs, and both stand here side by side.
        </p>
      )}
      {worth.problem && <Complaint role="alert">{worth.problem}</Complaint>}
      {asked.map((a) => (
        <Field key={a.key}>
          <Figure
            id={`figure-${a.key}`}
            label={a.label}
            most={12}
            decimal
            example={a.key === "new" ? "900" : String(usual[a.key])}
            value={typed[a.key] ?? ""}
            onChange={(value) => onType({ ...typed, [a.key]: value })}
          />
        </Field>
      ))}
      <p>The customer decides. The figures are kept with the decision.</p>
    </>
  );
}
