import { describe, expect, it } from "vitest";
import { elsewhere, signalWords } from "./signal";

const other = (person: string, name: string, step = "") => ({ device: `of-${person}`, person, name, step });

describe("who else is on the job", () => {
  it("names one of the others, their step, and how many more", () => {
    expect(elsewhere([], "jonna")).toBeUndefined();
    expect(elsewhere([other("ilse", "Ilse", "Front panel")], "jonna")).toEqual({
      who: "Ilse",
      step: "at: Front panel",
    });
    const three = [other("jonna", "Jonna"), other("ilse", "Ilse"), other("odda", "Odda")];
    expect(elsewhere(three, "jonna")).toEqual({ who: "Ilse and 2 more", step: "looks at this job" });
  });

  it("tells one's own other device", () => {
    expect(elsewhere([other("jonna", "Jonna", "Drum")], "jonna")?.who).toBe("You, on another device");
  });
});

describe("how the sending goes", () => {
  it("says what waits and why", () => {
    expect(signalWords({ signal: "offline", waiting: 2, held: [] })).toBe("no signal, 2 waiting");
    expect(signalWords({ signal: "signed-out", waiting: 0, held: [] })).toBe("signed out");
    expect(signalWords({ signal: "sent", waiting: 0, held: [{ id: "e", says: "", problem: "" }] })).toBe(
      "1 not taken by the server",
    );
  });
});
