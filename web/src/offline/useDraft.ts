import { useCallback, useEffect, useRef, useState } from "react";
import { useSession } from "../signin/session";
import { db } from "./db";

export type Draft = Record<string, string>;

/** What of a draft is not recorded yet: a field that was changed since counts as new. */
export const leftOf = (draft: Draft, recorded: Draft): Draft =>
  Object.fromEntries(Object.entries(draft).filter(([field, text]) => text !== recorded[field]));

/**
 * What is typed at a step and not yet recorded. It belongs to the device's store, so that another
 * screen, a reload or a dead battery takes nothing of it. What was recorded is cleared; what was typed
 * while it was being recorded stays.
 */
export function useDraft(
  job: string,
  step: string,
): [Draft, (draft: Draft) => void, (recorded: Draft) => void] {
  const { me } = useSession();
  const key = `${job} ${me.id} ${step}`;
  const [kept, setKept] = useState<{ key: string; draft: Draft }>({ key: "", draft: {} });
  const typed = useRef("");
  useEffect(() => {
    let gone = false;
    const read = async () => {
      const row = await db.drafts.get(key);
      if (!gone && typed.current !== key) setKept({ key, draft: row?.draft ?? {} });
    };
    read().catch(() => undefined); // no store: what is typed lives as long as the screen
    return () => {
      gone = true;
    };
  }, [key]);
  const set = useCallback(
    (draft: Draft) => {
      typed.current = key;
      setKept({ key, draft });
      void db.drafts.put({ key, draft }).catch(() => undefined);
    },
    [key],
  );
  const clear = useCallback(
    (recorded: Draft) => {
      setKept((now) => (now.key === key ? { key, draft: leftOf(now.draft, recorded) } : now));
      typed.current = "";
      void db.drafts
        .where("key")
        .equals(key)
        .modify((row) => {
          row.draft = leftOf(row.draft, recorded);
        })
        .catch(() => undefined);
    },
    [key],
  );
  return [kept.key === key ? kept.draft : {}, set, clear];
}
