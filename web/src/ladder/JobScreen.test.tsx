import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { openOn } from "../testing/open";
import { comingBack, goingIn } from "../testing/views";
import { JobScreen } from "./JobScreen";

vi.mock("../offline/core", () => ({
  viewerHere: async (person: string) => ({ person, device: "tab" }),
  core: { generation: 1, about: () => new Promise(() => undefined) },
}));

afterEach(cleanup);

describe("the job", () => {
  it("records what Done says, and half of it while something is open", async () => {
    const side = comingBack.rungs.find((r) => r.current)?.back_side;
    const done = side?.done;
    expect(done?.open.length, "the step has something open").toBeGreaterThan(0);
    const { made } = openOn(comingBack, (job) => <JobScreen job={job} view={comingBack} />);
    fireEvent.click(screen.getByRole("button", { name: /^Still open: / }));
    await waitFor(() => expect(made).toEqual([done?.half]));
  });

  it("takes back the last touch, by its name", async () => {
    const { made } = openOn(goingIn, (job) => <JobScreen job={job} view={goingIn} />);
    fireEvent.click(screen.getByRole("button", { name: /^Undo/ }));
    await waitFor(() => expect(made).toHaveLength(1));
    expect(made[0]?.map((m) => m.kind)).toEqual(goingIn.undo?.events.map(() => "withdrawn"));
  });

  it("says why a record was not kept", () => {
    openOn(goingIn, (job) => <JobScreen job={job} view={goingIn} />, { refused: "Not recorded: no room." });
    expect(screen.getByRole("alert").textContent).toBe("Not recorded: no room.");
  });

  it("has the job's name in the browser's title", () => {
    openOn(goingIn, (job) => <JobScreen job={job} view={goingIn} />);
    expect(document.title).toContain(goingIn.title);
  });
});
