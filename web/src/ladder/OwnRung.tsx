import { useState } from "react";
import styled from "styled-components";
import type { Lists, Touch, View } from "../api/client";
import { useAsk } from "../offline/useAsk";
import { OneOf, Text } from "../parts/Fields";
import { OneFrom } from "../parts/OneFrom";
import { Choice, Plain, Strong } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
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
  const [sort, setSort] = useState("");
  const [count, setCount] = useState(1);
  const [driver, setDriver] = useState("");
  const [title, setTitle] = useState("");
  const here = view.current.kind === "out" ? (view.current.move ?? "") : "";
  const [before, setBefore] = useState<string>();
  const [face, setFace] = useState("front");
  const [keyed, setKeyed] = useState(false);
  const [earth, setEarth] = useState(false);
  const [leads, setLeads] = useState("");
  const [photo, setPhoto] = useState("");
  const [wrong, setWrong] = useState("");
  const camera = useCamera({ onTaken: setPhoto, onFailed: setWrong });
  const rung = view.rungs.find((r) => r.current);
  const blocks = before ?? here;
  const asked = lists?.sorts.find((s) => s.name === sort) ?? lists?.sorts[0];
  const typed = { title, face, before: blocks, driver, count, keyed, earth, leads, photo };
  const {
    got: own,
    failed: refused,
    stale,
  } = useAsk("own", view, { id, sort: asked?.name ?? "", ...typed }, asked !== undefined);
  const tried = own?.tried;
  const send = (touch: Touch) => {
    onClose();
    void record(touch.makes);
  };
  return (
    <Form>
      <h3>What holds it?</h3>
      <OneOf
        label="What holds it?"
        values={(lists?.sorts ?? []).map((s) => s.name)}
        value={asked?.name ?? ""}
        onChange={setSort}
      />
      {asked?.counted && (
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
            {asked.driven && (
              <OneFrom
                label="Driver"
                heard
                of={(lists?.kinds ?? []).map((k) => ({ id: k.name, name: k.name }))}
                value={driver || (lists?.kinds[0]?.name ?? "")}
                onChange={setDriver}
              />
            )}
          </Row>
        </>
      )}
      {asked?.leads && (
        <>
          <Text
            label="Leads, by their colours from left to right"
            value={leads}
            onChange={setLeads}
            example="red, blue, blue"
          />
          <Row>
            <Choice aria-pressed={keyed} onPress={() => setKeyed(!keyed)}>
              goes on one way
            </Choice>
            <Choice aria-pressed={earth} onPress={() => setEarth(!earth)}>
              it is an earth
            </Choice>
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
          <Choice aria-pressed={blocks === here} onPress={() => setBefore(here)}>
            {rung?.title ?? here}
          </Choice>
        )}
        <OneFrom
          label="It must be out before"
          heard
          of={lists?.moves ?? []}
          value={blocks}
          onChange={setBefore}
          none="nothing"
          optional
        />
      </Row>
      <h3>Where?</h3>
      <OneOf label="Where?" values={faces} value={face} onChange={setFace} />
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
      {own && (
        <Strong isDisabled={stale} onPress={() => send(own.now)}>
          {own.now.label}
        </Strong>
      )}
      {own && (
        <Plain isDisabled={stale} onPress={() => send(own.later)}>
          {own.later.label}
        </Plain>
      )}
    </Form>
  );
}
