import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { mira, openAt } from "../testing/open";
import { Audit } from "./Audit";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const line = (id: number, what: string, whom = "") => ({
  id,
  at: "2026-11-29T08:00:00Z",
  by: "mira",
  what,
  whom,
  address: "10.0.0.4",
});

it("shows who did what, and the lines before on demand", async () => {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname, searchParams } = new URL(request.url);
    if (pathname !== "/api/audit") throw new TypeError("nobody answers");
    asked.push(searchParams.get("before") ?? "");
    return Response.json(
      searchParams.get("before") === "0"
        ? { lines: [line(9, "one-time code given", "tuure"), line(8, "signed in", "mira")], more: true }
        : { lines: [line(7, "company changed")], more: false },
    );
  });
  openAt(<Audit />, "/audit", "*", mira);
  expect(await screen.findByText("one-time code given: tuure")).toBeVisible();
  expect(screen.getByText("signed in")).toBeVisible();
  fireEvent.click(screen.getByRole("button", { name: "Show more" }));
  expect(await screen.findByText("company changed")).toBeVisible();
  expect(asked).toEqual(["0", "8"]);
  expect(screen.queryByRole("button", { name: "Show more" })).toBeNull();
});
