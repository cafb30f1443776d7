import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import { api } from "../api/client";
import { db, forgetPerson } from "../offline/db";
import { ChangePassword } from "../signin/ChangePassword";
import { useSession } from "../signin/session";
import { Plain } from "./Buttons";
import { TorchSwitch } from "./Lit";
import { EvenMark } from "./Marks";
import { Complaint } from "./Sheets";
import { words } from "./text";
import { useTitle } from "./title";

const Page = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-columns: 12.5rem minmax(0, 1fr);
  @media (max-width: 56.25em) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Side = styled.header`
  display: flex;
  flex-direction: column;
  gap: 1rem;
  padding: 1.25rem;
  position: sticky;
  top: 0;
  height: 100dvh;
  overflow-y: auto;
  @media (max-width: 56.25em) {
    position: static;
    overflow: visible;
    height: auto;
    flex-flow: row wrap;
    align-items: center;
    gap: 0.5rem 0.875rem;
    padding: 0.625rem 1.25rem;
    > svg {
      width: 2.25rem;
      height: 2.25rem;
    }
  }
  background: ${(p) => p.theme.sheet};
  border-right: 0.125rem solid ${(p) => p.theme.ink};
  b {
    display: block;
    font-size: 1.5rem;
    line-height: 1.1;
  }
`;

const Who = styled.div`
  margin-top: auto;
  display: grid;
  gap: 0.625rem;
  font-size: ${(p) => p.theme.glance};
  @media (max-width: 56.25em) {
    flex: 1 1 100%;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    > span {
      flex: 1 1 100%;
    }
  }
  strong {
    display: block;
    font-size: ${(p) => p.theme.work};
  }
  a {
    color: ${(p) => p.theme.ink};
  }
`;

const Main = styled.main`
  padding: 1.25rem 1.75rem;
  display: grid;
  align-content: start;
  gap: 0.625rem;
  section {
    display: grid;
    gap: 0.5rem;
  }
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 1.125rem;
  padding-bottom: 0.875rem;
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  h1 {
    font-size: ${(p) => p.theme.title};
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Rooms = styled.nav`
  @media (max-width: 56.25em) {
    flex: 1 1 100%;
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(9.375rem, 1fr));
    margin: 0 -1.25rem;
    > a {
      margin: 0;
    }
  }
`;

const Room = styled(Link)<{ $on: boolean }>`
  display: flex;
  align-items: center;
  min-height: 3.25rem;
  margin: 0 -1.25rem;
  padding: 0 1.25rem;
  border-left: 0.4375rem solid ${(p) => (p.$on ? p.theme.ink : "transparent")};
  background: ${(p) => (p.$on ? p.theme.lit : "transparent")};
  color: ${(p) => p.theme.ink};
  font-weight: 700;
  text-decoration: none;
`;

const rooms: { to: string; name: string; only?: string }[] = [
  { to: "/", name: "Today" },
  { to: "/call", name: "Take a call" },
  { to: "/sites", name: "Sites" },
  { to: "/meters", name: "Meters" },
  { to: "/people", name: "People", only: "supervisor" },
  { to: "/company", name: "Company", only: "supervisor" },
];

/** The rooms outside a job: the way between them at the left, one's own things below it. */
export function Hall({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  useTitle(title);
  const { me, signedOut, signIn, look } = useSession();
  const queries = useQueryClient();
  const { pathname } = useLocation();
  const go = useNavigate();
  const [changing, setChanging] = useState(false);

  const signOut = async () => {
    const waiting = await db.events.where({ state: "waiting", by: me.id }).count();
    const plain = `${waiting} ${waiting === 1 ? "record waits" : "records wait"} on this device and ${waiting === 1 ? "is" : "are"} sent when you sign in here again. Sign out?`;
    if (waiting > 0 && !window.confirm(plain)) return;
    await api.POST("/sign-out").catch(() => undefined);
    await forgetPerson();
    queries.clear();
    void go("/");
    look();
  };

  const tickets = words(me.tickets);
  return (
    <Page>
      <Side>
        <EvenMark size={54} />
        <b>Even Steps</b>
        <Rooms aria-label="Rooms">
          {rooms
            .filter((r) => !r.only || r.only === me.role)
            .map((r) => (
              <Room
                key={r.to}
                to={r.to}
                $on={pathname === r.to || (r.to === "/sites" && pathname.startsWith("/machines/"))}
              >
                {r.name}
              </Room>
            ))}
        </Rooms>
        <Who>
          <span>
            <strong>{me.name}</strong>
            {me.role}
            {tickets && `, ${tickets} ${me.tickets.length === 1 ? "ticket" : "tickets"}`}
          </span>
          <TorchSwitch />
          <Plain onPress={() => setChanging(true)}>Password</Plain>
          <Plain onPress={() => void signOut()}>Sign out</Plain>
          <a href="/licences.txt">Licences</a>
        </Who>
      </Side>
      {changing && <ChangePassword onClose={() => setChanging(false)} />}
      <Main>
        <Head>
          <h1>{title}</h1>
          {note && <span>{note}</span>}
        </Head>
        {signedOut && (
          <Complaint role="alert">
            Your session has ended. Nothing is lost. <Plain onPress={signIn}>Sign in</Plain>
          </Complaint>
        )}
        {children}
      </Main>
    </Page>
  );
}
