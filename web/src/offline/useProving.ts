import { useEffect, useState } from "react";
import type { Proving, View } from "../api/client";
import { useSession } from "../signin/session";
import { core } from "./core";
import { deviceId } from "./db";
import type { Draft } from "./useDraft";

/** What a proof that is being typed lacks and shows, as the core judges it; asked again with each letter. */
export function useProving(
  view: View,
  on: string | undefined,
  draft: Draft,
): { proving?: Proving; ask: () => Promise<Proving | undefined> } {
  const { me } = useSession();
  const text = JSON.stringify(draft);
  const [got, setGot] = useState<{ on: string; proving: Proving }>();
  const ask = async () => {
    if (!on) return undefined;
    return core.prove(view.job, { person: me.id, device: await deviceId() }, new Date(), {
      on,
      draft: JSON.parse(text) as Draft,
    });
  };
  useEffect(() => {
    let gone = false;
    ask().then(
      (proving) => !gone && on && proving && setGot({ on, proving }),
      () => undefined, // the side says what it needs
    );
    return () => {
      gone = true;
    };
    // `ask` is named by what it closes over.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, on, text, me.id]);
  return { proving: got && got.on === on ? got.proving : undefined, ask };
}
