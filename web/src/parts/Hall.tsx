import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import styled from "styled-components";
import { useSession } from "../signin/session";
import { Plain } from "./Buttons";
import { EvenMark } from "./Marks";
import { Mine, narrow } from "./Mine";
import { Notices, Sending } from "./Sending";
import { Complaint } from "./Sheets";
import { useTitle } from "./title";

const Page = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-columns: 12.5rem minmax(0, 1fr);
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
    /* The list moves between head and rooms: nothing ever lies under them. */
    height: calc(100dvh - 4.125rem);
    min-height: 0;
  }
  @media print {
    display: block;
    height: auto;
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
  background: ${(p) => p.theme.sheet};
  border-right: 0.125rem solid ${(p) => p.theme.ink};
  > b {
    font-size: 1.5rem;
    line-height: 1.1;
  }
  ${narrow} {
    position: static;
    overflow: visible;
    height: auto;
    flex-flow: row;
    align-items: center;
    gap: 0.75rem;
    padding: 0.375rem 0.875rem;
    border-right: 0;
    border-bottom: 0.125rem solid ${(p) => p.theme.ink};
    > svg {
      width: 2.25rem;
      height: 2.25rem;
    }
    > b {
      font-size: 1.25rem;
    }
    @media (max-width: 30em) {
      > b {
        display: none;
      }
    }
    > a {
      margin: 0 0 0 auto;
    }
  }
`;

const Main = styled.main`
  padding: 1.25rem 1.75rem;
  ${narrow} {
    padding: 0.75rem 0.875rem;
    overflow-y: auto;
  }
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
  gap: 0 1.125rem;
  padding-bottom: 0.875rem;
  border-bottom: 0.125rem solid ${(p) => p.theme.ink};
  h1 {
    font-size: ${(p) => p.theme.title};
  }
  span {
    color: ${(p) => p.theme.inkQuiet};
  }
  ${narrow} {
    padding-bottom: 0.25rem;
    border-bottom: 0;
    h1 {
      font-size: 1.375rem;
    }
  }
`;

const Rooms = styled.nav`
  ${narrow} {
    position: fixed;
    height: 4.125rem;
    left: 0;
    right: 0;
    bottom: 0;
    z-index: 2;
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    background: ${(p) => p.theme.sheet};
    border-top: 0.125rem solid ${(p) => p.theme.ink};
  }
`;

const Room = styled(Link)<{ $on: boolean; $few: boolean }>`
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
  ${narrow} {
    display: ${(p) => (p.$few ? "flex" : "none")};
    justify-content: center;
    min-height: 4rem;
    margin: 0;
    padding: 0 0.25rem;
    border-left: 0.0625rem solid ${(p) => p.theme.rule};
    border-top: 0.25rem solid ${(p) => (p.$on ? p.theme.ink : "transparent")};
    text-align: center;
    line-height: 1.1;
  }
`;

const rooms: { to: string; name: string; only?: string }[] = [
  { to: "/", name: "Today" },
  { to: "/call", name: "Take a call" },
  { to: "/sites", name: "Sites" },
  { to: "/meters", name: "Meters" },
  { to: "/people", name: "People", only: "supervisor" },
  { to: "/company", name: "Company", only: "supervisor" },
];

/** How many rooms stand under the thumb; the others stand in one’s own menu. */
const places = 4;

/** The rooms outside a job: the way between them at the left or under the thumb, one's own things under one's name. */
export function Hall({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  useTitle(title);
  const { me, signedOut, signIn } = useSession();
  const { pathname } = useLocation();
  const mine = rooms.filter((r) => !r.only || r.only === me.role);
  return (
    <Page>
      <Side>
        <EvenMark size={54} />
        <b>Even Steps</b>
        <Rooms aria-label="Rooms">
          {mine.map((r, i) => (
            <Room
              key={r.to}
              to={r.to}
              $few={i < places}
              $on={pathname === r.to || (r.to === "/sites" && pathname.startsWith("/machines/"))}
            >
              {r.name}
            </Room>
          ))}
        </Rooms>
        <Sending />
        <Mine rooms={mine.slice(places)} />
      </Side>
      <Main>
        <Head>
          <h1>{title}</h1>
          {note && <span>{note}</span>}
        </Head>
        <Notices />
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
