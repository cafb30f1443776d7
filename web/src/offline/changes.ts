// A view goes from the worker to the page as what has changed of it: a touch changes
// two or three steps of it, not the others.
import { replaceEqualDeep } from "@tanstack/react-query";
import type { View } from "../api/client";

/** The job whose view is asked for; undefined of any other question. */
export const viewOf = (call: string, args: string[]) =>
  call === "view" ? args[0] : call === "record" ? args[1] : undefined;

/** What is other in a view than in the one before. */
export interface Changes {
  /** Parts that are new or other, by their names. */
  parts: Partial<View>;
  /** Parts that are there no more. */
  gone: (keyof View)[];
  /** Steps that are other, by their places; the number of steps is the same. */
  steps: [number, View["rungs"][number]][];
}

/** The new view with all that is the same kept as it was, and what is not. */
export function changed(before: View, now: View): [View, Changes] {
  const kept = replaceEqualDeep(before, now);
  const out: Changes = { parts: {}, gone: [], steps: [] };
  for (const name of Object.keys(before) as (keyof View)[]) if (!(name in kept)) out.gone.push(name);
  for (const name of Object.keys(kept) as (keyof View)[]) {
    if (kept[name] === before[name]) continue;
    if (name === "rungs" && kept.rungs.length === before.rungs.length)
      kept.rungs.forEach((r, i) => r !== before.rungs[i] && out.steps.push([i, r]));
    else Object.assign(out.parts, { [name]: kept[name] });
  }
  return [kept, out];
}

/** The view that follows from the one before; what has not changed keeps its identity. */
export function follow(before: View, { parts, gone, steps }: Changes): View {
  const now = { ...before, ...parts };
  for (const name of gone) delete (now as Partial<View>)[name];
  if (steps.length > 0) {
    now.rungs = [...before.rungs];
    for (const [i, step] of steps) now.rungs[i] = step;
  }
  return now;
}
