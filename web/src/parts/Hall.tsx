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

const Page = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Side = styled.header`
  display: flex;
  flex-direction: column;
  gap: 16px;
  padding: 20px;
  position: sticky;
  top: 0;
  height: 100dvh;
  overflow-y: auto;
  @media (max-width: 900px) {
    position: static;
    overflow: visible;
    height: auto;
    flex-flow: row wrap;
    align-items: center;
    gap: 8px 14px;
    padding: 10px 20px;
    > svg {
      width: 36px;
      height: 36px;
    }
  }
  background: ${(p) => p.theme.sheet};
  border-right: 2px solid ${(p) => p.theme.ink};
  b {
    display: block;
    font-size: 24px;
    line-height: 1.1;
  }
`;

const Who = styled.div`
  margin-top: auto;
  display: grid;
  gap: 10px;
  font-size: ${(p) => p.theme.glance};
  @media (max-width: 900px) {
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
  padding: 20px 28px;
  display: grid;
  align-content: start;
  gap: 10px;
  section {
    display: grid;
    gap: 8px;
  }
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 18px;
  padding-bottom: 14px;
  border-bottom: 2px solid ${(p) => p.theme.ink};
  h1 {
    font-size: ${(p) => p.theme.title};
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Rooms = styled.nav`
  @media (max-width: 900px) {
    flex: 1 1 100%;
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
    margin: 0 -20px;
    > a {
      margin: 0;
    }
  }
`;

const Room = styled(Link)<{ $on: boolean }>`
  display: flex;
  align-items: center;
  min-height: 52px;
  margin: 0 -20px;
  padding: 0 20px;
  border-left: 7px solid ${(p) => (p.$on ? p.theme.ink : "transparent")};
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
