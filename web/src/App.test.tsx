import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { App } from "./App";
import { db, keepPerson } from "./offline/db";
import { Around, jonna } from "./testing/open";
import { answering } from "./testing/server";

vi.mock("./offline/core", () => ({
  viewerHere: async (person: string) => ({ person, device: "tab" }),
  core: { generation: 1, warm: () => undefined, about: () => new Promise(() => undefined) },
}));
vi.mock("./today/Today", () => ({ Today: () => <h1>Today</h1> }));

afterEach(async () => {
  cleanup();
  vi.unstubAllGlobals();
  await db.settings.clear();
});

const open = () =>
  render(
    <Around>
      <App />
    </Around>,
  );

it("asks who it is, and then shows the day", async () => {
  let known = false;
  answering({
    "GET /me": () => (known ? jonna : { status: 401, problem: "Sign in first." }),
    "POST /sign-in": () => {
      known = true;
      return jonna;
    },
  });
  open();
  fireEvent.change(await screen.findByLabelText("Name"), { target: { value: "jonna" } });
  fireEvent.change(screen.getByLabelText("Password"), { target: { value: "ferry-0640" } });
  fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
  expect(await screen.findByRole("heading", { name: "Today" })).toBeVisible();
});

it("has whoever came with a code choose a password before all else", async () => {
  answering({ "GET /me": { ...jonna, choose: true } });
  open();
  expect(await screen.findByRole("heading", { name: "Choose a password" })).toBeVisible();
  expect(screen.queryByRole("heading", { name: "Today" })).toBeNull();
});

it("goes on without signal as who was last on this device", async () => {
  await keepPerson(jonna);
  answering({});
  open();
  await waitFor(() => expect(screen.getByRole("heading", { name: "Today" })).toBeVisible());
});

it("goes on after a session has ended, too: records wait for the same person", async () => {
  await keepPerson(jonna);
  answering({ "GET /me": { status: 401, problem: "Sign in first." } });
  open();
  await waitFor(() => expect(screen.getByRole("heading", { name: "Today" })).toBeVisible());
});
