import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import styled from "styled-components";
import { plus, withdrawing, type Kept, type Lot, type ProofAsk, type Side } from "../api/client";
import type { Draft } from "../offline/useDraft";
import { Complaint } from "../parts/Sheets";
import { CautionMark } from "../parts/Marks";
import { Photos } from "../photos/Photos";
import { moreBelow } from "../parts/scroll";
import { clock, Line } from "../parts/text";
import { phone, upright } from "../parts/theme";
import { Cabinet } from "./Cabinet";
import { Astray, Counter, nouns, Step } from "./Counter";
import { LineView } from "./LineView";
import { ReadingFields } from "./ReadingFields";
import { ProofSteps } from "./ProofSteps";
import { Ticked } from "./Tick";
import { WireCard } from "./WireCard";
import { Plain, Strong } from "../parts/Buttons";
import { useRecord } from "../job/here";

const Main = styled.main`
  overflow-y: auto;
  ${moreBelow("paper")}
  ${phone} {
    padding: 0.625rem 0.875rem;
  }
  padding: 0.75rem 1.5rem 0.875rem;
  display: grid;
  align-content: start;
  gap: 0.5rem;
`;

const Stand = styled.p`
  font-size: ${(p) => p.theme.work};
  color: ${(p) => p.theme.inkQuiet};
  b {
    color: ${(p) => p.theme.ink};
    margin-right: 0.75rem;
  }
  ${phone} {
    font-size: ${(p) => p.theme.small};
  }
`;

const Title = styled.h1`
  font-size: ${(p) => p.theme.title};
  line-height: 1.1;
  &:focus-visible {
    outline-offset: 0.25rem;
  }
`;

const Hazard = styled.div`
  display: flex;
  gap: 0.75rem;
  align-items: flex-start;
  padding: 0.5rem 1.375rem 0.5rem 0.75rem;
  background: ${(p) => p.theme.cautionOn};
  border: 0.125rem solid ${(p) => p.theme.caution};
  color: ${(p) => p.theme.caution};
  font-weight: 700;
  clip-path: polygon(0 0, calc(100% - 0.875rem) 0, 100% 0.875rem, 100% 100%, 0 100%);
`;

const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1.5rem;
  align-items: start;
  ${upright} {
    gap: 0.875rem;
    figure svg {
      width: 9.375rem;
      height: auto;
    }
  }
  ${phone} {
    display: block;
    figure {
      float: right;
      width: 46%;
      max-width: 11.875rem;
      text-align: center;
      margin: 0 0 0.375rem 0.625rem;
    }
    figure svg {
      width: 100%;
      height: auto;
    }
    li {
      overflow: hidden;
      font-size: 1.25rem;
    }
  }
`;

/** The picture or the readings, beside the lines; on a phone the lines run round the picture. */
const Aside = styled.div<{ $pictures?: boolean; $proof?: boolean }>`
  order: 2;
  max-width: ${(p) => (p.$proof ? "19.375rem" : "16.875rem")};
  ${(p) => p.$pictures && "figure svg { max-height: 11.875rem; }"}
  ${phone} {
    max-width: none;
  }
`;

const Do = styled.ol`
  li {
    padding: 0.4375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
    font-size: ${(p) => p.theme.rung};
    line-height: 1.22;
  }
  li:first-child {
    padding-top: 0.125rem;
  }
`;

const Facts = styled.dl`
  display: grid;
  grid-template-columns: 5.75rem minmax(0, 1fr);
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  font-size: 1.0625rem;
  line-height: 1.2;
  dt,
  dd {
    padding: 0.375rem 0;
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  dt {
    font-weight: 700;
  }
`;

const Noted = styled.p`
  padding: 0.375rem 0 0.375rem 0.75rem;
  border-left: 0.25rem solid ${(p) => p.theme.ruleStrong};
  font-size: ${(p) => p.theme.work};
  line-height: 1.25;
`;

/** Pieces of a pair that may stay: side by side, and no ticks. */
const Kept = styled.section`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
  gap: 0.5rem;
  small {
    display: block;
    font-weight: 400;
  }
`;

/** Harmless rungs at the same face: they may share a touch. */
const Then = styled.section`
  display: grid;
  gap: 0.5rem;
  padding: 0.5rem 0.875rem 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ruleStrong};
  background: ${(p) => p.theme.sheet};
  h2 {
    font-size: ${(p) => p.theme.work};
  }
  li {
    font-size: ${(p) => p.theme.work};
    line-height: 1.3;
  }
  button small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
  }
`;

const Taken = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.75rem;
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Stack = styled.div`
  display: grid;
  gap: 0.5rem;
`;

export interface RungViewProps {
  side: Side;
  which: "out" | "back";
  /** What was recorded here, where the rung is only looked at: each can be taken back. */
  kept?: Kept[];
  /** Only looked at, not the step that is on. */
  looking?: boolean;
  draft: Draft;
  onDraft: (draft: Draft) => void;
  /** What the proof asks for as far as it is typed. */
  asks?: ProofAsk;
  /** What the proof shows so far. */
  shows?: string;
  onKey?: (event: KeyboardEvent) => void;
  /** Changes with each record, so that the heading takes the focus again. */
  step: string;
}

/** One side of a rung in its reading order. */
export function RungView({
  side,
  which,
  kept = [],
  looking,
  draft,
  onDraft,
  asks,
  shows,
  onKey,
  step,
}: RungViewProps) {
  const record = useRecord();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (!looking) heading.current?.focus({ preventScroll: true });
  }, [step, looking]);

  const proof = side.proof && !looking ? (asks ?? side.proof) : undefined;
  const facts: [string, string, Lot?][] = [];
  const tools = [...side.tools, ...side.ppe.map(wear)];
  if (tools.length) facts.push(["Tools", tools.join(", ")]);
  if (side.people > 1) facts.push(["People", "two"]);
  const keyed = side.plugs.filter((p) => p.keyed && p.rule === "none" && !p.one_by_one);
  if (keyed.length)
    facts.push([
      "Plugs",
      `${keyed.map((p, i) => (i ? p.name.toLowerCase() : p.name)).join(", ")}: keyed, no tag`,
    ]);
  const accepted = side.lots.filter((l) => !l.must_count && l.counted === null);
  for (const l of accepted) {
    const where = l.renew ? "Out" : l.tray ? `Tray ${l.tray}` : l.loosen ? "Loosen" : "Bag";
    const words = [`${l.count} ${nouns(l)}${l.kind === l.noun ? "" : `, ${l.kind}`}`];
    if (l.hidden) words.push("out of sight");
    if (which === "back" && l.empties && l.tray) words.push("empty?");
    facts.push([where, words.join(", "), l.loosen || looking ? undefined : l]);
  }
  for (const l of side.lots) {
    if (l.renew) facts.push(["Renewed", l.renew]);
    if (l.fit) facts.push(["Driver", `${l.driver}; ${l.fit}`]);
  }
  if (side.pass && !side.value) facts.push(["Passes", side.pass]);
  const cards = side.plugs.filter((p) => !keyed.includes(p));
  const wires = side.plugs.flatMap((p) => p.wires.map((w) => ({ ...w, plug: p.name })));
  const count = side.lots.filter((l) => l.must_count || (l.counted !== null && !l.loosen));

  return (
    <Main aria-label="Step" tabIndex={looking ? 0 : undefined}>
      <Stand>
        <b>{side.stand}</b>
        {side.view}
      </Stand>
      <Title ref={heading} tabIndex={-1} onKeyDown={looking ? undefined : onKey} id="rung-title">
        {side.title}
      </Title>
      {side.ticket && <Complaint role="alert">{side.ticket}</Complaint>}
      {side.said && <Complaint role="alert">{side.said}</Complaint>}
      {shows && <Complaint role="status">{shows}</Complaint>}
      {side.hazards.length > 0 && (
        <Hazard role="note">
          <CautionMark />
          <span>{side.hazards.join(" ")}</span>
        </Hazard>
      )}
      <Two>
        {!proof && (
          <Aside $pictures={side.photos.length > 0}>
            {/* On the way back the photo from the way in stands here without being asked for. */}
            <Photos photos={side.photos} wires={wires} looking={looking} most={which === "back" ? 2 : 1} />
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
          {side.schools.length > 0 && <Schools schools={side.schools} />}
          {side.notes.slice(0, 2).map((n) => (
            <Noted key={n.at + n.text}>
              <b>{n.by === "you" ? "You" : n.by}</b>, {clock(n.at)}: {n.text}
            </Noted>
          ))}
        </Stack>
        {proof && (
          <Aside $proof>
            <ProofSteps proof={proof} draft={draft} onDraft={onDraft} />
          </Aside>
        )}
      </Two>
      {side.choices.length > 0 && (
        <Stack>
          {side.choices.map((c) => (
            <Ticked key={c.label} ticked={c.done} act={() => (c.done ? undefined : record(c.makes))}>
              {c.label}
              <small>{c.says}</small>
            </Ticked>
          ))}
        </Stack>
      )}
      {side.keep.length > 0 && (
        <Kept aria-label="What may stay">
          {side.keep.map((c) => (
            <Plain key={c.label} onPress={() => void record(c.makes)}>
              {c.label}
              <small>{c.says}</small>
            </Plain>
          ))}
        </Kept>
      )}
      {(count.length > 0 || cards.length > 0 || side.lines.length > 0) && (
        <Stack>
          {count.map((l) => (
            <Counter key={`${l.lot}-${l.side}`} lot={l} home={which === "back"} looking={looking} />
          ))}
          {cards.map((p) => (
            <WireCard key={p.item} plug={p} looking={looking} />
          ))}
          {side.lines.map((line) => (
            <LineView key={line.line} line={line} looking={looking} />
          ))}
        </Stack>
      )}
      {side.value && !looking && (
        <ReadingFields side={side} id="done-value" draft={draft} onDraft={onDraft} />
      )}
      {side.together && !looking && (
        <Then>
          {side.then.map((n) => (
            <div key={n.move}>
              <h2>Then, from where you stand: {n.title}</h2>
              <ul>
                {n.do.map((line, i) => (
                  <li key={i}>
                    <Line text={line} />
                  </li>
                ))}
              </ul>
            </div>
          ))}
          <Strong onPress={() => side.together && void record(side.together.makes)}>
            {side.together.label}
            <small>{side.together.says}</small>
          </Strong>
        </Then>
      )}
      {looking && kept.length > 0 && (
        <Then aria-label="Recorded here">
          <h2>Recorded here</h2>
          {kept.map((k) => (
            <Taken key={k.event}>
              <span>
                {k.say}
                <small>
                  {k.by}, {clock(k.at)}
                </small>
              </span>
              <Plain aria-label={`Take back: ${k.say}`} onPress={() => void record(withdrawing([k.event]))}>
                Take back
              </Plain>
            </Taken>
          ))}
        </Then>
      )}
      {facts.length > 0 && (
        <Facts>
          {facts.map(([name, value, lot], i) => (
            <Pair key={i} name={name} value={value} lot={lot} />
          ))}
        </Facts>
      )}
    </Main>
  );
}

/** How we do it, and why; how others do, one touch away. */
function Schools({ schools }: { schools: Side["schools"] }) {
  const [all, setAll] = useState(false);
  return (
    <Noted as="div">
      {(all ? schools : schools.slice(0, 1)).map((s, i) => (
        <div key={s.say}>
          <b>{i === 0 ? "Our way: " : "Others: "}</b>
          {s.say} <em>Why: {s.why}.</em>
        </div>
      ))}
      <Plain aria-expanded={all} onPress={() => setAll(!all)}>
        {all ? "Our way alone" : "How others do it"}
      </Plain>
    </Noted>
  );
}

interface PairProps {
  name: string;
  value: string;
  lot?: Lot;
}

const Pair = ({ name, value, lot }: PairProps) => (
  <>
    <dt>{name}</dt>
    <dd>
      {value}
      {lot && <Correct lot={lot} />}
    </dd>
  </>
);

/** What is accepted as the map says may be counted otherwise, or one may be gone. */
function Correct({ lot }: { lot: Lot }) {
  const record = useRecord();
  const less = lot.count - 1;
  const send = (count: number) => void record([plus(lot.tally, { count })]);
  return (
    <span style={{ display: "inline-flex", gap: 8, marginLeft: 12, verticalAlign: "middle" }}>
      {less >= 0 && (
        <Step aria-label={`Only ${less}: ${lot.kind}`} onPress={() => send(less)}>
          {less}
        </Step>
      )}
      <Step aria-label={`${lot.count + 1} of them: ${lot.kind}`} onPress={() => send(lot.count + 1)}>
        {lot.count + 1}
      </Step>
      <Astray lot={lot} />
    </span>
  );
}

const wear = (word: string) =>
  ({
    gloves: "cut gloves",
    eye: "eye protection",
    sleeves: "sleeves",
    kneepads: "kneepads",
    "insulated-gloves": "insulated gloves",
  })[word] ?? word;
