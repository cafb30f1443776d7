import type { CallHeard, CallSaid, JobDocument, JobEvent, View } from "../api/client";
import type { Asks } from "./asks";
import { deviceId, keptSpeech } from "./db";
import { follow, viewOf } from "./changes";
import { lastHeard } from "./heard";
import type { Ask, Reply } from "./worker";

/** Who looks at a job: the core decides by it what is said, and what is led to. */
export interface Viewer {
  person: string;
  device: string;
  /** A rung that is looked at besides the one that is on. */
  looking?: string;
  /** The viewer's own words and units; the company's where they are empty. */
  region?: string;
  units?: string;
  /** When this device last heard of the others on the job. */
  heard?: string;
}

/** Who looks at a job, on this device. */
export const viewerHere = async (person: string, job: string, looking?: string): Promise<Viewer> => ({
  person,
  device: await deviceId(),
  looking,
  heard: await lastHeard(job),
  ...(await keptSpeech()),
});

interface Waiting {
  call: Ask["call"];
  /** The job whose view is asked for. */
  view?: string;
  resolve(value: unknown): void;
  reject(err: Error): void;
}

/**
 * The core, asked through its worker. A worker that dies answers every question
 * with an error; the next question starts a new one, and its jobs are opened
 * again from the device's store (generation tells that it is another).
 */
class CoreWorker {
  generation = 0;
  private worker?: Worker;
  private n = 0;
  private waiting = new Map<number, Waiting>();
  /** The last view of each job, as its worker knows it: it tells what has become other. */
  private seen = new Map<string, View>();

  private started(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    this.generation++;
    worker.onmessage = (message: MessageEvent<Reply>) => {
      const { n, took = 0 } = message.data;
      const asked = this.waiting.get(n);
      this.waiting.delete(n);
      // What the core took stands among the page's own measures.
      performance.measure(`core ${asked?.call ?? "ready"}`, {
        start: Math.max(0, performance.now() - took),
        duration: took,
      });
      if (message.data.error) asked?.reject(new Error(message.data.error));
      else asked?.resolve(this.whole(asked.view, message.data));
    };
    worker.onerror = (event) => {
      event.preventDefault();
      this.drop(new Error("The core stopped and is started again: " + event.message));
    };
    this.worker = worker;
    return worker;
  }

  /** The answer whole: a view follows on the one before. */
  private whole(job: string | undefined, { ok, changes }: Reply): unknown {
    if (job === undefined) return ok;
    const before = this.seen.get(job);
    const now = before && changes ? follow(before, changes) : (ok as View);
    this.seen.set(job, now);
    return now;
  }

  private drop(err: Error) {
    this.worker?.terminate();
    this.worker = undefined;
    this.seen.clear();
    for (const asked of this.waiting.values()) asked.reject(err);
    this.waiting.clear();
  }

  private ask<T>(call: Ask["call"], ...args: string[]): Promise<T> {
    const worker = this.started();
    const n = ++this.n;
    return new Promise<T>((resolve, reject) => {
      this.waiting.set(n, {
        call,
        view: viewOf(call, args),
        resolve: resolve as (value: unknown) => void,
        reject,
      });
      worker.postMessage({ n, call, args } satisfies Ask);
    });
  }

  /** Starts loading the core, so that it is ready when a job is opened. */
  warm() {
    this.started();
  }

  open(map: string, job: JobDocument["job"]) {
    return this.ask<string>("open", map, JSON.stringify(job));
  }

  add(job: string, events: JobEvent[]) {
    return this.ask<{ id: string; problem: string }[]>("add", job, JSON.stringify(events));
  }

  /** Says what is wrong with events, before they are kept. */
  check(events: JobEvent[]) {
    return this.ask<true>("check", JSON.stringify(events));
  }

  /** Takes in what a touch records, if it is sound, and gives the view that follows from it. */
  record(job: string, viewer: Viewer, events: JobEvent[]) {
    const args = [JSON.stringify(events), job, JSON.stringify(viewer), new Date().toISOString()];
    return this.ask<Asks["view"]["out"]>("record", ...args);
  }

  /** Gives the core the maps by which calls are heard. */
  library(maps: string[]) {
    return this.ask<number>("library", ...maps);
  }

  /** What a call means on a machine. */
  hear(on: object, said: CallSaid) {
    return this.ask<CallHeard>("hear", JSON.stringify(on), JSON.stringify(said));
  }

  /** Makes a job of a call: its document, and the facts that the call says. */
  take(call: object) {
    return this.ask<{ job: JobDocument["job"]; events: JobEvent[] }>("take", JSON.stringify(call));
  }

  /** Asks about a job that is open: one of the core's table of questions. */
  about<K extends keyof Asks>(question: K, job: string, viewer: Viewer, typed: Asks[K]["in"]) {
    const args = [job, JSON.stringify(viewer), new Date().toISOString(), JSON.stringify(typed ?? null)];
    return this.ask<Asks[K]["out"]>(question, ...args);
  }
}

export const core = new CoreWorker();
