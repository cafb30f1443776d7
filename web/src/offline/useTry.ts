import { useEffect, useState } from "react";
import type { Lists, Make, Tried, View } from "../api/client";
import { useSession } from "../signin/session";
import { core } from "./core";
import { deviceId } from "./db";
import { useWeighed } from "./useWeighed";

/** What some records would change, asked again as they change; nothing is kept. */
export function useTry(job: string, makes: Make[] | undefined): { tried?: Tried; wrong?: string } {
  const { me } = useSession();
  const [answer, setAnswer] = useState<{ tried?: Tried; wrong?: string }>({});
  const text = makes ? JSON.stringify(makes) : "";
  useEffect(() => {
    if (!text) return;
    let gone = false;
    const ask = async () => {
      const viewer = { person: me.id, device: await deviceId() };
      const tried = await core.try(job, viewer, new Date(), JSON.parse(text) as Make[]);
      if (!gone) setAnswer({ tried });
    };
    ask().catch(
      (err: unknown) => !gone && setAnswer({ wrong: err instanceof Error ? err.message : String(err) }),
    );
    return () => {
      gone = true;
    };
  }, [job, me.id, text]);
  return text ? answer : {};
}

/** What can be named on this machine. */
export const useLists = (view: View): Lists | undefined =>
  useWeighed(view, (job, viewer, now) => core.lists(job, viewer, now)).got;
