import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { api, got, wentWrong, type PersonRow, type Ticket } from "../api/client";
import { Choice, Plain, Strong } from "../parts/Buttons";
import { OneOf, Text } from "../parts/Fields";
import { Beside, Form, Pair } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Row, Warn } from "../parts/Rows";
import { Complaint, Dialogue, Notice } from "../parts/Sheets";
import { clock, words } from "../parts/text";

/** Large enough to be read out on the telephone. */
const Code = styled.output`
  font: 700 1.625rem/1.2 ${(p) => p.theme.mono};
`;

const roles = ["technician", "office", "supervisor"] as const;

/** For supervisors: who there is, somebody new, another role or ticket, and a code for who lost their password. */
export function People() {
  const queries = useQueryClient();
  const [who, setWho] = useState<PersonRow | "new">();
  const [code, setCode] = useState<{ name: string; signIn: string; text: string }>();
  const [wrong, setWrong] = useState("");
  const [said, setSaid] = useState("");
  const people = useQuery({
    queryKey: ["people"],
    queryFn: async () => got(await api.GET("/people")),
    retry: false,
  });
  const close = () => {
    setWho(undefined);
    void queries.invalidateQueries({ queryKey: ["people"] });
  };
  const give = async (p: PersonRow) => {
    setWrong("");
    try {
      const given = got(await api.POST("/people/{person}/code", { params: { path: { person: p.id } } }));
      setCode({ name: given.person.name, signIn: given.person.sign_in, text: given.code });
      close();
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  // A device was lost: whoever has it is let in nowhere any more.
  const signOut = async (p: PersonRow) => {
    setWrong("");
    try {
      const path = { person: p.id };
      const { ended } = got(await api.DELETE("/people/{person}/sessions", { params: { path } }));
      setSaid(`${p.name} is signed out on ${ended} ${ended === 1 ? "device" : "devices"}.`);
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  const all = people.data?.people ?? [];
  const ordered = [...all.filter((p) => !p.closed), ...all.filter((p) => p.closed)];
  return (
    <Hall title="People" note={people.data && `${all.filter((p) => !p.closed).length} with an account`}>
      {people.isError && <Complaint role="alert">{wentWrong(people.error)}</Complaint>}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      {said && <Notice role="status">{said}</Notice>}
      {people.data && (
        <Beside>
          <Strong onPress={() => setWho("new")}>Add a person</Strong>
        </Beside>
      )}
      {ordered.map((p) => (
        <Row key={p.id} $quiet={p.closed}>
          <div>
            <h2>
              <bdi>{p.name}</bdi>
            </h2>
            <p>
              {p.role} · signs in as {p.sign_in} ·{" "}
              {p.now.length > 0 ? `tickets: ${words(p.now)}` : "no ticket"}
            </p>
            {p.closed && <Warn>The account is closed. What they recorded stays.</Warn>}
            {!p.closed && p.none && <Warn>No password yet: give them a code.</Warn>}
            {p.second && <p>Signs in with a second factor.</p>}
            {!p.closed && p.choose && <p>Has a code, and no password yet.</p>}
          </div>
          <Plain onPress={() => setWho(p)} aria-label={`Change ${p.name}`}>
            Change
          </Plain>
          {!p.closed && (
            <Plain onPress={() => void give(p)} aria-label={`One-time code for ${p.name}`}>
              One-time code
            </Plain>
          )}
          {!p.closed && (
            <Plain onPress={() => void signOut(p)} aria-label={`End sessions of ${p.name}`}>
              End sessions
            </Plain>
          )}
        </Row>
      ))}
      {who && (
        <Person
          of={who === "new" ? undefined : who}
          tickets={people.data?.tickets ?? []}
          onClose={close}
          onCode={(given) => {
            close();
            setCode(given);
          }}
        />
      )}
      {code && (
        <Dialogue title={`Code for ${code.name}`} open onClose={() => setCode(undefined)}>
          <Code>{code.text}</Code>
          <p>
            Tell it to them yourself: it is shown this once. They sign in as <b>{code.signIn}</b> with it,
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
  of?: PersonRow;
  tickets: string[];
  onClose: () => void;
  onCode: (given: { name: string; signIn: string; text: string }) => void;
}

/** Somebody new, or what one is called, may and holds. */
function Person({ of, tickets, onClose, onCode }: PersonProps) {
  const [name, setName] = useState(of?.name ?? "");
  const [signIn, setSignIn] = useState(of?.sign_in ?? "");
  const [role, setRole] = useState<string>(of?.role ?? "technician");
  const [held, setHeld] = useState<Ticket[]>(of?.tickets ?? []);
  const [closed, setClosed] = useState(of?.closed ?? false);
  const keep = async () => {
    const body = { sign_in: signIn, name, role, tickets: held, closed };
    if (!of) {
      const added = got(await api.POST("/people", { body }));
      onCode({ name: added.person.name, signIn: added.person.sign_in, text: added.code });
      return;
    }
    const path = { person: of.id };
    got(await api.PUT("/people/{person}", { params: { path }, body: { ...body, version: of.version } }));
    onClose();
  };
  const set = (i: number, to: Partial<Ticket>) =>
    setHeld(held.map((t, k) => (k === i ? { ...t, ...to } : t)));
  return (
    <Dialogue title={of ? `Change ${of.name}` : "Add a person"} open onClose={onClose}>
      <Form keep={keep} label={of ? "Save the changes" : "Add them"}>
        <Text label="Name" value={name} onChange={setName} first />
        {!of && (
          <Text
            label="Signs in as"
            note="small letters, digits, dashes; it stays as it is"
            most={80}
            value={signIn}
            onChange={(v) => setSignIn(v.toLowerCase().replace(/[^a-z0-9-]+/g, "-"))}
          />
        )}
        <p>Role</p>
        <OneOf label="Role" values={roles} value={role} onChange={setRole} />
        <p>Tickets, each from its first day to its last; empty where it has none</p>
        {held.map((t, i) =>
          (t.until ?? "").includes("T") ? (
            <p key={i}>
              {words([t.ticket])}: held until {clock(t.until)}
            </p>
          ) : (
            <Pair key={i} role="group" aria-label={words([t.ticket])}>
              <Text
                label={`${words([t.ticket])}, from`}
                type="date"
                value={(t.from ?? "").slice(0, 10)}
                onChange={(from) => set(i, { from })}
              />
              <Text label="until" type="date" value={t.until ?? ""} onChange={(until) => set(i, { until })} />
              <Plain onPress={() => setHeld(held.filter((_, k) => k !== i))}>
                {of?.tickets.includes(t) ? "End it now" : "Not this one"}
              </Plain>
            </Pair>
          ),
        )}
        <Beside role="group" aria-label="Add a ticket">
          {tickets.map((t) => (
            <Plain key={t} onPress={() => setHeld([...held, { ticket: t }])}>
              + {words([t])}
            </Plain>
          ))}
        </Beside>
        {of && (
          <Choice aria-pressed={closed} onPress={() => setClosed(!closed)}>
            {closed ? "✓ The account is closed" : "Close the account"}
            <small>they no longer sign in; what they recorded stays theirs</small>
          </Choice>
        )}
      </Form>
    </Dialogue>
  );
}
