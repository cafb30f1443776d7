import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { openOn } from "../testing/open";
import { goingIn, lists } from "../testing/views";
import { NotAsShown } from "./NotAsShown";

vi.mock("../offline/core", async () => {
  const { coreSaying } = await import("../testing/core");
  const { lists } = await import("../testing/views");
  return coreSaying({ lists: () => lists });
});

afterEach(cleanup);

const side = goingIn.rungs.find((r) => r.current)?.out_side ?? undefined;
const opened = () => {
  const closed = vi.fn();
  const { made } = openOn(goingIn, () => <NotAsShown view={goingIn} side={side} open onClose={closed} />);
  return { made, closed };
};
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));
const write = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

/** Chooses one of a list, as by two touches. */
const choose = async (list: string | RegExp, name: string) => {
  // The core has first to say what there is.
  await waitFor(() => expect(screen.getByRole("button", { name: list })).toBeEnabled());
  press(list);
  fireEvent.click(await screen.findByRole("option", { name }));
};

describe("what differs from the map", () => {
  it("is nothing after all, and nothing is recorded", () => {
    const { made, closed } = opened();
    press("Cancel, it matches");
    expect(closed).toHaveBeenCalledOnce();
    expect(made).toEqual([]);
  });

  it("is a note, on the step that is on, once something is written", () => {
    const { made } = opened();
    press("Note it and go on");
    expect(screen.getByRole("button", { name: "Note it" })).toBeDisabled();
    write("What should the next one know?", "  The clip is brittle ");
    press("Note it");
    expect(made).toEqual([
      [{ kind: "note", body: { text: "The clip is brittle", on: goingIn.current.move } }],
    ]);
  });

  it("is another driver, out of those of this machine and the usual ones", async () => {
    const { made } = opened();
    const lot = side?.lots[0];
    const kind = lists.kinds.find((k) => k.name !== lot?.driver);
    press("Another driver than shown");
    await choose(new RegExp(`${lot?.kind}: it is`), kind?.name ?? "");
    await waitFor(() => expect(made).toHaveLength(1));
    expect(made[0]).toMatchObject([{ kind: "difference", body: { on: lot?.lot, is: kind?.name } }]);
  });

  it("is a way that cannot be gone: the plan goes another", () => {
    const { made } = opened();
    press("It cannot be done this way");
    write("Why can it not be done?", "The screw turns with its nut");
    press("It cannot be done this way: plan another");
    expect(made).toMatchObject([
      [{ kind: "rung.not-done", body: { move: goingIn.current.move, bars: true } }],
    ]);
  });

  it("was off before, and somebody says who took it off", async () => {
    const { made } = opened();
    press("Off, missing or broken before you came");
    expect(screen.queryByRole("button", { name: "The customer took it off" })).toBeNull();
    const move = lists.moves.find((m) => !m.on);
    await choose(/^choose what was off/, move?.name ?? "");
    press("The customer took it off");
    expect(made).toEqual([[{ kind: "found", body: { move: move?.id, by: "customer" } }]]);
  });

  it("is something put in that must come out again before a step is back", async () => {
    const { made } = opened();
    press("Something put in, or found inside");
    expect(screen.getByRole("button", { name: /^I put it in/ })).toBeDisabled();
    write("What is it?", "cord on the lid");
    const due = goingIn.rungs.find((r) => r.kind !== "check" && r.back !== "done" && r.back !== "none");
    await choose(/^the job is even/, `${due?.title} is back`);
    press(/^I put it in/);
    expect(made).toEqual([[{ kind: "temporary.in", body: { name: "cord on the lid", before: due?.id } }]]);
  });
});
