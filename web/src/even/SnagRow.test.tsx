import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Snag } from "../api/client";
import { recorded } from "../ladder/recorded.test-helper";
import { SnagRow } from "./SnagRow";

const snag: Snag = {
  id: "missing:toe-off/1",
  kind: "missing",
  grade: "open",
  say: "1 screw of the toe panel is missing",
  do: "Find it, or say why it may stay away.",
  subject: "",
  explain: true,
  regular: false,
  explained: null,
  line: null,
  touches: [],
} as unknown as Snag;

afterEach(cleanup);

const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

describe("what is short of even", () => {
  it("is explained in words, and never without them", async () => {
    const made = recorded(<SnagRow snag={snag} />);
    press("Explain");
    expect(screen.getByRole("button", { name: "Record it" })).toBeDisabled();
    fireEvent.change(screen.getByLabelText("Why is it so? It is printed on the sheet."), {
      target: { value: "It was missing before" },
    });
    press("Record it");
    await waitFor(() =>
      expect(made).toEqual([
        { kind: "snag.explained", body: { snag: snag.id, reason: "It was missing before" } },
      ]),
    );
  });

  it("that stops the job is inspected by another, with what was found", async () => {
    const made = recorded(<SnagRow snag={{ ...snag, grade: "stop", explain: false }} />);
    expect(screen.queryByRole("button", { name: "Explain" })).toBeNull();
    press("Inspected");
    fireEvent.change(screen.getByLabelText("What did you find? (not by the person who raised it)"), {
      target: { value: "The joint holds" },
    });
    press("Record it");
    await waitFor(() =>
      expect(made).toEqual([{ kind: "inspected", body: { snag: snag.id, finding: "The joint holds" } }]),
    );
  });

  it("is settled by the touch that the core offers", () => {
    const touch = { label: "It is found", says: "", open: [], half: [], makes: [{ kind: "note", body: {} }] };
    const made = recorded(<SnagRow snag={{ ...snag, touches: [touch] } as unknown as Snag} />);
    press("It is found");
    expect(made).toEqual(touch.makes);
  });
});
