import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { openOn } from "../testing/open";
import { goingIn } from "../testing/views";
import { AtTheKnee } from "./AtTheKnee";

vi.mock("../offline/core", async () => {
  const { coreSaying } = await import("../testing/core");
  const { lists } = await import("../testing/views");
  return coreSaying({
    lists: () => ({
      ...lists,
      people: [
        { id: "ilse", name: "Ilse Brandmo", on: false, note: "" },
        { id: "odda", name: "Odda Fennrick", on: true, note: "" },
      ],
    }),
  });
});

afterEach(cleanup);

it("records who helps with the trays, once it is confirmed", async () => {
  const closed = vi.fn();
  const { made } = openOn(goingIn, () => <AtTheKnee view={goingIn} onClose={closed} />);
  const ilse = await screen.findByRole("button", { name: "Ilse Brandmo" });
  fireEvent.click(ilse);
  expect(ilse).toHaveAttribute("aria-pressed", "true");
  fireEvent.click(screen.getByRole("button", { name: "Odda Fennrick", pressed: true }));
  fireEvent.click(screen.getByRole("button", { name: "One tray less" }));
  expect(made, "nothing is recorded before").toEqual([]);
  fireEvent.click(screen.getByRole("button", { name: "That is what I have" }));
  await waitFor(() => expect(made).toHaveLength(1));
  expect(made[0]).toEqual([
    { kind: "person.here", body: { person: "ilse" } },
    { kind: "person.gone", body: { person: "odda" } },
    { kind: "bench.has", body: { trays: Math.max(6, goingIn.trays.length) - 1 } },
  ]);
});
