import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { ThemeProvider } from "styled-components";
import type { Make, Me, View } from "../api/client";
import { JobProvider, type OpenJob } from "../job/here";
import { themes } from "../parts/theme";
import { Session } from "../signin/session";

export const jonna = { id: "jonna", name: "Jonna Vik", role: "technician", tickets: [] } as unknown as Me;

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
    again: () => undefined,
    ...over,
  };
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <ThemeProvider theme={themes.day}>
      <QueryClientProvider client={queries}>
        <MemoryRouter>
          <Session value={{ me, signedOut: false, signIn: () => undefined, look: () => undefined }}>
            <JobProvider job={job}>{screen(job)}</JobProvider>
          </Session>
        </MemoryRouter>
      </QueryClientProvider>
    </ThemeProvider>,
  );
  return { made };
}
