import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { db } from "../offline/db";
import { build } from "../offline/outbox";
import { openAt } from "../testing/open";
import { answering } from "../testing/server";
import { DevicePage } from "./DevicePage";

vi.stubGlobal("navigator", { ...navigator, locks: { request: (_: string, run: () => unknown) => run() } });

const job = (id: string, title: string, more: object = {}) =>
  db.jobs.put({ id, doc: { map: "dryer", revision: 1, job: { id, title } } as never, cursor: 0, ...more });
const event = (id: string, of: string, by: string, state: "waiting" | "refused", problem?: string) =>
  db.events.put({
    id,
    job: of,
    by,
    device: "tab",
    state,
    problem,
    build,
    event: { id, n: 1, kind: "note" } as never,
  });

beforeEach(() => Promise.all([db.jobs.clear(), db.events.clear(), db.photos.clear(), db.settings.clear()]));
afterEach(cleanup);

describe("what lies on this device", () => {
  it("says that all is sent, and what can be worked without signal", async () => {
    await job("j-1", "Canteen, dryer", { heard: new Date().toISOString() });
    openAt(<DevicePage />);
    expect(await screen.findByText("All sent. Nothing waits.")).toBeVisible();
    expect(screen.getByText("Canteen, dryer")).toBeVisible();
    expect(screen.getByText(/^as it stood /)).toBeVisible();
    expect(screen.getByText(/^Calls cannot be taken without signal yet/)).toBeVisible();
  });

  it("says what waits of each job, what was not taken and why, and what others left", async () => {
    await job("j-1", "Canteen, dryer");
    await event("e-1", "j-1", "jonna", "waiting");
    await event("e-2", "j-1", "jonna", "refused", "The event cannot be read.");
    await event("e-3", "j-1", "ilse", "waiting");
    openAt(<DevicePage />);
    expect(await screen.findByText("1 record waits")).toBeVisible();
    expect(screen.getByText("Not taken by the server: The event cannot be read.")).toBeVisible();
    expect(screen.getByText(/^1 record of others on this device/)).toBeVisible();
  });

  it("sends once more when asked", async () => {
    await job("j-1", "Canteen, dryer");
    await event("e-2", "j-1", "jonna", "refused", "The event cannot be read.");
    answering({
      "POST /jobs/j-1/events": {
        answers: [{ id: "e-2", outcome: "kept", num: 3, t: "2026-11-29T12:00:00Z" }],
      },
    });
    openAt(<DevicePage />);
    fireEvent.click(await screen.findByRole("button", { name: "Send once more" }));
    await waitFor(async () => expect((await db.events.get("e-2"))?.state).toBe("sent"));
    expect(await screen.findByText("All sent. Nothing waits.")).toBeVisible();
  });
});
