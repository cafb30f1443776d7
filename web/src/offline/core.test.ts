import { beforeEach, expect, it, vi } from "vitest";
import type { View } from "../api/client";
import { comingBack, goingIn } from "../testing/views";
import { changed } from "./changes";
import type { Ask, Reply } from "./worker";

/** A worker that answers as it is told. */
class Answering {
  static last: Answering;
  asked: Ask[] = [];
  onmessage: (message: { data: Reply }) => void = () => undefined;
  onerror: (event: { preventDefault(): void; message: string }) => void = () => undefined;
  constructor() {
    Answering.last = this;
  }
  postMessage(ask: Ask) {
    this.asked.push(ask);
  }
  terminate() {}
  answer(reply: Omit<Reply, "n">) {
    this.onmessage({ data: { n: this.asked.at(-1)?.n ?? 0, ...reply } });
  }
}
vi.stubGlobal("Worker", Answering);
const { core } = await import("./core");

const viewer = { person: "jonna", device: "tab" };
const view = () => core.about("view", "j-1", viewer, undefined);

beforeEach(() => core.warm());

it("makes a view whole of what has changed of it", async () => {
  const first = view();
  Answering.last.answer({ ok: goingIn });
  expect(await first).toBe(goingIn);
  const now = structuredClone(goingIn);
  now.headline = "other";
  const next = core.record("j-1", viewer, []);
  Answering.last.answer({ changes: changed(goingIn, now)[1] });
  const got = await next;
  expect(got).toEqual(now);
  expect(got.rungs, "what has not changed is what it was").toBe(goingIn.rungs);
});

it("begins with a whole view after its worker has died", async () => {
  const lost = view();
  Answering.last.onerror({ preventDefault: () => undefined, message: "out of memory" });
  await expect(lost).rejects.toThrow("started again");
  const again = view();
  Answering.last.answer({ ok: comingBack });
  expect(await again).toBe(comingBack);
});

it("leaves any other answer as it is", async () => {
  const find = core.about("find", "j-1", viewer, undefined);
  Answering.last.answer({ ok: { title: "x" } as unknown as View });
  expect(await find).toEqual({ title: "x" });
});
