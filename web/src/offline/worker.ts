/// <reference lib="webworker" />
// The core in its worker: it keeps the open jobs and answers with their views.
import "./wasm_exec.js";
import type { View } from "../api/client";
import type { Asks } from "./asks";
import { changed, viewOf, type Changes } from "./changes";
import coreUrl from "./core.wasm?url";

type Call = "open" | "add" | "check" | "record" | "library" | "hear" | "take" | keyof Asks;
/** The core speaks text: JSON goes in and comes out. */
type Core = Record<Call, (...args: string[]) => string>;

export interface Ask {
  n: number;
  call: Call;
  args: string[];
}

export interface Reply {
  n: number;
  /** Milliseconds that the core took; of reply 0, that it took to be ready. */
  took?: number;
  ok?: unknown;
  /** Instead of ok, of a view that follows on one that the page has. */
  changes?: Changes;
  error?: string;
}

declare const Go: new () => {
  importObject: WebAssembly.Imports;
  run(instance: WebAssembly.Instance): Promise<void>;
};
declare const self: DedicatedWorkerGlobalScope & { evensteps?: Core };

async function start(): Promise<Core> {
  const go = new Go();
  const { instance } = await WebAssembly.instantiateStreaming(fetch(coreUrl), go.importObject);
  void go.run(instance);
  if (!self.evensteps) throw new Error("the core did not start");
  self.postMessage({ n: 0, took: performance.now() } satisfies Reply);
  return self.evensteps;
}

const core = start();

/** The views that the page has, by job: it is told what becomes other of them. */
const seen = new Map<string, View>();

/** What goes over of a view. */
function told(job: string, reply: Reply): Reply {
  const before = seen.get(job);
  const [now, changes] = before ? changed(before, reply.ok as View) : [reply.ok as View, undefined];
  seen.set(job, now);
  if (!changes) return reply;
  return { n: reply.n, took: reply.took, changes };
}

self.onmessage = async (message: MessageEvent<Ask>) => {
  const { n, call, args } = message.data;
  let reply: Reply;
  try {
    const c = await core;
    const run = c[call];
    const began = performance.now();
    const text = run(...args);
    const took = performance.now() - began;
    reply = { n, took, ...(JSON.parse(text) as Omit<Reply, "n" | "took">) };
    const job = viewOf(call, args);
    if (job !== undefined && reply.ok) reply = told(job, reply);
  } catch (err) {
    reply = { n, error: err instanceof Error ? err.message : String(err) };
  }
  self.postMessage(reply);
};
