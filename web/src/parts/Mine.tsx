import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { api } from "../api/client";
import { db, forgetPerson, keepSpeech, keptSpeech, type Speech } from "../offline/db";
import { useSession } from "../signin/session";
import { Plain, Strong } from "./Buttons";
import { OneOf } from "./Fields";
import { TorchSwitch } from "./Lit";
import { Dialogue } from "./Sheets";
import { words } from "./text";

/** Where the rooms stand under the thumb and not at the left. */
export const narrow = "@media (max-width: 56.25em)";

const Away = styled.a`
  display: flex;
  align-items: center;
  min-height: ${(p) => p.theme.touchSmall};
  color: ${(p) => p.theme.ink};
`;

// Where the rooms stand at the left, all of them do.
const Elsewhere = styled(Away)`
  display: none;
  ${narrow} {
    display: flex;
  }
`;

/** What is not one’s own. */
const shared = "company";

const regions = { [shared]: "the company’s", "en-GB": "British", "en-US": "American" };
const systems = { [shared]: "the company’s", metric: "°C, mm, mbar", customary: "°F, inch, in. w.c." };

/** Whose words and units this device says: the company’s, or one’s own. */
function SpeechChoice() {
  const [speech, setSpeech] = useState<Speech>({ region: "", units: "" });
  useEffect(() => {
    void keptSpeech().then(setSpeech);
  }, []);
  const set = (now: Speech) => {
    setSpeech(now);
    void keepSpeech(now);
  };
  return (
    <>
      <b>Words</b>
      <OneOf
        label="Words"
        values={Object.keys(regions)}
        names={regions}
        value={speech.region || shared}
        onChange={(said) => set({ ...speech, region: said === shared ? "" : said })}
      />
      <b>Units</b>
      <OneOf
        label="Units"
        values={Object.keys(systems)}
        names={systems}
        value={speech.units || shared}
        onChange={(said) => set({ ...speech, units: said === shared ? "" : said })}
      />
    </>
  );
}

interface MineProps {
  /** Rooms that have no place of their own on a phone. */
  rooms: { to: string; name: string }[];
}

/** One’s own things under one’s own name: theme, words and units, password, signing out. */
export function Mine({ rooms }: MineProps) {
  const { me, look } = useSession();
  const queries = useQueryClient();
  const go = useNavigate();
  const [waiting, setWaiting] = useState(0);
  const [open, setOpen] = useState(false);
  const leave = async () => {
    await api.POST("/sign-out").catch(() => undefined);
    await forgetPerson();
    queries.clear();
    void go("/");
    look();
  };
  const signOut = async () => {
    setOpen(false);
    const n = await db.events.where({ state: "waiting", by: me.id }).count();
    if (n > 0) setWaiting(n);
    else await leave();
  };
  const tickets = words(me.tickets);
  return (
    <>
      <Plain aria-haspopup="dialog" onPress={() => setOpen(true)}>
        {me.name}
      </Plain>
      <Dialogue title={me.name} open={open} onClose={() => setOpen(false)}>
        <p>
          {me.role}
          {tickets && `, ${tickets} ${me.tickets.length === 1 ? "ticket" : "tickets"}`}
        </p>
        {rooms.map((r) => (
          <Elsewhere as={Link} key={r.to} to={r.to} onClick={() => setOpen(false)}>
            {r.name}
          </Elsewhere>
        ))}
        <TorchSwitch />
        <SpeechChoice />
        <Away as={Link} to="/account" onClick={() => setOpen(false)}>
          Password, second factor, where you are signed in
        </Away>
        <Plain onPress={() => void signOut()}>Sign out</Plain>
        <Away href="/licences.txt">Licences</Away>
        <Plain onPress={() => setOpen(false)}>Close</Plain>
      </Dialogue>
      <Dialogue title="Sign out?" open={waiting > 0} onClose={() => setWaiting(0)}>
        <p>
          {waiting} {waiting === 1 ? "record waits" : "records wait"} on this device and{" "}
          {waiting === 1 ? "is" : "are"} sent when you sign in here again.
        </p>
        <Strong onPress={() => void leave()}>Sign out</Strong>
        <Plain onPress={() => setWaiting(0)}>Stay</Plain>
      </Dialogue>
    </>
  );
}
