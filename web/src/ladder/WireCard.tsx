import { useTick } from "./Tick";
import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { type Plug, type Wire } from "../api/client";
import { Swatch } from "./Swatch";
import { useCamera } from "../photos/TakePhoto";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { phone } from "../parts/theme";
import { useRecord } from "../job/here";
import { Colour, MoveOver } from "./AboutLead";

const Card = styled.section`
  display: grid;
  gap: 0;
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  > header {
    display: flex;
    flex-wrap: wrap;
    gap: 0.125rem 0.875rem;
    align-items: baseline;
    padding: 0.375rem 0;
    font-size: ${(p) => p.theme.work};
    b {
      font-size: 1.1875rem;
    }
    span {
      color: ${(p) => p.theme.inkQuiet};
      font-size: ${(p) => p.theme.glance};
    }
  }
`;

const Warn = styled.p`
  padding: 0.5rem 0.75rem;
  background: ${(p) => p.theme.cautionOn};
  border: 0.125rem solid ${(p) => p.theme.caution};
  color: ${(p) => p.theme.caution};
  font-weight: 700;
`;

const Lead = styled.div<{ $on: boolean; $warn: boolean }>`
  display: grid;
  grid-template-columns: 4rem auto minmax(0, 1fr) auto auto;
  gap: 0.25rem 0.875rem;
  align-items: center;
  min-height: 4.125rem;
  padding: 0.25rem 0.375rem;
  border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  background: ${(p) => (p.$on ? p.theme.lit : "transparent")};
  outline: ${(p) => (p.$on ? `0.1875rem solid ${p.theme.ink}` : p.$warn ? `0.125rem solid ${p.theme.caution}` : "none")};
  outline-offset: -0.1875rem;
  > b {
    font-size: 1.5rem;
  }
  > div {
    font-size: ${(p) => p.theme.work};
    line-height: 1.2;
    small {
      display: block;
      font-size: ${(p) => p.theme.glance};
      color: ${(p) => p.theme.inkQuiet};
    }
  }
  ${phone} {
    grid-template-columns: auto auto minmax(0, 1fr) auto;
    > svg:first-of-type {
      width: 4.375rem;
    }
    > div {
      grid-column: 1 / 4;
      grid-row: 2;
    }
  }
`;

const Words = styled(Button)`
  border: 0;
  padding: 0.375rem 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 0.1875rem;
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
  }
`;

const Box = styled(Button)<{ $ticked: boolean }>`
  display: grid;
  place-items: center;
  width: 3.75rem;
  height: 3.5rem;
  border: 0.1562rem solid ${(p) => p.theme.ink};
  background: ${(p) => (p.$ticked ? p.theme.back : p.theme.sheet)};
  color: ${(p) => p.theme.onStrong};
  font: 700 1.75rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

/** A tag as it hangs on the lead, with its number. */
function Tag({ n }: { n: number }) {
  return (
    <svg width="62" height="34" viewBox="0 0 62 34" role="img" aria-label={`tag ${n}`}>
      <path d="M11 2 H60 V32 H11 L2 17 Z" fill="none" stroke="currentColor" strokeWidth="2.4" />
      <text x="36" y="24" fontSize="19" fontWeight="700" textAnchor="middle" fill="currentColor">
        {n}
      </text>
    </svg>
  );
}

interface WireCardProps {
  plug: Plug;
  looking?: boolean;
}

/** A connector's leads: each by its terminal, drawn in its colour with its words, its tag, one at a time. */
export function WireCard({ plug, looking }: WireCardProps) {
  const record = useRecord();
  const [asked, setAsked] = useState<{ wire: Wire; what: "colour" | "move" }>();
  const [failed, setFailed] = useState("");
  const camera = useCamera({
    onFailed: setFailed,
    onTaken: (sha256) => record([{ kind: "photo", body: { sha256, on: plug.item } }]),
  });
  const first = plug.wires.find((w) => (w.tick && !w.ticked) || (w.confirm && !w.confirmed));
  return (
    <Card aria-label={plug.name}>
      <header>
        <b>{plug.name}</b>
        <span>{plug.one_by_one ? `one at a time, onto the new ${plug.one_by_one}` : plug.note}</span>
      </header>
      {plug.warn.map((w) => (
        <Warn key={w} role="alert">
          {w}
        </Warn>
      ))}
      {plug.picture && !plug.pictured && !looking && (
        <div style={{ display: "flex", gap: 10, flexWrap: "wrap", padding: "0 0 0.5rem" }}>
          {camera.input}
          <Strong onPress={camera.open}>
            {camera.busy ? "Keeping the photo …" : `Photo of the ${plug.name.toLowerCase()}`}
          </Strong>
          <Plain onPress={() => plug.instead && void record([plug.instead])}>Noted in writing</Plain>
        </div>
      )}
      {failed && <Complaint role="alert">{failed}</Complaint>}
      {plug.wires.map((w) => (
        <LeadRow
          key={w.wire}
          wire={w}
          on={!looking && w === first}
          looking={looking}
          onColour={() => setAsked({ wire: w, what: "colour" })}
          onMove={() => setAsked({ wire: w, what: "move" })}
        />
      ))}
      {asked?.what === "colour" && <Colour wire={asked.wire} onClose={() => setAsked(undefined)} />}
      {asked?.what === "move" && (
        <MoveOver wire={asked.wire} onto={plug.one_by_one} onClose={() => setAsked(undefined)} />
      )}
    </Card>
  );
}

interface LeadRowProps {
  wire: Wire;
  on: boolean;
  looking?: boolean;
  onColour: () => void;
  onMove: () => void;
}

function LeadRow({ wire: w, on, looking, onColour, onMove }: LeadRowProps) {
  const record = useRecord();
  const quiet = [w.place, w.also, ...w.differs].filter(Boolean).join(" · ");
  const tick = w.confirm ?? w.tick;
  const moves = w.tick?.kind === "lead.moved";
  const [ticked, press] = useTick(w.confirm ? w.confirmed : w.ticked, () =>
    tick ? record([tick]) : undefined,
  );
  const does = w.confirm
    ? `on ${w.moved || w.terminal}, tugged`
    : moves
      ? "moved over"
      : w.terminal === "plug"
        ? "plug tagged"
        : "tagged";
  return (
    <Lead $on={on} $warn={w.differs.length > 0}>
      <b>{w.terminal === "plug" ? "Plug" : w.moved ? `${w.terminal} → ${w.moved}` : w.terminal}</b>
      <Swatch colour={w.colour} stripe={w.stripe} />
      <div>
        {w.say && !looking ? (
          <Words onPress={onColour} aria-label={`${w.terminal}: ${w.says}. Say another colour`}>
            {w.says}
          </Words>
        ) : (
          w.says
        )}
        {quiet && <small>{quiet}</small>}
        {w.proof && <small>by {w.proof}</small>}
      </div>
      {w.tag > 0 ? <Tag n={w.tag} /> : <span />}
      {tick && !looking ? (
        <Box
          $ticked={ticked}
          aria-pressed={ticked}
          aria-label={`${w.terminal}, ${w.says}${w.tag ? `, tag ${w.tag}` : ""}: ${does}`}
          onPress={() => {
            if (ticked) return;
            if (moves) onMove();
            else press();
          }}
        >
          {ticked ? "✓" : ""}
        </Box>
      ) : (
        <span />
      )}
    </Lead>
  );
}
