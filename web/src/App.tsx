import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState, type ReactNode } from "react";
import { createBrowserRouter, Navigate, RouterProvider, useParams, useRouteError } from "react-router";
import styled from "styled-components";
import { api, got, Problem, type Me } from "./api/client";
import { core } from "./offline/core";
import { keepPerson, lastPerson } from "./offline/db";
import { send } from "./offline/outbox";
import { Strong } from "./parts/Buttons";
import { ChooseOwn } from "./signin/ChooseOwn";
import { MustBegin } from "./signin/MustBegin";
import { Session } from "./signin/session";
import { SignIn } from "./signin/SignIn";
import { Today } from "./today/Today";

const OpenJob = lazy(() => import("./ladder/OpenJob"));
const Account = lazy(() => import("./signin/Account").then((m) => ({ default: m.Account })));
const Audit = lazy(() => import("./company/Audit").then((m) => ({ default: m.Audit })));
const Company = lazy(() => import("./company/Company").then((m) => ({ default: m.Company })));
const DevicePage = lazy(() => import("./device/DevicePage").then((m) => ({ default: m.DevicePage })));
const MachinePage = lazy(() => import("./sites/MachinePage").then((m) => ({ default: m.MachinePage })));
const Meters = lazy(() => import("./company/Meters").then((m) => ({ default: m.Meters })));
const People = lazy(() => import("./people/People").then((m) => ({ default: m.People })));
const Sites = lazy(() => import("./sites/Sites").then((m) => ({ default: m.Sites })));
const TakeCall = lazy(() => import("./call/TakeCall").then((m) => ({ default: m.TakeCall })));

const Wait = styled.div`
  padding: 2.5rem;
  display: grid;
  justify-items: start;
  gap: 1rem;
`;

/** One job stays open while one goes between its ladder and its even screen. */
function Job() {
  const { job = "", "*": rest } = useParams();
  return (
    <Suspense fallback={<Wait>Opening the job …</Wait>}>
      <OpenJob key={job} job={job} rest={rest ?? ""} />
    </Suspense>
  );
}

/** A room that is fetched when it is first entered. */
const room = (path: string, name: string, element: ReactNode) => ({
  path,
  element: <Suspense fallback={<Wait>{name} …</Wait>}>{element}</Suspense>,
  errorElement: <Broken />,
});

const router = createBrowserRouter([
  { path: "/", element: <Today />, errorElement: <Broken /> },
  room("/call", "The call", <TakeCall />),
  room("/sites", "Sites", <Sites />),
  room("/machines/:machine", "The machine", <MachinePage />),
  room("/people", "People", <People />),
  room("/meters", "Meters", <Meters />),
  room("/company", "Company", <Company />),
  room("/account", "Your account", <Account />),
  room("/audit", "Audit list", <Audit />),
  room("/device", "This device", <DevicePage />),
  { path: "/jobs/:job/*", element: <Job />, errorElement: <Broken /> },
  { path: "*", element: <Navigate to="/" replace /> },
]);

/** A screen that failed: what was recorded is on the device all the same. */
function Broken() {
  const err = useRouteError();
  return (
    <Wait as="main">
      <h1>This screen failed</h1>
      <p>
        What you recorded is on this device. Load the page again; if it fails again, tell your supervisor:{" "}
        {String(err)}
      </p>
      <Strong onPress={() => window.location.reload()}>Load the page again</Strong>
    </Wait>
  );
}

/** Who is signed in, from the server; without an answer, who last was on this device. */
async function whoAmI(): Promise<{ me?: Me; signedOut: boolean }> {
  try {
    const me = got(await api.GET("/me"));
    await keepPerson(me).catch(() => undefined); // no store here: asked again at the next start
    return { me, signedOut: false };
  } catch (err) {
    const me = await lastPerson().catch(() => undefined);
    return { me, signedOut: err instanceof Problem && err.status === 401 };
  }
}

export function App() {
  const who = useQuery({ queryKey: ["me"], queryFn: whoAmI });
  const [asking, setAsking] = useState(false);
  useEffect(() => core.warm(), []);

  if (who.isPending) return <Wait>Even Steps</Wait>;
  const me = who.data?.me;
  const signedIn = (now: Me) => {
    setAsking(false);
    void keepPerson(now)
      .catch(() => undefined)
      .then(() => who.refetch())
      .then(() => send(now.id));
  };
  if (!me) return <SignIn onSignedIn={signedIn} />;
  if (me.choose && !who.data?.signedOut) return <ChooseOwn me={me} onChosen={() => void who.refetch()} />;
  if (me.second && !who.data?.signedOut)
    return <MustBegin name={me.name} onDone={() => void who.refetch()} />;
  return (
    <Session
      value={{
        me,
        signedOut: who.data?.signedOut ?? false,
        signIn: () => setAsking(true),
        look: () => void who.refetch(),
      }}
    >
      <RouterProvider router={router} />
      {asking && <SignIn name={me.id} over onSignedIn={signedIn} onClose={() => setAsking(false)} />}
    </Session>
  );
}
