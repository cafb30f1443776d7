import { useEffect, useRef, type KeyboardEvent } from "react";
import { withdrawing, type Kept, type ProofAsk, type Side } from "../api/client";
import type { Draft } from "../offline/useDraft";
import { Complaint } from "../parts/Sheets";
import { CautionMark } from "../parts/Marks";
import { Photos } from "../photos/Photos";
import { clock, Line } from "../parts/text";
import { Cabinet } from "./Cabinet";
import { Counter } from "./Counter";
import { Pair } from "./Pair";
import { Schools } from "./Schools";
import { LineView } from "./LineView";
import { ReadingFields } from "./ReadingFields";
import { ProofSteps } from "./ProofSteps";
import { Ticked } from "./Tick";
import { WireCard } from "./WireCard";
import { Plain, Strong } from "../parts/Buttons";
import { useRecord } from "../job/here";
import {
  Main,
  Stand,
  Title,
  Hazard,
  Two,
  Aside,
  Do,
  Facts,
  Noted,
  KeptHere,
  Then,
  Taken,
  Stack,
} from "./rungShapes";

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
  const cards = side.plugs.filter((p) => p.card);
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
        <KeptHere aria-label="What may stay">
          {side.keep.map((c) => (
            <Plain key={c.label} onPress={() => void record(c.makes)}>
              {c.label}
              <small>{c.says}</small>
            </Plain>
          ))}
        </KeptHere>
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
      {side.facts.length > 0 && (
        <Facts>
          {side.facts.map((f, i) => (
            <Pair key={i} fact={f} lot={looking ? undefined : side.lots.find((l) => l.lot === f.lot)} />
          ))}
        </Facts>
      )}
    </Main>
  );
}
