import { useState } from "react";
import type { Make, Snag } from "../api/client";
import { useRecord } from "../job/here";
import { LineView } from "../ladder/LineView";
import { Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Dialogue } from "../parts/Sheets";
import { Row } from "./evenShapes";

/** One thing short of even, with the touches that settle it. */
export function SnagRow({ snag }: { snag: Snag }) {
  const record = useRecord();
  const [asking, setAsking] = useState<"explain" | "inspect">();
  const [text, setText] = useState("");
  const inspect = snag.grade === "stop" && snag.kind !== "stopped";
  return (
    <Row $tone={snag.grade === "stop" ? "stop" : "open"}>
      <div>
        <h2>{snag.say}</h2>
        <p>{snag.do}</p>
      </div>
      {snag.line && <LineView line={snag.line} />}
      {snag.touches.map((t) => (
        <Plain key={t.label} onPress={() => void record(t.makes)}>
          {t.label}
        </Plain>
      ))}
      {snag.explain && <Plain onPress={() => setAsking("explain")}>Explain</Plain>}
      {inspect && <Plain onPress={() => setAsking("inspect")}>Inspected</Plain>}
      <Dialogue title={snag.say} open={asking !== undefined} onClose={() => setAsking(undefined)}>
        <Text
          label={
            asking === "inspect"
              ? "What did you find? (not by the person who raised it)"
              : "Why is it so? It is printed on the sheet."
          }
          value={text}
          onChange={setText}
          most={2000}
          lines={3}
          first
        />
        <Strong
          isDisabled={!text.trim()}
          onPress={() => {
            const make: Make =
              asking === "inspect"
                ? { kind: "inspected", body: { snag: snag.id, finding: text } }
                : { kind: "snag.explained", body: { snag: snag.id, reason: text } };
            setAsking(undefined);
            void record([make]);
          }}
        >
          Record it
        </Strong>
        <Plain onPress={() => setAsking(undefined)}>Not now</Plain>
      </Dialogue>
    </Row>
  );
}
