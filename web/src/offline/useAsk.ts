import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Lists, Make, Tried, View } from "../api/client";
import { useSession } from "../signin/session";
import type { Asks } from "./asks";
import { core, viewerHere } from "./core";

const stamps = new WeakMap<View, number>();
let stamped = 0;

/** Another number for each view: what is asked of the core is asked again with each. */
function stampOf(view: View) {
  const known = stamps.get(view) ?? ++stamped;
  stamps.set(view, known);
  return known;
}

export interface Asked<T> {
  got?: T;
  failed?: string;
  /** It answers what was asked before: the answer to what is typed now is on its way. */
  stale?: boolean;
}

/**
 * What the core makes of a job besides its view: asked again with each new view,
 * and with what is typed. It needs no signal. What was answered before stands
 * until the next answer is here.
 */
export function useAsk<K extends keyof Asks>(
  question: K,
  view: View,
  typed: Asks[K]["in"],
  enabled = true,
): Asked<Asks[K]["out"]> {
  const { me } = useSession();
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ["core", question, view.job, stampOf(view), me.id, typed ?? null],
    queryFn: async () => core.about(question, view.job, await viewerHere(me.id, view.job), typed),
    enabled,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
    placeholderData: keepPreviousData,
  });
  return {
    got: enabled ? data : undefined,
    failed: error ? error.message : undefined,
    stale: isPlaceholderData,
  };
}

/** What some records would change; nothing is kept. */
export function useTry(view: View, makes: Make[] | undefined): { tried?: Tried; wrong?: string } {
  const { got, failed } = useAsk("try", view, { makes: makes ?? [] }, makes !== undefined);
  return { tried: got, wrong: failed };
}

/** What can be named on this machine. */
export const useLists = (view: View): Lists | undefined => useAsk("lists", view, undefined).got;
