import { useQuery } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import styled from "styled-components";
import { api, got, wentWrong, type Me } from "../api/client";
import { Plain, Strong } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Complaint, Dialogue, Field } from "../parts/Sheets";
import { words } from "../parts/text";
import { least } from "../signin/session";

const Row = styled.article`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  padding: 10px 14px 10px 18px;
  background: ${(p) => p.theme.sheet};
  border: 1px solid ${(p) => p.theme.ruleStrong};
  div {
    flex: 1 1 260px;
  }
  h2 {
    font-size: 20px;
  }
  p {
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

/** For leads: who there is, and a new password for who lost theirs. */
export function People() {
  const [who, setWho] = useState<Me>();
  const people = useQuery({
    queryKey: ["people"],
    queryFn: async () => got(await api.GET("/people")).people,
    retry: false,
  });
  return (
    <Hall title="People" note={people.data && `${people.data.length} with a sign-in`}>
      {people.isError && <Complaint role="alert">{people.error.message}</Complaint>}
      {people.data?.map((p) => (
        <Row key={p.id}>
          <div>
            <h2>
              <bdi>{p.name}</bdi>
            </h2>
            <p>
              {p.role} · {p.tickets.length > 0 ? `tickets: ${words(p.tickets)}` : "no ticket"}
            </p>
          </div>
          <Plain onPress={() => setWho(p)} aria-label={`New password for ${p.name}`}>
            New password
          </Plain>
        </Row>
      ))}
      {who && <NewPassword of={who} onClose={() => setWho(undefined)} />}
    </Hall>
  );
}

function NewPassword({ of, onClose }: { of: Me; onClose: () => void }) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const [done, setDone] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (text.length < least) {
      setWrong(`It needs at least ${least} letters.`);
      return;
    }
    try {
      got(
        await api.POST("/people/{person}/password", {
          params: { path: { person: of.id } },
          body: { new: text },
        }),
      );
      setDone(true);
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  return (
    <Dialogue title={`New password for ${of.name}`} open onClose={onClose}>
      {done ? (
        <>
          <p>It is set, and their devices ask for it. Tell it to them yourself; they can change it after.</p>
          <Strong onPress={onClose}>Good</Strong>
        </>
      ) : (
        <form onSubmit={(e) => void submit(e)}>
          <Field>
            At least {least} letters
            <input
              value={text}
              maxLength={200}
              autoComplete="off"
              autoFocus
              onChange={(e) => setText(e.target.value)}
            />
          </Field>
          {wrong && <Complaint role="alert">{wrong}</Complaint>}
          <Strong type="submit">Set it</Strong>
        </form>
      )}
    </Dialogue>
  );
}
