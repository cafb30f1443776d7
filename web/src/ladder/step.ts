import type { Side, View } from "../api/client";

/** What is on now: which side of which rung, or a task between the ways. */
export function stepOf(view: View): { side?: Side; which: "out" | "back"; key: string } {
  const { current } = view;
  const key = `${current.kind}:${current.move ?? current.goal ?? ""}`;
  if (current.task) return { side: current.task, which: current.kind === "work" ? "out" : "back", key };
  const rung = view.rungs.find((r) => r.current);
  const side = (current.side === "out" ? rung?.out_side : rung?.back_side) ?? undefined;
  return { side, which: current.side === "out" ? "out" : "back", key };
}
