import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import type { components } from "../api/schema";
import { deviceId } from "./db";
import { heard } from "./heard";

/** Another device that looks at the job now, whose it is, and the step that is on there. */
export type Other = components["schemas"]["Here"];

/** Where no line can be had, it is tried again after so long; until then the job asks. */
const pause = 30_000;

const none: Other[] = [];

/**
 * The line on which the server says what becomes other on a job, as it does. It stands
 * while the page is seen: a browser has few lines, over all its tabs. Without it the job
 * asks now and then. news is called when others have recorded something.
 */
export function useLive(job: string, step: string | undefined, news: () => void) {
  const [others, setOthers] = useState<Other[]>(none);
  const [joined, setJoined] = useState(false);
  const at = useRef({ step, news });
  useEffect(() => {
    at.current = { step, news };
  });

  useEffect(() => {
    let line: EventSource | undefined;
    let later: ReturnType<typeof setTimeout> | undefined;
    let gone = false;

    const end = () => {
      clearTimeout(later);
      line?.close();
      line = undefined;
      setJoined(false);
      setOthers(none);
    };
    const begin = async () => {
      const device = await deviceId();
      if (gone || line || document.hidden || typeof EventSource === "undefined") return;
      const query = new URLSearchParams({ device, step: at.current.step ?? "" });
      const mine = new EventSource(`/api/jobs/${encodeURIComponent(job)}/live?${query}`);
      line = mine;
      mine.addEventListener("beat", () => {
        setJoined(true);
        void heard(job);
      });
      mine.addEventListener("facts", () => at.current.news());
      mine.addEventListener("here", (told: MessageEvent<string>) => {
        const { devices } = JSON.parse(told.data) as components["schemas"]["WhoIsHere"];
        setOthers(devices.filter((d) => d.device !== device));
        void heard(job);
      });
      mine.addEventListener("error", () => {
        setJoined(false);
        setOthers(none);
        if (mine.readyState !== EventSource.CLOSED || line !== mine) return; // it tries again by itself
        line = undefined;
        later = setTimeout(() => void begin().catch(() => undefined), pause);
      });
    };
    const look = () => {
      if (document.hidden) end();
      else if (!line) void begin().catch(() => undefined); // no store here: the job asks
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", look);
      end();
    };
  }, [job]);

  useEffect(() => {
    if (!joined) return;
    void deviceId()
      .then((device) =>
        api.PUT("/jobs/{job}/here", { params: { path: { job } }, body: { device, step: step ?? "" } }),
      )
      .catch(() => undefined); // the next step says it again
  }, [job, joined, step]);

  return { others, joined };
}
