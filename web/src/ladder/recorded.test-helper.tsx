import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { ThemeProvider } from "styled-components";
import type { Make } from "../api/client";
import { Through } from "../job/here";
import { themes } from "../parts/theme";

/** Shows what records as it is touched; what it has recorded stands in the list. */
export function recorded(shown: ReactNode): Make[] {
  const made: Make[] = [];
  const record = (makes: Make[]) => {
    made.push(...makes);
    return Promise.resolve(true);
  };
  render(
    <ThemeProvider theme={themes.day}>
      <Through record={record}>{shown}</Through>
    </ThemeProvider>,
  );
  return made;
}

/** A record as the core prepares it, before what is typed or counted goes in. */
export const begun = (kind: Make["kind"], body: object) => ({ kind, body }) as Make;
