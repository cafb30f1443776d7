import type { Proving, View } from "../api/client";
import { useSession } from "../signin/session";
import { core, viewerHere } from "./core";
import { useAsk } from "./useAsk";
import type { Draft } from "./useDraft";

/** What a proof that is being typed lacks and shows, as the core judges it; asked again with each letter. */
export function useProving(
  view: View,
  on: string | undefined,
  draft: Draft,
): { proving?: Proving; ask: () => Promise<Proving | undefined> } {
  const { me } = useSession();
  const { got } = useAsk("prove", view, { on: on ?? "", draft }, on !== undefined);
  const ask = async () =>
    on === undefined
      ? undefined
      : core.about("prove", view.job, await viewerHere(me.id, view.job), { on, draft });
  return { proving: got && got.proof.on === on ? got : undefined, ask };
}
