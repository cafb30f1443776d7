import { useState } from "react";
import styled from "styled-components";
import type { Make, View } from "../api/client";
import { useLists } from "../offline/useAsk";
import { Plain, Strong } from "../parts/Buttons";
import { Dialogue } from "../parts/Sheets";
import { Step } from "../ladder/Counter";
import { useSession } from "../signin/session";
import { useRecord } from "../job/here";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  output {
    min-width: 3.5rem;
    text-align: center;
    font: 700 1.625rem/1 ${(p) => p.theme.mono};
  }
  > button[aria-pressed="true"] {
    background: ${(p) => p.theme.strong};
    color: ${(p) => p.theme.doneText};
  }
`;

interface AtTheKneeProps {
  view: View;
  onClose: () => void;
}

/** Who helps, how many trays there are, and which drivers: what is too few is said, and what fits. */
export function AtTheKnee({ view, onClose }: AtTheKneeProps) {
  const record = useRecord();
  const lists = useLists(view);
  const { me } = useSession();
  const [trays, setTrays] = useState(Math.max(6, view.trays.length));
  const [drivers, setDrivers] = useState<string[]>([]);
  // Whose help begins or ends here, once it is confirmed.
  const [other, setOther] = useState<string[]>([]);
  const all = lists?.kinds.filter((k) => k.turns).map((k) => k.name) ?? [];
  return (
    <Dialogue title="My tools and helpers" open onClose={onClose}>
      <p>Who helps?</p>
      <Row role="group" aria-label="Who helps?">
        {lists?.people
          .filter((p) => p.id !== me.id)
          .map((p) => (
            <Plain
              key={p.id}
              aria-pressed={p.on !== other.includes(p.id)}
              onPress={() =>
                setOther(other.includes(p.id) ? other.filter((o) => o !== p.id) : [...other, p.id])
              }
            >
              {p.name}
              {p.note && <small style={{ display: "block", fontWeight: 400 }}>{p.note}</small>}
            </Plain>
          ))}
      </Row>
      <p>How many trays?</p>
      <Row>
        <Step aria-label="One tray less" onPress={() => setTrays(Math.max(0, trays - 1))}>
          −
        </Step>
        <output>{trays}</output>
        <Step aria-label="One tray more" onPress={() => setTrays(Math.min(40, trays + 1))}>
          +
        </Step>
      </Row>
      <p>Which drivers?</p>
      <Row>
        {all.map((d) => (
          <Plain
            key={d}
            aria-pressed={drivers.includes(d)}
            onPress={() => setDrivers(drivers.includes(d) ? drivers.filter((o) => o !== d) : [...drivers, d])}
          >
            {d}
          </Plain>
        ))}
      </Row>
      <Strong
        onPress={() => {
          onClose();
          const people = (lists?.people ?? [])
            .filter((p) => other.includes(p.id))
            .map((p): Make => ({ kind: p.on ? "person.gone" : "person.here", body: { person: p.id } }));
          void record([
            ...people,
            { kind: "bench.has", body: { trays, ...(drivers.length ? { drivers } : {}) } },
          ]);
        }}
      >
        That is what I have
      </Strong>
      <Plain onPress={onClose}>Leave it</Plain>
    </Dialogue>
  );
}
