import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Make, Plug, Wire } from "../api/client";
import { WireCard } from "./WireCard";
import { begun, recorded } from "./recorded.test-helper";

/** How the core says that there is none. */
const none = null as unknown as Make;

const wire = (over: Partial<Wire>): Wire => ({
  wire: "timer/A",
  terminal: "A",
  colour: "red",
  stripe: "",
  says: "red",
  place: "",
  also: "",
  tag: 0,
  ticked: false,
  moved: "",
  proof: "",
  tick: none,
  confirmed: false,
  confirm: none,
  differs: [],
  say: begun("wire.said", { wire: "timer/A", tag: 3 }),
  ...over,
});

const plug = (over: Partial<Plug>): Plug => ({
  item: "timer",
  name: "Timer leads",
  keyed: false,
  card: true,
  rule: "tag",
  note: "two are red: tag each lead",
  one_by_one: "",
  picture: false,
  pictured: false,
  instead: none,
  wires: [],
  warn: [],
  open: true,
  ...over,
});

const show = (over: Partial<Plug>, looking = false) =>
  recorded(<WireCard plug={plug(over)} looking={looking} />);

afterEach(cleanup);

const tag: Make = begun("wire.said", { wire: "timer/A", colour: "red", tag: 3 });

describe("a wire card", () => {
  it("tags a lead by one touch, and not twice", () => {
    const made = show({
      wires: [
        wire({ tag: 3, tick: tag }),
        wire({ wire: "timer/B", terminal: "B", tag: 4, tick: tag, ticked: true }),
      ],
    });
    expect(screen.getByText("two are red: tag each lead")).toBeInTheDocument();
    fireEvent.click(screen.getByRole("button", { name: "A, red, tag 3: tagged" }));
    fireEvent.click(screen.getByRole("button", { name: "B, red, tag 4: tagged" }));
    expect(made).toEqual([tag]);
    expect(screen.getByRole("img", { name: "tag 4" })).toBeInTheDocument();
  });

  it("confirms on the terminal of the new part", () => {
    const on: Make = { kind: "wire.confirmed", body: { wire: "timer/A", on: "P1", tug: true } };
    const made = show({ wires: [wire({ moved: "P1", proof: "the diagram", confirm: on })] });
    expect(screen.getByText("A → P1")).toBeInTheDocument();
    expect(screen.getByText("by the diagram")).toBeInTheDocument();
    fireEvent.click(screen.getByRole("button", { name: "A, red: on P1, tugged" }));
    expect(made).toEqual([on]);
  });

  it("asks where a lead goes on the new part before it is moved", () => {
    const made = show({
      one_by_one: "programme switch",
      wires: [wire({ tick: begun("lead.moved", { from: "timer/A" }) })],
    });
    fireEvent.click(screen.getByRole("button", { name: "A, red: moved over" }));
    expect(made).toEqual([]);
    fireEvent.change(screen.getByRole("textbox"), { target: { value: " P4 " } });
    fireEvent.click(screen.getByRole("button", { name: /^the diagram/ }));
    expect(made).toEqual([{ kind: "lead.moved", body: { from: "timer/A", to: "P4", proof: "the diagram" } }]);
  });

  it("stops the job where a lead finds no place", () => {
    const made = show({ one_by_one: "clock", wires: [wire({ tick: begun("lead.moved", {}) })] });
    fireEvent.click(screen.getByRole("button", { name: "A, red: moved over" }));
    fireEvent.click(screen.getByRole("button", { name: "No terminal for it" }));
    fireEvent.click(screen.getByRole("button", { name: /^Stop, ask for help/ }));
    expect(made).toEqual([
      { kind: "stopped", body: { why: "no place on the new clock for the red lead from A" } },
    ]);
  });

  it("says another colour and keeps the tag", () => {
    const made = show({ wires: [wire({ tag: 3, tick: tag })] });
    fireEvent.click(screen.getByRole("button", { name: "A: red. Say another colour" }));
    fireEvent.click(screen.getByRole("button", { name: "brown" }));
    fireEvent.change(screen.getByRole("combobox", { name: /Stripe/ }), { target: { value: "white" } });
    fireEvent.click(screen.getByRole("button", { name: "It is brown with white stripe" }));
    expect(made).toEqual([begun("wire.said", { wire: "timer/A", tag: 3, colour: "brown", stripe: "white" })]);
  });

  it("asks for a photo first, or for a word that it was written down", () => {
    const instead: Make = { kind: "note", body: { text: "written down", on: "timer" } };
    const made = show({ rule: "photo", picture: true, instead, wires: [wire({})] });
    expect(screen.getByRole("button", { name: "Photo of the timer leads" })).toBeInTheDocument();
    fireEvent.click(screen.getByRole("button", { name: "Noted in writing" }));
    expect(made).toEqual([instead]);
  });

  it("warns where two colours were said, and records nothing while it is only looked at", () => {
    show(
      {
        warn: ["Two colours were said for A terminal: look at it and settle."],
        wires: [wire({ tick: tag, differs: ["Ilse: orange"] })],
      },
      true,
    );
    expect(screen.getByRole("alert")).toHaveTextContent("Two colours were said");
    expect(screen.getByText("Ilse: orange")).toBeInTheDocument();
    expect(screen.queryByRole("button")).toBeNull();
  });
});
