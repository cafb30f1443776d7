import { useRef, type KeyboardEvent } from "react";
import type { Place } from "../api/client";
import { Choice, Plain } from "../parts/Buttons";
import { OneOf, Text } from "../parts/Fields";
import { Beside, Choices } from "./look";
import { meant, type Where } from "./where";

export interface NewMachine {
  site: string;
  name: string;
  model: string;
  serial: string;
  kind: string;
}

const few = 5;

interface WhereItStandsProps {
  places?: Place[];
  kinds: string[];
  where?: Where;
  onWhere: (where: Where | null) => void;
  find: string;
  onFind: (text: string) => void;
  fresh: boolean;
  onFresh: (fresh: boolean) => void;
  machine: NewMachine;
  onMachine: (machine: NewMachine) => void;
}

/** Which machine it is: found by any of its words, or written down as new. */
export function WhereItStands(props: WhereItStandsProps) {
  const { where, onWhere, fresh, onFresh, machine, onMachine } = props;
  const set = (key: keyof NewMachine) => (value: string) => onMachine({ ...machine, [key]: value });
  if (fresh) {
    return (
      <>
        <p>Its site</p>
        <OneOf
          label="Its site"
          values={(props.places ?? []).map((p) => p.id)}
          names={Object.fromEntries((props.places ?? []).map((p) => [p.id, p.name]))}
          value={machine.site}
          onChange={set("site")}
        />
        <Text label="Name on site" value={machine.name} example="dryer 2" onChange={set("name")} most={80} />
        <Text
          label="Model, from the rating plate"
          value={machine.model}
          example="TV6-230"
          onChange={set("model")}
          most={80}
        />
        <Text label="Serial" value={machine.serial} example="L-20418" onChange={set("serial")} most={80} />
        <p>What kind it is, where the model is not known</p>
        <OneOf
          label="What kind it is"
          values={props.kinds}
          value={machine.kind}
          onChange={set("kind")}
          optional
        />
        <Plain onPress={() => onFresh(false)}>Existing machine</Plain>
      </>
    );
  }
  if (where) {
    return (
      <Beside>
        <b>{where.label}</b>
        <Plain onPress={() => onWhere(null)}>Another</Plain>
      </Beside>
    );
  }
  return <Found {...props} />;
}

/** The machines that a few letters mean; the arrows go through them, Enter takes the first. */
function Found({ places, find, onFind, onWhere, onFresh }: WhereItStandsProps) {
  const box = useRef<HTMLDivElement>(null);
  const found = meant(places ?? [], find);
  const step = (event: KeyboardEvent) => {
    const all = [...(box.current?.querySelectorAll("button") ?? [])];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    const [first] = found;
    if (event.key === "Enter" && at < 0 && first) {
      event.preventDefault();
      onWhere(first);
    }
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by || all.length === 0) return;
    event.preventDefault();
    if (at + by < 0) box.current?.querySelector("input")?.focus();
    else all[Math.min(at + by, all.length - 1)]?.focus();
  };
  return (
    <div ref={box} onKeyDownCapture={step} style={{ display: "contents" }}>
      <Text
        label="Site, machine, model or serial"
        value={find}
        onChange={onFind}
        most={80}
        example="canteen dryer"
      />
      <Choices>
        {found.slice(0, few).map((m) => (
          <Choice key={m.appliance} onPress={() => onWhere(m)}>
            {m.label}
          </Choice>
        ))}
      </Choices>
      {found.length > few && <p>{found.length - few} more: write another word.</p>}
      {find.trim() !== "" && found.length === 0 && places && <p>No machine of ours is called that.</p>}
      <Plain onPress={() => onFresh(true)}>A machine that is new here</Plain>
    </div>
  );
}
