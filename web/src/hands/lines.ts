import type { Lot, Make, ProofStep, Side } from "../api/client";

/** What can be counted here with one hand: the first lot that must be and is not. */
export const toCount = (side?: Side): Lot | undefined =>
  side?.lots.find((l) => l.must_count && l.counted === null);

/** One line of the rung: what to do, or what is ticked by itself. */
interface Step {
  say: string;
  make?: Make;
  /** What is written down here. */
  proof?: ProofStep;
}

/** The lines of a rung, then each lead and confirmation that is still open: one touch each. */
export function stepsOf(side: Side | undefined, proof: ProofStep[]): Step[] {
  if (!side) return [];
  // The steps of a proof say all that its instructions say, each with what is written down.
  const steps: Step[] =
    proof.length > 0 ? proof.map((p) => ({ say: p.do, proof: p })) : side.do.map((say) => ({ say }));
  for (const plug of side.plugs) {
    for (const w of plug.wires) {
      const tag = w.tag ? `, tag ${w.tag}` : "";
      if (w.confirm && !w.confirmed)
        steps.push({ say: `${w.says}${tag} on *${w.moved || w.terminal}*, tugged?`, make: w.confirm });
      else if (w.tick?.kind === "wire.said" && !w.ticked)
        steps.push({ say: `Tag ${w.tag} on *${w.terminal}*, ${w.says}`, make: w.tick });
    }
  }
  for (const line of side.lines) {
    if (!line.ask && !line.ticked && !line.may) steps.push({ say: `${line.say}?`, make: line.tick });
  }
  return steps;
}
