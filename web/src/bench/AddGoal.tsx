import { useState } from "react";
import styled from "styled-components";
import type { Named, View } from "../api/client";
import { useLists, useTry } from "../offline/useAsk";
import { Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint, Dialogue } from "../parts/Sheets";
import { useRecord } from "../job/here";

const Found = styled.div`
  display: grid;
  gap: 0.375rem;
  max-height: 46vh;
  overflow-y: auto;
  small {
    display: block;
    font-size: ${(p) => p.theme.glance};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

interface AddGoalProps {
  view: View;
  onClose: () => void;
}

const means = (n: Named, words: string) =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => `${n.name} ${n.note}`.toLowerCase().includes(w));

/** Adds a part or a test to the job, and says first what that adds in steps, minutes, tools and parts. */
export function AddGoal({ view, onClose }: AddGoalProps) {
  const record = useRecord();
  const lists = useLists(view);
  const [words, setWords] = useState("");
  const [goal, setGoal] = useState<Named>();
  const { tried, wrong } = useTry(view, goal ? [{ kind: "goal.added", body: { goal: goal.id } }] : undefined);
  const all = [...(lists?.parts ?? []), ...(lists?.tests ?? [])].filter((n) => !n.on && means(n, words));
  const complaints = (lists?.complaints ?? []).filter((n) => !n.on && words.trim() && means(n, words));
  const open = view.goals.filter((g) => g.open);
  return (
    <Dialogue title={goal ? goal.name : "Add to the job"} open onClose={onClose}>
      {!goal && (
        <>
          <Text
            label="A part, a test or another complaint, by any of its names"
            value={words}
            onChange={setWords}
            most={60}
            first
          />
          <Found>
            {all.slice(0, 30).map((n) => (
              <Plain key={n.id} onPress={() => setGoal(n)}>
                {n.name}
                <small>{n.note}</small>
              </Plain>
            ))}
            {complaints.map((n) => (
              <Plain
                key={`also ${n.id}`}
                onPress={() => {
                  onClose();
                  void record([{ kind: "complaint.added", body: { complaint: n.id } }]);
                }}
              >
                Complaint: {n.name}
                <small>said too; it is looked for after the first</small>
              </Plain>
            ))}
            {lists && all.length + complaints.length === 0 && <p>This machine has nothing of that name.</p>}
          </Found>
          {open.map((g) => (
            <Plain
              key={g.goal}
              onPress={() => {
                onClose();
                void record([{ kind: "goal.dropped", body: { goal: g.goal, reason: "waiting" } }]);
              }}
            >
              Leave for another day: {g.name}
            </Plain>
          ))}
        </>
      )}
      {goal && (
        <>
          {wrong && <Complaint role="alert">{wrong}</Complaint>}
          {tried?.stuck && <Complaint role="alert">{tried.stuck}</Complaint>}
          {tried && !tried.stuck && (
            <>
              <p>{tried.says}</p>
              {tried.rungs.length > 0 && <p>Rungs: {tried.rungs.join(", ")}</p>}
            </>
          )}
          {!tried && !wrong && <p aria-busy="true">Planning it from where the machine stands …</p>}
          <Strong
            isDisabled={!tried || !!tried.stuck}
            onPress={() => {
              onClose();
              void record([{ kind: "goal.added", body: { goal: goal.id } }]);
            }}
          >
            Add it
          </Strong>
          <Plain onPress={() => setGoal(undefined)}>Something else</Plain>
        </>
      )}
      <Plain onPress={onClose}>Add nothing</Plain>
    </Dialogue>
  );
}
