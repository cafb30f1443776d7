import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Lot, Make, Plug, Side } from "../api/client";
import { Complaint } from "../parts/Sheets";
import { CautionMark } from "../parts/Marks";
import { moreBelow } from "../parts/scroll";
import { Line } from "../parts/text";
import { phone, upright } from "../parts/theme";
import { Cabinet } from "./Cabinet";
import { LineView } from "./LineView";
import { ReadingFields } from "./ReadingFields";
import type { ProofDraft } from "./proof";
import { Tick } from "./Tick";

const Main = styled.main`
  overflow-y: auto;
  ${moreBelow("paper")}
  ${phone} {
    padding: 10px 14px;
  }
  padding: 12px 24px 14px;
  display: grid;
  align-content: start;
  gap: 8px;
`;

const Stand = styled.p`
  font-size: ${(p) => p.theme.work};
  color: ${(p) => p.theme.inkQuiet};
  b {
    color: ${(p) => p.theme.ink};
    margin-right: 12px;
  }
  ${phone} {
    font-size: ${(p) => p.theme.small};
  }
`;

const Title = styled.h1`
  font-size: ${(p) => p.theme.title};
  line-height: 1.1;
  &:focus-visible {
    outline-offset: 4px;
  }
`;

const Hazard = styled.div`
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 8px 22px 8px 12px;
  background: ${(p) => p.theme.amberOn};
  border: 2px solid ${(p) => p.theme.amber};
  color: ${(p) => p.theme.amber};
  font-weight: 700;
  clip-path: polygon(0 0, calc(100% - 14px) 0, 100% 14px, 100% 100%, 0 100%);
`;

const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 24px;
  align-items: start;
  ${upright} {
    gap: 14px;
    figure svg {
      width: 150px;
      height: auto;
    }
  }
  ${phone} {
    display: block;
    figure {
      float: right;
      max-width: 150px;
      text-align: center;
      margin: 0 0 6px 10px;
    }
    figure svg {
      width: 128px;
      height: auto;
    }
    li {
      overflow: hidden;
      font-size: 20px;
    }
  }
`;

/** The picture or the readings, beside the lines; on a phone the lines run round the picture. */
const Aside = styled.div`
  order: 2;
`;

const Do = styled.ol`
  li {
    padding: 7px 0;
    border-bottom: 1px solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.rung};
    line-height: 1.22;
  }
  li:first-child {
    padding-top: 2px;
  }
`;

const Facts = styled.dl`
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  border-top: 2px solid ${(p) => p.theme.ink};
  font-size: 17px;
  line-height: 1.2;
  dt,
  dd {
    padding: 6px 0;
    border-bottom: 1px solid ${(p) => p.theme.rule};
  }
  dt {
    font-weight: 700;
  }
`;

const Count = styled.div<{ $counted: boolean }>`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 4px 6px 4px 12px;
  min-height: 60px;
  background: ${(p) => p.theme.sheet};
  border: 2px ${(p) => (p.$counted ? "solid" : "dashed")} ${(p) => p.theme.ink};
  ${phone} {
    flex-wrap: wrap;
  }
  ${upright} {
    flex-wrap: wrap;
  }
  > b {
    font-size: 26px;
  }
  > span {
    flex: 1;
    min-width: 0;
    font-size: 17px;
    line-height: 1.2;
    ${phone} {
      flex: 1 0 80%;
    }
    ${upright} {
      flex: 1 0 80%;
    }
  }
  output {
    min-width: 66px;
    text-align: center;
    font: 700 24px/1 ${(p) => p.theme.mono};
  }
`;

const Step = styled(Button)`
  min-width: 56px;
  min-height: 56px;
  padding: 0 12px;
  border: 2px solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.paper};
  color: ${(p) => p.theme.ink};
  font: 700 22px/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-pressed] {
    background: ${(p) => p.theme.well};
  }
  &[data-focus-visible] {
    outline: 3px solid ${(p) => p.theme.ink};
    outline-offset: 2px;
  }
`;

const Stack = styled.div`
  display: grid;
  gap: 8px;
`;

const Proof = styled.div`
  display: grid;
  grid-template-columns: 148px 138px;
  gap: 5px 12px;
  align-items: center;
  label {
    font-size: 17px;
    line-height: 1.15;
    font-weight: 600;
    small {
      display: block;
      font-size: ${(p) => p.theme.small};
      font-weight: 400;
      color: ${(p) => p.theme.inkQuiet};
    }
  }
  span {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 20px;
  }
  input {
    width: 100%;
    min-height: 56px;
    min-width: 0;
    padding: 4px 10px;
    border: 2px solid ${(p) => p.theme.ruleStrong};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
    font: 600 24px/1 ${(p) => p.theme.mono};
    text-align: right;
  }
  input:focus {
    border-color: ${(p) => p.theme.ink};
    outline: 2px solid ${(p) => p.theme.ink};
  }
`;

export interface RungViewProps {
  side: Side;
  which: "out" | "back";
  /** Only looked at, not the step that is on. */
  looking?: boolean;
  record: (makes: Make[]) => Promise<boolean>;
  draft: ProofDraft;
  onDraft: (draft: ProofDraft) => void;
  onKey?: (event: KeyboardEvent) => void;
  /** Changes with each record, so that the heading takes the focus again. */
  step: string;
}

/** One side of a rung in its reading order. */
export function RungView({ side, which, looking, record, draft, onDraft, onKey, step }: RungViewProps) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (!looking) heading.current?.focus({ preventScroll: true });
  }, [step, looking]);

  const proof = side.proof?.by === "meter" && !looking ? side.proof : undefined;
  const facts: [string, string][] = [];
  const tools = [...side.tools, ...side.ppe.map(wear)];
  if (tools.length) facts.push(["Tools", tools.join(", ")]);
  if (side.people > 1) facts.push(["People", "two"]);
  const keyed = side.plugs.filter((p) => p.keyed);
  if (keyed.length)
    facts.push([
      "Plugs",
      `${keyed.map((p, i) => (i ? p.name.toLowerCase() : p.name)).join(", ")}: keyed, no tag`,
    ]);
  for (const l of side.lots.filter((l) => !l.must_count)) {
    facts.push([
      l.tray ? `Tray ${l.tray}` : "Screws",
      `${l.count} ${plural(l)}${l.kind === l.noun ? "" : `, ${l.kind}`}`,
    ]);
  }
  if (side.pass && !side.value) facts.push(["Passes", side.pass]);
  const loose = side.plugs.filter((p) => !p.keyed);
  const count = side.lots.filter((l) => l.must_count);

  return (
    <Main aria-label="Rung" tabIndex={looking ? 0 : undefined}>
      <Stand>
        <b>{side.stand}</b>
        {side.view}
      </Stand>
      <Title ref={heading} tabIndex={-1} onKeyDown={looking ? undefined : onKey} id="rung-title">
        {side.title}
      </Title>
      {side.ticket && <Complaint role="alert">{side.ticket}</Complaint>}
      {side.said && <Complaint role="alert">{side.said}</Complaint>}
      {side.hazards.length > 0 && (
        <Hazard role="note">
          <CautionMark />
          <span>{side.hazards.join(" ")}</span>
        </Hazard>
      )}
      <Two>
        {!proof && (
          <Aside>
            <Cabinet picture={side.picture} />
          </Aside>
        )}
        <Stack>
          <Do>
            {side.do.map((line, i) => (
              <li key={i}>
                <Line text={line} />
              </li>
            ))}
            {side.compare.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Do>
        </Stack>
        {proof && (
          <Aside>
            <ProofFields proof={proof} draft={draft} onDraft={onDraft} />
          </Aside>
        )}
      </Two>
      {side.choices.length > 0 && (
        <Stack>
          {side.choices.map((c) => (
            <Tick
              key={c.label}
              $ticked={c.done}
              aria-pressed={c.done}
              onPress={() => !c.done && void record(c.makes)}
            >
              <i aria-hidden="true">{c.done ? "✓" : ""}</i>
              <span>
                {c.label}
                <small>{c.says}</small>
              </span>
            </Tick>
          ))}
        </Stack>
      )}
      {(count.length > 0 || loose.length > 0 || side.lines.length > 0) && (
        <Stack>
          {count.map((l) => (
            <Counter
              key={`${l.lot}-${l.side}`}
              lot={l}
              home={which === "back"}
              looking={looking}
              record={record}
            />
          ))}
          {loose.map((p) => (
            <Leads key={p.item} plug={p} looking={looking} record={record} />
          ))}
          {side.lines.map((line) => (
            <LineView key={line.line} line={line} looking={looking} record={record} />
          ))}
        </Stack>
      )}
      {side.value && !looking && (
        <ReadingFields side={side} id="done-value" draft={draft} onDraft={onDraft} />
      )}
      {facts.length > 0 && (
        <Facts>
          {facts.map(([name, value], i) => (
            <Pair key={i} name={name} value={value} />
          ))}
        </Facts>
      )}
    </Main>
  );
}

const Pair = ({ name, value }: { name: string; value: string }) => (
  <>
    <dt>{name}</dt>
    <dd>{value}</dd>
  </>
);

const wear = (word: string) =>
  ({
    gloves: "cut gloves",
    eye: "eye protection",
    sleeves: "sleeves",
    kneepads: "kneepads",
    "insulated-gloves": "insulated gloves",
  })[word] ?? word;

const plural = (l: Lot) => (l.count === 1 ? l.noun : `${l.noun}s`);

interface CounterProps {
  lot: Lot;
  home: boolean;
  looking?: boolean;
  record: (makes: Make[]) => Promise<boolean>;
}

/** Counts one lot that must be counted. Nothing is filled in beforehand. */
function Counter({ lot, home, looking, record }: CounterProps) {
  const [draft, setDraft] = useState<number>();
  const counted = lot.counted ?? undefined;
  const shown = draft ?? counted;
  const set = (count: number) => {
    setDraft(count);
    void record([{ kind: "lot.counted", body: { lot: lot.lot, side: lot.side, count } }]).then(() =>
      setDraft(undefined),
    );
  };
  const what = `${lot.count} ${plural(lot)} ${home ? "home from" : "into"} tray ${lot.tray}`;
  return (
    <Count $counted={counted !== undefined} role="group" aria-label={what}>
      <b>{lot.tray}</b>
      <span>
        {lot.count} {plural(lot)}, {lot.kind}
        <br />
        {counted === undefined
          ? home
            ? "look-alikes: count them home"
            : "look-alikes: count them in"
          : home
            ? "counted home"
            : "counted in"}
      </span>
      {!looking && (
        <>
          <Step aria-label={`One less: ${what}`} isDisabled={!shown} onPress={() => set((shown ?? 1) - 1)}>
            −
          </Step>
          <output aria-label="Counted">{shown ?? "?"}</output>
          <Step aria-label={`One more: ${what}`} onPress={() => set((shown ?? 0) + 1)}>
            +
          </Step>
          {shown !== lot.count && (
            <Step
              aria-label={`${lot.count === 1 ? "The one" : `All ${lot.count}`}: ${what}`}
              onPress={() => set(lot.count)}
            >
              {lot.count === 1 ? "The one" : `All ${lot.count}`}
            </Step>
          )}
        </>
      )}
    </Count>
  );
}

/** The leads of a plug that is not keyed: each by its terminal, confirmed one at a time. */
function Leads({
  plug,
  looking,
  record,
}: {
  plug: Plug;
  looking?: boolean;
  record: (makes: Make[]) => Promise<boolean>;
}) {
  return (
    <>
      {plug.wires.map((w) => {
        const colour = w.stripe ? `${w.colour} with ${w.stripe} stripe` : w.colour;
        if (!w.confirm) {
          return (
            <Count key={w.wire} $counted>
              <span>
                {plug.name}, <b>{w.terminal}</b> terminal: {colour}
                <br />
                {plug.note}
              </span>
            </Count>
          );
        }
        const confirm = w.confirm;
        return (
          <Tick
            key={w.wire}
            $ticked={w.confirmed}
            aria-pressed={w.confirmed}
            isDisabled={looking}
            onPress={() => !w.confirmed && void record([confirm])}
          >
            <i aria-hidden="true">{w.confirmed ? "✓" : ""}</i>
            <span>
              {plug.name}: {colour} on the <b>{w.terminal}</b> terminal, tugged
            </span>
          </Tick>
        );
      })}
    </>
  );
}

interface ProofFieldsProps {
  proof: NonNullable<Side["proof"]>;
  draft: ProofDraft;
  onDraft: (draft: ProofDraft) => void;
}

function ProofFields({ proof, draft, onDraft }: ProofFieldsProps) {
  const rows = [
    { key: "before", label: "Before", small: proof.before },
    ...proof.points.map((p) => ({ key: p.join("-"), label: `${p[0]} to ${p[1]}`, small: "" })),
    { key: "after", label: "After", small: proof.after },
  ];
  return (
    <Proof>
      <label htmlFor="proof-meter">
        Meter <small>the number on its label</small>
      </label>
      <input
        id="proof-meter"
        value={draft["meter"] ?? ""}
        maxLength={20}
        onChange={(e) => onDraft({ ...draft, meter: e.target.value })}
      />
      {rows.map((r) => (
        <ProofRow
          key={r.key}
          id={r.key}
          label={r.label}
          small={r.small}
          unit={proof.unit}
          value={draft[r.key] ?? ""}
          onChange={(v) => onDraft({ ...draft, [r.key]: v })}
        />
      ))}
      {proof.note && <small style={{ gridColumn: "1 / -1" }}>{proof.note}</small>}
    </Proof>
  );
}

interface ProofRowProps {
  id: string;
  label: string;
  small: string;
  unit: string;
  value: string;
  onChange: (value: string) => void;
}

function ProofRow({ id, label, small, unit, value, onChange }: ProofRowProps) {
  return (
    <>
      <label htmlFor={`proof-${id}`}>
        {label}
        {small && <small>{small}</small>}
      </label>
      <span>
        <input
          id={`proof-${id}`}
          inputMode="decimal"
          maxLength={12}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />{" "}
        {unit}
      </span>
    </>
  );
}
