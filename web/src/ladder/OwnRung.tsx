import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Goes, Lists, Make, View } from "../api/client";
import { useTry } from "../offline/useAsk";
import { Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint, Select } from "../parts/Sheets";
import { useCamera } from "../photos/TakePhoto";
import { Step } from "./Counter";
import { useRecord } from "../job/here";

const Form = styled.div`
  display: grid;
  gap: 0.625rem;
  h3 {
    margin-top: 0.25rem;
    font-size: ${(p) => p.theme.work};
  }
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
`;

const Pick = styled(Button)`
  flex: 1 1 6rem;
  min-height: 3.5rem;
  padding: 0.25rem 0.75rem;
  border: 0.125rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.paper};
  color: ${(p) => p.theme.ink};
  font: 600 ${(p) => p.theme.work} / 1.15 ${(p) => p.theme.text};
  cursor: pointer;
  &[aria-pressed="true"] {
    background: ${(p) => p.theme.strong};
    color: ${(p) => p.theme.doneText};
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

/** What holds it: the words a technician has, and what each is in the record. */
const sorts = {
  screw: { drive: "hex", type: "part" },
  clip: { drive: "clip", type: "part" },
  plug: { drive: "", type: "connector" },
  cover: { drive: "hex", type: "cover" },
  belt: { drive: "", type: "belt" },
  other: { drive: "loose", type: "part" },
} as const;
type Sort = keyof typeof sorts;

const faces = ["front", "top", "rear", "inside", "left", "right", "under"];

interface OwnRungProps {
  view: View;
  lists?: Lists;
  onClose: () => void;
}

/** What the map does not know, recorded with few touches: what holds it, how many, which driver, what it blocks. */
export function OwnRung({ view, lists, onClose }: OwnRungProps) {
  const record = useRecord();
  const [id] = useState(() => "own-" + crypto.randomUUID().slice(0, 8));
  const [sort, setSort] = useState<Sort>("screw");
  const [count, setCount] = useState(1);
  const kinds = lists?.kinds ?? [];
  const [driver, setDriver] = useState<string>();
  const [title, setTitle] = useState("");
  const here = view.current.kind === "out" ? (view.current.move ?? "") : "";
  const [before, setBefore] = useState<string>();
  const [face, setFace] = useState("");
  const [keyed, setKeyed] = useState(false);
  const [earth, setEarth] = useState(false);
  const [leads, setLeads] = useState("");
  const [photo, setPhoto] = useState("");
  const [wrong, setWrong] = useState("");
  const camera = useCamera({ onTaken: setPhoto, onFailed: setWrong });
  const rung = view.rungs.find((r) => r.current);
  const at = face || "front";
  const blocks = before ?? here;
  const chosen = kinds.find((k) => k.name === driver) ?? kinds[0];
  const asked = sorts[sort];
  const { drive, size } =
    asked.drive === "hex" ? (chosen ?? { drive: "hex", size: "" }) : { drive: asked.drive, size: "" };
  const wires = leads
    .split(",")
    .map((w, i) => ({ terminal: String(i + 1), colour: w.trim() }))
    .filter((w) => w.colour);
  const body = {
    id,
    title: title.trim() || `${sort[0]?.toUpperCase()}${sort.slice(1)} that the map does not know`,
    face: at,
    before: blocks ? [blocks] : [],
    lots: asked.drive && count > 0 ? [{ drive, size, count }] : [],
    wires: sort === "plug" ? wires : [],
    type: asked.type,
    keyed,
    earth,
    minutes: { out: 1, back: 1 },
  };
  // What is entered here was counted: it goes on the record as a count.
  const out = (goes: Goes[]): Make[] => [
    { kind: "rung.own", body },
    ...body.lots.map((l, i): Make => {
      const lot = `${id}/${i + 1}`;
      const tray = goes.find((g) => g.lot === lot)?.tray;
      return { kind: "lot.counted", body: { lot, side: "out", count: l.count, ...(tray ? { tray } : {}) } };
    }),
    { kind: "rung.out", body: { move: id } },
  ];
  const { tried, wrong: refused } = useTry(view, out([]));
  const send = (makes: Make[]) => {
    onClose();
    void record(photo ? [...makes, { kind: "photo", body: { sha256: photo, on: id } }] : makes);
  };
  return (
    <Form>
      <h3>What holds it?</h3>
      <Row role="group" aria-label="What holds it?">
        {(Object.keys(sorts) as Sort[]).map((s) => (
          <Pick key={s} aria-pressed={s === sort} onPress={() => setSort(s)}>
            {s}
          </Pick>
        ))}
      </Row>
      {asked.drive && (
        <>
          <h3>How many, which driver?</h3>
          <Row>
            <Step aria-label="One less" onPress={() => setCount(Math.max(0, count - 1))}>
              −
            </Step>
            <output
              style={{
                minWidth: 56,
                textAlign: "center",
                alignSelf: "center",
                fontSize: 26,
                fontWeight: 700,
              }}
            >
              {count}
            </output>
            <Step aria-label="One more" onPress={() => setCount(count + 1)}>
              +
            </Step>
            {asked.drive === "hex" && (
              <Select
                aria-label="Driver"
                value={chosen?.name ?? ""}
                onChange={(e) => setDriver(e.target.value)}
              >
                {kinds.map((k) => (
                  <option key={k.name}>{k.name}</option>
                ))}
              </Select>
            )}
          </Row>
        </>
      )}
      {sort === "plug" && (
        <>
          <Text
            label="Leads, by their colours from left to right"
            value={leads}
            onChange={setLeads}
            example="red, blue, blue"
          />
          <Row>
            <Pick aria-pressed={keyed} onPress={() => setKeyed(!keyed)}>
              goes on one way
            </Pick>
            <Pick aria-pressed={earth} onPress={() => setEarth(!earth)}>
              it is an earth
            </Pick>
          </Row>
        </>
      )}
      <Text
        label="What is it called?"
        value={title}
        onChange={setTitle}
        most={60}
        example="Hidden screw behind the filter"
      />
      <h3>It must be out before</h3>
      <Row>
        {here && (
          <Pick aria-pressed={blocks === here} onPress={() => setBefore(here)}>
            {rung?.title ?? here}
          </Pick>
        )}
        <Select aria-label="Something else" value={blocks} onChange={(e) => setBefore(e.target.value)}>
          <option value="">nothing</option>
          {lists?.moves.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </Select>
      </Row>
      <h3>Where?</h3>
      <Row role="group" aria-label="Where?">
        {faces.map((f) => (
          <Pick key={f} aria-pressed={f === at} onPress={() => setFace(f)}>
            {f}
          </Pick>
        ))}
      </Row>
      {(refused || wrong) && <Complaint role="alert">{refused || wrong}</Complaint>}
      {tried?.stuck && <Complaint role="alert">{tried.stuck}</Complaint>}
      {tried?.warn.map((w) => (
        <Complaint key={w} role="alert">
          {w}
        </Complaint>
      ))}
      <small>
        {tried && !tried.stuck ? `${tried.says}. ` : ""}It becomes a step of its own, both ways, and is kept
        as a difference for the map.
      </small>
      {camera.input}
      <Plain onPress={camera.open}>{photo ? "Photo taken" : camera.busy ? "Keeping …" : "Photo first"}</Plain>
      {tried && tried.leads.length > 0 ? (
        <Strong
          onPress={() =>
            // Its leads look alike: the card with the tags stands before it is out.
            send([
              { kind: "rung.own", body },
              { kind: "goal.added", body: { goal: `item:${id}=away` } },
            ])
          }
        >
          First its leads: {tried.leads[0]}
          {tried.leads.length > 1 ? `, and ${tried.leads.length - 1} more` : ""}
        </Strong>
      ) : (
        <Strong
          onPress={() =>
            // The tray that was said on the button is the tray of the record.
            send(out(tried?.trays ?? []))
          }
        >
          It is out{tried?.trays.length ? `: ${tried.trays.map((g) => g.say).join(", ")}` : ""}
        </Strong>
      )}
      <Plain
        onPress={() =>
          send([
            { kind: "rung.own", body },
            ...(body.before.length > 0
              ? []
              : [{ kind: "goal.added", body: { goal: `item:${id}=away` } } satisfies Make]),
          ])
        }
      >
        Not out yet: add to plan
      </Plain>
    </Form>
  );
}
