import { useState } from "react";
import { useRecord } from "../job/here";
import { Done, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Dialogue } from "../parts/Sheets";

/** A stop is released by somebody who says why work can go on. */
export function Release() {
  const record = useRecord();
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState("");
  return (
    <>
      <Done side="even" label="Release the stop" says="say why" letter="" onPress={() => setAsking(true)} />
      <Dialogue title="Release the stop" open={asking} onClose={() => setAsking(false)}>
        <Text label="Why can work go on?" value={why} onChange={setWhy} most={2000} lines={3} />
        <Strong
          isDisabled={!why.trim()}
          onPress={() => {
            setAsking(false);
            void record([{ kind: "stop.lifted", body: { "by what": why } }]);
          }}
        >
          Release it and go on
        </Strong>
      </Dialogue>
    </>
  );
}
