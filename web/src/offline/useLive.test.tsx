import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { db, deviceId } from "./db";
import { lastHeard } from "./heard";

/** Lines as a browser gives them: what the server says is said by the test. */
class FakeLine extends EventTarget {
  static readonly CLOSED = 2;
  static all: FakeLine[] = [];
  readyState = 1;
  constructor(readonly url: string) {
    super();
    FakeLine.all.push(this);
  }
  close() {
    this.readyState = 2;
  }
  say(event: string, data: unknown = {}) {
    act(() => void this.dispatchEvent(new MessageEvent(event, { data: JSON.stringify(data) })));
  }
}
vi.stubGlobal("EventSource", FakeLine);
const sent: string[] = [];
vi.mock("../api/client", async (real) => ({
  ...(await real<object>()),
  api: {
    PUT: async (_path: string, ask: { body: { step: string } }) => {
      sent.push(ask.body.step);
      return {};
    },
  },
}));
const { useLive } = await import("./useLive");

afterEach(() => {
  cleanup();
  FakeLine.all = [];
  sent.length = 0;
  vi.useRealTimers();
});

async function joined(news = () => undefined as void) {
  const hook = renderHook(({ step }) => useLive("j-1", step, news), { initialProps: { step: "Front" } });
  await waitFor(() => expect(FakeLine.all).toHaveLength(1));
  return { hook, line: FakeLine.all[0]! };
}

describe("the line on which others are heard", () => {
  it("tells news, and who else is there", async () => {
    const news = vi.fn();
    const { hook, line } = await joined(news);
    expect(line.url).toBe(`/api/jobs/j-1/live?device=${await deviceId()}&step=Front`);
    line.say("beat");
    expect(hook.result.current.joined).toBe(true);
    line.say("facts");
    expect(news).toHaveBeenCalledOnce();
    const ilse = { device: "tab-2", person: "ilse", name: "Ilse", step: "Drum" };
    line.say("here", { devices: [{ ...ilse, device: await deviceId() }, ilse] });
    expect(hook.result.current.others).toEqual([ilse]);
  });

  it("says each step that comes on here", async () => {
    const { hook, line } = await joined();
    line.say("beat");
    hook.rerender({ step: "Drum" });
    await waitFor(() => expect(sent).toEqual(["Front", "Drum"]));
  });

  it("keeps when it last heard", async () => {
    await db.jobs.put({ id: "j-1", doc: {} as never, cursor: 0 });
    const { line } = await joined();
    line.say("beat");
    await waitFor(async () => expect((await db.jobs.get("j-1"))?.heard).toBeDefined());
    expect(await lastHeard("j-1")).toBe((await db.jobs.get("j-1"))?.heard);
  });

  it("knows nobody once the line has broken, and ends with the screen", async () => {
    const { hook, line } = await joined();
    line.say("beat");
    line.say("here", { devices: [{ device: "tab-2", person: "ilse", name: "Ilse" }] });
    act(() => void line.dispatchEvent(new Event("error")));
    expect(hook.result.current).toEqual({ others: [], joined: false });
    hook.unmount();
    expect(line.readyState).toBe(FakeLine.CLOSED);
  });
});
