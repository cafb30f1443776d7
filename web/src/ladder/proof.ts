import type { Make, Side } from "../api/client";

/** The readings of a proof as they are typed; they stay while the screen is open. */
export type ProofDraft = Record<string, string>;

type Proof = Pick<NonNullable<Side["proof"]>, "points" | "unit" | "before" | "after" | "rated">;

/** What is still to be typed before a proof can be recorded. Whether it proves anything, the core says. */
export function stillToMeasure(proof: Proof, draft: ProofDraft): string[] {
  const typed = (key: string) => (draft[key] ?? "").trim() !== "";
  const open: string[] = [];
  if (!typed("meter")) open.push("the meter's number");
  if (proof.rated && !typed("rated")) open.push("what the meter is rated for");
  if (!typed("before")) open.push(`${proof.before}, before`);
  for (const p of proof.points) if (!typed(p.join("-"))) open.push(`${p[0]} to ${p[1]}`);
  if (!typed("after")) open.push(`${proof.after}, after`);
  return open;
}

const withUnit = (unit: string, text = "") => (/[a-z]/i.test(text) ? text.trim() : `${text.trim()} ${unit}`);

/** Puts the readings into the record that the core has prepared. */
export function withProof(make: Make, asked: Proof, draft: ProofDraft): Make {
  const proof = {
    by: "meter",
    meter: draft["meter"]?.trim(),
    ...(asked.rated ? { rated: withUnit(asked.unit, draft["rated"]) } : {}),
    before: withUnit(asked.unit, draft["before"]),
    readings: asked.points.map((between) => ({
      between,
      value: withUnit(asked.unit, draft[between.join("-")]),
    })),
    after: withUnit(asked.unit, draft["after"]),
  };
  return { kind: make.kind, body: { ...(make.body as object), proof } };
}

/** Puts a value, as it was written, into the record that the core has prepared. */
export const withValue = (make: Make, value: string): Make => ({
  kind: make.kind,
  body: { ...(make.body as object), value },
});
