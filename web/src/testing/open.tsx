import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import { useState, type ReactNode } from "react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { ThemeProvider } from "styled-components";
import type { Make, Me, View } from "../api/client";
import { JobProvider, type OpenJob } from "../job/here";
import { themes } from "../parts/theme";
import { Session } from "../signin/session";

export const jonna = { id: "jonna", name: "Jonna Vik", role: "technician", tickets: [] } as unknown as Me;

export const mira = { id: "mira", name: "Mira Oxley-Tarn", role: "supervisor", tickets: [] } as unknown as Me;

interface Opened {
  /** What was recorded, touch by touch. */
  made: Make[][];
}

/** Shows a screen as it stands in the program, over an open job that keeps nothing. */
export function openOn(
  view: View,
  screen: (job: OpenJob) => ReactNode,
  over: Partial<OpenJob> = {},
  me: Me = jonna,
): Opened {
  const made: Make[][] = [];
  const job: OpenJob = {
    view,
    waiting: 0,
    held: [],
    retry: () => undefined,
    signal: "sent",
    record: (makes) => {
      made.push(makes);
      return Promise.resolve(true);
    },
    look: () => undefined,
    others: [],
    again: () => undefined,
    ...over,
  };
  render(
    <Around>
      <MemoryRouter>
        <Session value={{ me, signedOut: false, signIn: () => undefined, look: () => undefined }}>
          <JobProvider job={job}>{screen(job)}</JobProvider>
          <Place />
        </Session>
      </MemoryRouter>
    </Around>,
  );
  return { made };
}

/** Shows a page of the hall at its address; where one is led stands beside it. */
export function openAt(page: ReactNode, address = "/", path = "*", me: Me = jonna): void {
  render(
    <Around>
      <MemoryRouter initialEntries={[address]}>
        <Session value={{ me, signedOut: false, signIn: () => undefined, look: () => undefined }}>
          <Routes>
            <Route path={path} element={page} />
            <Route path="*" element={null} />
          </Routes>
          <Place />
        </Session>
      </MemoryRouter>
    </Around>,
  );
}

/** What stands around every page: its colours, and what it has asked before. */
export function Around({ children }: { children: ReactNode }) {
  const [queries] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: false } } }));
  return (
    <ThemeProvider theme={themes.day}>
      <QueryClientProvider client={queries}>{children}</QueryClientProvider>
    </ThemeProvider>
  );
}

/** Where one has been led to. */
const Place = () => <span data-testid="at">{useLocation().pathname}</span>;
