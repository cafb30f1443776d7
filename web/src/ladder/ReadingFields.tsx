import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { api, got, plus, wentWrong, type Make, type Side } from "../api/client";
import type { Asks } from "../offline/asks";
import { Plain } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { useAsk } from "../offline/useAsk";
import { useJobHere } from "../job/here";
import { ValueField } from "./LineView";
import { Scale } from "./Scale";

/** A reading as it is typed or taken: its value, and what it is judged by. */
export type ReadingDraft = Record<string, string>;

/** What is still missing before a reading can be judged. */
export const stillToRead = (side: Side, draft: ReadingDraft): string[] => [
  ...((draft["value"] ?? "").trim() ? [] : ["the value"]),
  ...side.asks.filter((a) => a.must && !(draft[a.key] ?? "").trim()).map((a) => a.label.toLowerCase()),
];

/** Puts the reading, as it was written, into the record that the core has prepared. */
export function withReading(make: Make, side: Side, draft: ReadingDraft): Make {
  const keys = [...side.asks.map((a) => a.key), ...(side.meter ? ["meter"] : [])];
  const said = keys.flatMap((key) => ((draft[key] ?? "").trim() ? [[key, (draft[key] ?? "").trim()]] : []));
  return plus(make, { value: (draft["value"] ?? "").trim(), ...Object.fromEntries(said) });
}

/** What the reading shows as far as it is written; nothing is kept. */
function useJudged(side: Side, draft: ReadingDraft) {
  const { view } = useJobHere();
  const make = side.done?.makes[0];
  const reads = make?.kind === "reading.taken" && stillToRead(side, draft).length === 0 ? make : undefined;
  const body = reads && withReading(reads, side, draft).body;
  const { got, failed } = useAsk("judge", view, body as Asks["judge"]["in"], reads !== undefined);
  return failed ? undefined : got;
}

/** What it is judged by lies side by side where there is room, so that the scale stays in sight. */
const Beside = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 19rem), 1fr));
  gap: 0.5rem;
  label {
    flex-basis: 9rem;
  }
  input {
    width: 8.5rem;
  }
`;

interface ReadingFieldsProps {
  side: Side;
  id: string;
  draft: ReadingDraft;
  onDraft: (draft: ReadingDraft) => void;
  onEnter?: () => void;
}

/** The value of a reading, what it is judged by, and a touch that takes it from a meter that is joined. */
export function ReadingFields({ side, id, draft, onDraft, onEnter }: ReadingFieldsProps) {
  const joined = useQuery({
    queryKey: ["meter"],
    queryFn: async () => got(await api.GET("/meter")).joined,
    enabled: side.meter !== null,
    retry: false,
    staleTime: Infinity,
  });
  const judged = useJudged(side, draft);
  const [taking, setTaking] = useState(false);
  const [wrong, setWrong] = useState("");
  const take = async () => {
    if (!side.meter || taking) return;
    setTaking(true);
    setWrong("");
    try {
      const read = got(await api.POST("/meter/reading", { body: side.meter }));
      onDraft({ ...draft, value: read.value, meter: read.meter });
    } catch (err) {
      setWrong(wentWrong(err));
    } finally {
      setTaking(false);
    }
  };
  return (
    <>
      <ValueField
        id={id}
        label={side.pass || "It reads"}
        ask={side.value}
        note={
          draft["meter"] ? `taken from ${draft["meter"]}` : side.done?.says ? `asked: ${side.done.says}` : ""
        }
        value={draft["value"] ?? ""}
        onChange={(value) => onDraft({ ...draft, value, meter: "" })}
        onEnter={onEnter}
      >
        {side.meter && joined.data && (
          <Plain isDisabled={taking} onPress={() => void take()}>
            {taking ? "Reading …" : "Read from the meter"}
          </Plain>
        )}
      </ValueField>
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      {side.asks.length > 0 && (
        <Beside>
          {side.asks.map((a) => (
            <ValueField
              key={a.key}
              id={`${id}-${a.key}`}
              label={a.label}
              ask={a.example}
              note={a.note}
              value={draft[a.key] ?? ""}
              onChange={(value) => onDraft({ ...draft, [a.key]: value })}
              onEnter={onEnter}
            />
          ))}
        </Beside>
      )}
      {judged && <Scale judged={judged} />}
    </>
  );
}
