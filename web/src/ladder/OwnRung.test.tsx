import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Lists } from "../api/client";
import { openOn } from "../testing/open";
import { goingIn } from "../testing/views";
import { OwnRung } from "./OwnRung";

const asked = vi.hoisted(() => ({ last: undefined as Record<string, unknown> | undefined, held: false }));
vi.mock("../offline/core", () => ({
  viewerHere: async (person: string) => ({ person, device: "tab" }),
  core: {
    generation: 1,
    about: (_question: string, _job: string, _viewer: unknown, typed: Record<string, unknown>) => {
      if (asked.held) return new Promise(() => undefined);
      asked.last = typed;
      const touch = (label: string) => ({
        label,
        says: "",
        open: [],
        half: [],
        makes: [{ kind: "rung.own", body: { id: typed.id, title: typed.title } }],
      });
      return Promise.resolve({
        tried: { stuck: "", warn: [], rungs: [], bring: [], trays: [], leads: [], says: "adds 1 step" },
        now: touch(`It is out: ${String(typed.count)}`),
        later: touch("Not out yet: add to plan"),
      });
    },
  },
}));

const lists = {
  sorts: [
    { name: "screw", counted: true, driven: true, leads: false },
    { name: "plug", counted: false, driven: false, leads: true },
  ],
  kinds: [{ name: "hex 1/4 in", drive: "hex", size: "1/4 in", turns: true }],
  moves: [{ id: "front-off", name: "Front", note: "front", on: false }],
} as unknown as Lists;

const shown = () => openOn(goingIn, () => <OwnRung view={goingIn} lists={lists} onClose={() => undefined} />);

beforeEach(() => {
  asked.held = false;
});
afterEach(cleanup);

describe("a step of one's own", () => {
  it("records what the core has made of what was typed", async () => {
    const { made } = shown();
    fireEvent.change(screen.getByLabelText("What is it called?"), { target: { value: "Hidden screw" } });
    fireEvent.click(screen.getByRole("button", { name: "One more" }));
    fireEvent.click(await screen.findByRole("button", { name: "It is out: 2" }));
    expect(made).toEqual([[{ kind: "rung.own", body: { id: asked.last?.id, title: "Hidden screw" } }]]);
    expect(asked.last).toMatchObject({ sort: "screw", face: "front", count: 2 });
  });

  it("asks of a plug what leads it has, and of a screw its driver", () => {
    shown();
    expect(screen.getByLabelText("Driver")).toBeInTheDocument();
    fireEvent.click(screen.getByRole("radio", { name: "plug" }));
    expect(screen.queryByLabelText("Driver")).toBeNull();
    expect(screen.getByLabelText("Leads, by their colours from left to right")).toBeInTheDocument();
  });

  it("records nothing that was made of less than is typed now", async () => {
    const { made } = shown();
    const out = await screen.findByRole("button", { name: "It is out: 1" });
    await waitFor(() => expect(out).toBeEnabled());
    asked.held = true;
    fireEvent.change(screen.getByLabelText("What is it called?"), { target: { value: "Late" } });
    await waitFor(() => expect(screen.getByRole("button", { name: "It is out: 1" })).toBeDisabled());
    fireEvent.click(screen.getByRole("button", { name: "It is out: 1" }));
    expect(made).toEqual([]);
  });
});
