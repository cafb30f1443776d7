/// <reference lib="webworker" />
// The core in its worker: it keeps the open jobs and answers with their views.
import "./wasm_exec.js";
import coreUrl from "./core.wasm?url";

interface Core {
  open(map: string, job: string): string;
  add(job: string, events: string): string;
  check(event: string): string;
  view(job: string, viewer: string, now: string): string;
  find(job: string, viewer: string, now: string): string;
  decide(job: string, viewer: string, now: string, figures: string): string;
  try(job: string, viewer: string, now: string, makes: string): string;
  prove(job: string, viewer: string, now: string, typed: string): string;
  lists(job: string, viewer: string, now: string): string;
}

export interface Ask {
  n: number;
  call: keyof Core;
  args: string[];
}

export interface Reply {
  n: number;
  /** Milliseconds that the core took; of reply 0, that it took to be ready. */
  took?: number;
  ok?: unknown;
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

self.onmessage = async (message: MessageEvent<Ask>) => {
  const { n, call, args } = message.data;
  let reply: Reply;
  try {
    const c = await core;
    const run = c[call] as (...args: string[]) => string;
    const began = performance.now();
    const text = run(...args);
    const took = performance.now() - began;
    reply = { n, took, ...(JSON.parse(text) as Omit<Reply, "n" | "took">) };
  } catch (err) {
    reply = { n, error: err instanceof Error ? err.message : String(err) };
  }
  self.postMessage(reply);
};
