import { useState } from "react";
import type { Side, View } from "../api/client";
import { useRecord } from "../job/here";
import { Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Line } from "../parts/text";
import { Middle } from "./Middle";

interface OwnWorkProps {
  view: View;
  side: Side;
  onOwn: () => void;
}

/** A machine without a map: what can hurt is shut off, then each thing that comes off becomes a rung. */
export function OwnWork({ view, side, onOwn }: OwnWorkProps) {
  const record = useRecord();
  const [fitted, setFitted] = useState("");
  const [number, setNumber] = useState("");
  return (
    <Middle>
      <h1>{side.title}</h1>
      <p>{side.view}</p>
      {side.do.map((line) => (
        <p key={line}>
          <Line text={line} />
        </p>
      ))}
      {side.choices.map((c) => (
        <Strong key={c.label} onPress={() => void record(c.makes)}>
          {c.label}
        </Strong>
      ))}
      <Strong onPress={onOwn}>Something comes off: add a step</Strong>
      <Text label="A part fitted: what" value={fitted} onChange={setFitted} most={60} />
      <Text label="Its number, as printed on it" value={number} onChange={setNumber} most={40} />
      <Plain
        isDisabled={!fitted.trim()}
        onPress={() => {
          const part = fitted.trim();
          setFitted("");
          setNumber("");
          void record([
            { kind: "part.fitted", body: { part, piece: part, number: number.trim(), evidence: "seen" } },
          ]);
        }}
      >
        It is fitted
      </Plain>
      <small>{view.standing}</small>
    </Middle>
  );
}
