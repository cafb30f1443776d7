import { useEffect, useState } from "react";
import type { View } from "../api/client";
import { useSession } from "../signin/session";
import { deviceId } from "./db";

export interface Viewer {
  person: string;
  device: string;
  /** A rung that is looked at besides the one that is on. */
  looking?: string;
}

export interface Weighed<T> {
  got?: T;
  failed?: string;
}

/** What the core makes of a job besides its view: asked again with each new view, and with other figures. */
export function useWeighed<T>(
  view: View,
  ask: (job: string, viewer: Viewer, now: Date) => Promise<T>,
  figures = "",
): Weighed<T> {
  const { me } = useSession();
  const [weighed, setWeighed] = useState<Weighed<T>>({});
  useEffect(() => {
    let gone = false;
    const weigh = async () => {
      const got = await ask(view.job, { person: me.id, device: await deviceId() }, new Date());
      if (!gone) setWeighed({ got });
    };
    weigh().catch((err: unknown) => !gone && setWeighed({ failed: String(err) }));
    return () => {
      gone = true;
    };
    // `ask` is named by the figures that it closes over.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, me.id, figures]);
  return weighed;
}
