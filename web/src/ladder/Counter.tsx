import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { plus, type Choice, type Lot } from "../api/client";
import { Plain } from "../parts/Buttons";
import { Dialogue } from "../parts/Sheets";
import { phone, upright } from "../parts/theme";
import { useRecord } from "../job/here";

const Count = styled.div<{ $counted: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.375rem;
  padding: 0.25rem 0.375rem 0.25rem 0.75rem;
  min-height: 3.75rem;
  background: ${(p) => p.theme.sheet};
  border: 0.125rem ${(p) => (p.$counted ? "solid" : "dashed")} ${(p) => p.theme.ink};
  > b {
    font-size: 1.625rem;
  }
  > span {
    flex: 1 1 8.125rem;
    padding-left: 0.375rem;
    min-width: 0;
    font-size: 1.0625rem;
    line-height: 1.2;
    small {
      display: block;
      font-size: ${(p) => p.theme.glance};
      color: ${(p) => p.theme.inkQuiet};
    }
    strong {
      color: ${(p) => p.theme.caution};
    }
    ${phone} {
      flex: 1 0 calc(100% - 4rem);
    }
    ${upright} {
      flex: 1 0 calc(100% - 4rem);
    }
  }
  output {
    min-width: 2.75rem;
    text-align: center;
    font: 700 1.5rem/1 ${(p) => p.theme.mono};
  }
`;

export const Step = styled(Button)`
  min-width: 3.5rem;
  min-height: 3.5rem;
  padding: 0 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.paper};
  color: ${(p) => p.theme.ink};
  font: 700 1.375rem/1 ${(p) => p.theme.text};
  cursor: pointer;
  &[data-pressed] {
    background: ${(p) => p.theme.well};
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

export const nouns = (l: Pick<Lot, "count" | "noun">) => (l.count === 1 ? l.noun : `${l.noun}s`);

const box = (l: Lot) => (l.tray ? `tray ${l.tray}` : "a bag");

interface CounterProps {
  lot: Lot;
  home: boolean;
  looking?: boolean;
}

/** Counts one lot that must be counted. Nothing is filled in beforehand; on the way back a tray is asked once. */
export function Counter({ lot, home, looking }: CounterProps) {
  const record = useRecord();
  const [draft, setDraft] = useState<number>();
  const counted = lot.counted ?? undefined;
  const shown = draft ?? counted;
  const set = (count: number) => {
    setDraft(count);
    void record([plus(lot.tally, { count })]).then(() => setDraft(undefined));
  };
  const what = `${lot.count} ${nouns(lot)} ${home ? "back from" : "into"} ${box(lot)}`;
  const all =
    home && lot.empties && lot.tray ? `${lot.tray} empty` : lot.count === 1 ? "The one" : `All ${lot.count}`;
  return (
    <Count $counted={counted !== undefined} role="group" aria-label={what}>
      <b>{lot.tray || "bag"}</b>
      <span>
        {lot.count} {nouns(lot)}, {lot.kind}
        <small>
          {counted === undefined ? lot.why : home ? "counted back in" : "counted in"}
          {lot.differs && `, ${lot.differs}: kept as a difference`}
        </small>
        {lot.bag && <small>Label: {lot.bag}</small>}
        {lot.drops && !home && <strong>{lot.drops}</strong>}
        {lot.astray > 0 && <strong>{lot.astray} not found</strong>}
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
            <Step aria-label={`${all}: ${what}`} onPress={() => set(lot.count)}>
              {all}
            </Step>
          )}
          <Astray lot={lot} />
        </>
      )}
    </Count>
  );
}

/** What may have become of a fastener that is not where it should be. */
export function Astray({ lot }: { lot: Lot }) {
  const record = useRecord();
  const [open, setOpen] = useState(false);
  if (lot.or.length === 0) return null;
  const choose = (c: Choice) => {
    setOpen(false);
    void record(c.makes);
  };
  return (
    <>
      <Step aria-label={`${lot.astray > 0 ? "Found?" : "Gone?"} ${lot.kind}`} onPress={() => setOpen(true)}>
        {lot.astray > 0 ? "Found?" : "Gone?"}
      </Step>
      <Dialogue title={`${lot.count} ${nouns(lot)}, ${lot.kind}`} open={open} onClose={() => setOpen(false)}>
        {lot.or.map((c) => (
          <Plain key={c.label} onPress={() => choose(c)}>
            {c.label} {c.says}
          </Plain>
        ))}
        <Plain onPress={() => setOpen(false)}>All are there</Plain>
      </Dialogue>
    </>
  );
}
