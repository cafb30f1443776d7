import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import styled from "styled-components";
import { api, got, wentWrong, type Me } from "../api/client";
import { Choice, Plain, Strong } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Complaint, Dialogue, Field } from "../parts/Sheets";
import { words } from "../parts/text";

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

const Ones = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;

const Form = styled.form`
  display: grid;
  gap: 14px;
`;

/** Large enough to be read out on the telephone. */
const Code = styled.output`
  font: 700 26px/1.2 ${(p) => p.theme.mono};
`;

const roles = ["technician", "office", "supervisor"] as const;

/** For supervisors: who there is, somebody new, another role or ticket, and a code for who lost their password. */
export function People() {
  const queries = useQueryClient();
  const [who, setWho] = useState<Me | "new">();
  const [code, setCode] = useState<{ of: Me; text: string }>();
  const [wrong, setWrong] = useState("");
  const people = useQuery({
    queryKey: ["people"],
    queryFn: async () => got(await api.GET("/people")),
    retry: false,
  });
  const close = () => {
    setWho(undefined);
    void queries.invalidateQueries({ queryKey: ["people"] });
  };
  const give = async (p: Me) => {
    setWrong("");
    try {
      const given = got(await api.POST("/people/{person}/code", { params: { path: { person: p.id } } }));
      setCode({ of: given.person, text: given.code });
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  return (
    <Hall title="People" note={people.data && `${people.data.people.length} with a sign-in`}>
      {people.isError && <Complaint role="alert">{people.error.message}</Complaint>}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      {people.data && (
        <Ones>
          <Strong onPress={() => setWho("new")}>Somebody new</Strong>
        </Ones>
      )}
      {people.data?.people.map((p) => (
        <Row key={p.id}>
          <div>
            <h2>
              <bdi>{p.name}</bdi>
            </h2>
            <p>
              {p.role} · signs in as {p.sign_in}
              {p.choose && " by a code, no password yet"} ·{" "}
              {p.tickets.length > 0 ? `tickets: ${words(p.tickets)}` : "no ticket"}
            </p>
          </div>
          <Plain onPress={() => setWho(p)} aria-label={`Change ${p.name}`}>
            Change
          </Plain>
          <Plain onPress={() => void give(p)} aria-label={`One-time code for ${p.name}`}>
            One-time code
          </Plain>
        </Row>
      ))}
      {who && (
        <Person
          of={who === "new" ? undefined : who}
          tickets={people.data?.tickets ?? []}
          onClose={close}
          onCode={(of, text) => {
            close();
            setCode({ of, text });
          }}
        />
      )}
      {code && (
        <Dialogue title={`Code for ${code.of.name}`} open onClose={() => setCode(undefined)}>
          <Code>{code.text}</Code>
          <p>
            Tell it to them yourself: it is shown this once. They sign in as <b>{code.of.sign_in}</b> with it,
            once, within a day, and then choose a password. Where they were signed in before, they no longer
            are; what they recorded stays on their device.
          </p>
          <Strong onPress={() => setCode(undefined)}>I have told them</Strong>
        </Dialogue>
      )}
    </Hall>
  );
}

interface PersonProps {
  of?: Me;
  tickets: string[];
  onClose: () => void;
  onCode: (of: Me, code: string) => void;
}

/** Somebody new, or what one is called, may and holds. */
function Person({ of, tickets, onClose, onCode }: PersonProps) {
  const [name, setName] = useState(of?.name ?? "");
  const [signIn, setSignIn] = useState("");
  const [role, setRole] = useState<Me["role"]>(of?.role ?? "technician");
  const [holds, setHolds] = useState(of?.tickets ?? []);
  const [wrong, setWrong] = useState("");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const said = { name, role, tickets: holds };
    try {
      if (of) {
        got(await api.PUT("/people/{person}", { params: { path: { person: of.id } }, body: said }));
        onClose();
        return;
      }
      const added = got(await api.POST("/people", { body: { ...said, sign_in: signIn } }));
      onCode(added.person, added.code);
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  const toggle = (t: string) => setHolds(holds.includes(t) ? holds.filter((h) => h !== t) : [...holds, t]);
  return (
    <Dialogue title={of ? `Change ${of.name}` : "Somebody new"} open onClose={onClose}>
      <Form onSubmit={(e) => void submit(e)}>
        <Field>
          Name
          <input
            value={name}
            maxLength={200}
            autoComplete="off"
            autoFocus
            onChange={(e) => setName(e.target.value)}
          />
        </Field>
        {!of && (
          <Field>
            Signs in as: small letters, digits, dashes
            <input
              value={signIn}
              maxLength={80}
              autoComplete="off"
              autoCapitalize="none"
              onChange={(e) => setSignIn(e.target.value.toLowerCase().replace(/[^a-z0-9-]+/g, "-"))}
            />
          </Field>
        )}
        <p>Role</p>
        <Ones role="group" aria-label="Role">
          {roles.map((r) => (
            <Choice key={r} aria-pressed={role === r} onPress={() => setRole(r)}>
              {r}
            </Choice>
          ))}
        </Ones>
        <p>Tickets</p>
        <Ones role="group" aria-label="Tickets">
          {tickets.map((t) => (
            <Choice key={t} aria-pressed={holds.includes(t)} onPress={() => toggle(t)}>
              {holds.includes(t) ? `✓ ${t}` : t}
            </Choice>
          ))}
        </Ones>
        {wrong && <Complaint role="alert">{wrong}</Complaint>}
        <Strong type="submit">{of ? "Keep it" : "Add them"}</Strong>
      </Form>
    </Dialogue>
  );
}
