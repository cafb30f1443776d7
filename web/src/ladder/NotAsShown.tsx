import { useState } from "react";
import type { Lot, Make, Side, View } from "../api/client";
import { useLists } from "../offline/useAsk";
import { Text } from "../parts/Fields";
import { OneFrom } from "../parts/OneFrom";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint, Dialogue } from "../parts/Sheets";
import { OwnRung } from "./OwnRung";
import { useRecord } from "../job/here";

type What = "" | "own" | "drive" | "cannot" | "note" | "found" | "inside" | "used";

interface NotAsShownProps {
  view: View;
  side?: Side;
  open: boolean;
  first?: What;
  onClose: () => void;
}

/** What differs from the map, or is not on it: each with the few touches that it takes. */
export function NotAsShown({ view, side, open, first = "", onClose }: NotAsShownProps) {
  const record = useRecord();
  const [what, setWhat] = useState<What>(first);
  const close = () => {
    setWhat(first);
    onClose();
  };
  const send = (...makes: Make[]) => {
    close();
    void record(makes);
  };
  const titles: Record<What, string> = {
    "": "Different here",
    own: "Different here: what holds it?",
    drive: "Another driver",
    cannot: "It cannot be done",
    note: "A note",
    found: "As found",
    inside: "Put in, or found inside",
    used: "Used up",
  };
  const lots = side?.lots ?? [];
  return (
    <Dialogue title={titles[what]} open={open} onClose={close}>
      {what === "" && (
        <>
          <Plain onPress={() => setWhat("own")}>Extra fastener or part, not shown: add a step</Plain>
          {side?.mend.map((m) => (
            <Plain key={m.label} onPress={() => send(...m.makes)}>
              {m.label}: {m.says}
            </Plain>
          ))}
          {lots.length > 0 && <Plain onPress={() => setWhat("drive")}>Another driver than shown</Plain>}
          {view.current.move && <Plain onPress={() => setWhat("cannot")}>It cannot be done this way</Plain>}
          <Plain onPress={() => setWhat("found")}>Off, missing or broken before you came</Plain>
          <Plain onPress={() => setWhat("inside")}>Something put in, or found inside</Plain>
          <Plain onPress={() => setWhat("used")}>Something used up</Plain>
          <Plain onPress={() => setWhat("note")}>Note it and go on</Plain>
          <Plain onPress={close}>Cancel, it matches</Plain>
        </>
      )}
      {what === "own" && <Own view={view} onClose={close} />}
      {what === "drive" && <Drivers view={view} lots={lots} send={send} />}
      {what === "cannot" && (
        <Said
          label="Why can it not be done?"
          act="It cannot be done this way: plan another"
          onSend={(reason) =>
            send({
              kind: "rung.not-done",
              body: { move: view.current.move ?? "", side: view.current.side ?? "", reason, bars: true },
            })
          }
        />
      )}
      {what === "note" && (
        <Said
          label="What should the next one know?"
          act="Note it"
          onSend={(text) => send({ kind: "note", body: { text, on: view.current.move } })}
        />
      )}
      {what === "used" && (
        <Said
          label="What was used up?"
          act="Put it on the sheet"
          onSend={(text) => send({ kind: "used", body: { what: text, count: 1 } })}
        />
      )}
      {what === "found" && <AsFound view={view} send={send} />}
      {what === "inside" && <Inside view={view} send={send} />}
    </Dialogue>
  );
}

interface DriversProps {
  view: View;
  lots: Lot[];
  send: (...makes: Make[]) => void;
}

/** Another driver than shown, lot by lot. */
function Drivers({ view, lots, send }: DriversProps) {
  const lists = useLists(view);
  return lots.map((l) => (
    <OneFrom
      key={l.lot}
      label={`${l.kind}: it is`}
      of={(lists?.kinds ?? []).map((k) => ({ id: k.name, name: k.name }))}
      value=""
      onChange={(chosen) => {
        const is = lists?.kinds.find((k) => k.name === chosen);
        if (!is) return;
        const { name, drive, size } = is;
        send({ kind: "difference", body: { on: l.lot, says: l.driver || l.kind, is: name, drive, size } });
      }}
    />
  ));
}

/** A field and the touch that sends it. */
function Said({ label, act, onSend }: { label: string; act: string; onSend: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <>
      <Text label={label} value={text} onChange={setText} most={2000} lines={3} first />
      <Strong isDisabled={!text.trim()} onPress={() => onSend(text.trim())}>
        {act}
      </Strong>
    </>
  );
}

function Own(props: { view: View; onClose: () => void }) {
  return <OwnRung {...props} lists={useLists(props.view)} />;
}

/** What was so before the record began: with who says so, and with what was seen. */
function AsFound({ view, send }: { view: View; send: (...makes: Make[]) => void }) {
  const lists = useLists(view);
  const [move, setMove] = useState("");
  const [item, setItem] = useState("");
  return (
    <>
      <OneFrom
        label="Off already"
        of={(lists?.moves ?? []).filter((m) => !m.on)}
        value={move}
        onChange={setMove}
        none="choose what was off"
      />
      {move && (
        <>
          <Strong onPress={() => send({ kind: "found", body: { move, by: "customer" } })}>
            The customer took it off
          </Strong>
          <Plain onPress={() => send({ kind: "found", body: { move, by: "unknown" } })}>
            Nobody knows who did
          </Plain>
        </>
      )}
      <OneFrom
        label="Missing or broken"
        of={lists?.items ?? []}
        value={item}
        onChange={setItem}
        none="choose what"
      />
      {item && (
        <>
          <Strong onPress={() => send({ kind: "found", body: { item, level: "away", state: "missing" } })}>
            It is missing
          </Strong>
          <Plain onPress={() => send({ kind: "found", body: { item, level: "fitted", state: "broken" } })}>
            It is broken
          </Plain>
        </>
      )}
      <small>A photo of it goes with the Photo button; it bears the date.</small>
    </>
  );
}

/** What must come out again, and what is the customer's. */
function Inside({ view, send }: { view: View; send: (...makes: Make[]) => void }) {
  const [text, setText] = useState("");
  const [before, setBefore] = useState("");
  const due = view.rungs.filter((r) => r.kind !== "check" && r.back !== "done" && r.back !== "none");
  const name = text.trim();
  return (
    <>
      <Text label="What is it?" value={text} onChange={setText} most={60} example="cord on the lid" />
      <OneFrom
        label="It must be out before"
        of={due.map((r) => ({ id: r.id, name: `${r.title} is back` }))}
        value={before}
        onChange={setBefore}
        none="the job is even"
        optional
      />
      <Strong
        isDisabled={!name}
        onPress={() => send({ kind: "temporary.in", body: { name, ...(before ? { before } : {}) } })}
      >
        I put it in: it must come out again
      </Strong>
      <Plain isDisabled={!name} onPress={() => send({ kind: "belonging", body: { what: name } })}>
        I found it inside: it is the customer’s
      </Plain>
      <Plain isDisabled={!name} onPress={() => send({ kind: "left-over", body: { count: 1, where: name } })}>
        A fastener is left over, and nobody knows from where
      </Plain>
      {view.inside.length > 0 && (
        <Complaint>Inside now: {view.inside.map((i) => i.what).join(", ")}</Complaint>
      )}
    </>
  );
}
