import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { JobDocument, JobEvent, Make } from "../api/client";

vi.stubGlobal("navigator", {
  ...navigator,
  locks: { request: (_name: string, run: () => unknown) => run() },
});
let signal: ((request: Request) => Response | Promise<Response>) | undefined;
vi.stubGlobal(
  "Request",
  class extends Request {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(new URL(String(input), "http://here"), init);
    }
  },
);
vi.stubGlobal("fetch", async (request: Request) => {
  if (!signal) throw new TypeError("no signal");
  return signal(request);
});

/** A core that says how many records it has been given. */
const fake = vi.hoisted(() => ({
  generation: 1,
  held: new Set<string>(),
  asked: [] as string[],
  unsound: "",
  dies: 0,
}));
vi.mock("./core", () => {
  const view = () => ({
    title: `${fake.held.size} records`,
    rungs: [{ id: "front", title: "Front" }],
    current: { move: "front" },
  });
  const say = (what: string) => {
    fake.asked.push(what);
    if (fake.dies > 0 && what === "view") {
      fake.dies--;
      fake.generation++;
      throw new Error("the core stopped");
    }
  };
  const sound = () => {
    if (fake.unsound) throw new Error(fake.unsound);
  };
  return {
    viewerHere: async (person: string) => ({ person, device: "tab" }),
    core: {
      get generation() {
        return fake.generation;
      },
      open: async () => {
        say("open");
        fake.held.clear();
      },
      add: async (_job: string, events: JobEvent[]) => {
        say("add");
        events.forEach((e) => fake.held.add(e.id));
        return [];
      },
      check: async () => sound(),
      record: async (_job: string, _viewer: unknown, events: JobEvent[]) => {
        say("record");
        sound();
        events.forEach((e) => fake.held.add(e.id));
        return view();
      },
      about: async () => {
        say("view");
        return view();
      },
    },
  };
});

const { db } = await import("./db");
const { useJob } = await import("./useJob");

const note = (text: string): Make[] => [{ kind: "note", body: { text } }] as unknown as Make[];

beforeEach(async () => {
  await Promise.all([db.events.clear(), db.jobs.clear(), db.maps.clear()]);
  Object.assign(fake, { generation: 1, asked: [], unsound: "", dies: 0 });
  fake.held.clear();
  signal = undefined;
  const doc = { job: { id: "j-1" }, map: "skerrymoor-d30", revision: 1 } as unknown as JobDocument;
  await db.jobs.put({ id: "j-1", doc, cursor: 0 });
  await db.maps.put({ key: "skerrymoor-d30@1", json: "{}" });
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

async function opened() {
  const hook = renderHook(() => useJob("j-1", "jonna"));
  await waitFor(() => expect(hook.result.current.view).toBeDefined());
  return hook;
}

describe("a job on this device", () => {
  it("opens without signal, and a touch is kept and shown by one question", async () => {
    const { result } = await opened();
    expect(result.current.view?.title).toBe("0 records");
    fake.asked.length = 0;
    await act(async () => expect(await result.current.record(note("loose"))).toBe(true));
    expect(result.current.view?.title).toBe("1 records");
    expect(fake.asked).toEqual(["record"]);
    const kept = await db.events.toArray();
    expect(kept.map((e) => [e.state, e.event.n, e.event.kind])).toEqual([["waiting", 1, "note"]]);
    await waitFor(() => expect(result.current.waiting).toBe(1));
  });

  it("numbers touches on, each by itself", async () => {
    const { result } = await opened();
    for (const text of ["one", "two", "three"]) await act(() => result.current.record(note(text)));
    expect((await db.events.toArray()).map((e) => e.event.n).sort()).toEqual([1, 2, 3]);
  });

  it("paints nothing that the device has not kept yet", async () => {
    const { result } = await opened();
    let kept = () => {};
    vi.spyOn(db.events, "bulkAdd").mockImplementation(
      (() => new Promise((done) => (kept = () => done("k")))) as never,
    );
    let done: Promise<boolean> | undefined;
    act(() => void (done = result.current.record(note("loose"))));
    await waitFor(() => expect(fake.held.size).toBe(1));
    await new Promise((wait) => setTimeout(wait, 50));
    expect(result.current.view?.title).toBe("0 records");
    await act(async () => {
      kept();
      await done;
    });
    expect(result.current.view?.title).toBe("1 records");
  });

  it("takes the same again within a slip for one touch", async () => {
    const { result } = await opened();
    await act(async () => {
      await Promise.all([result.current.record(note("loose")), result.current.record(note("loose"))]);
      await result.current.record(note("loose"));
    });
    expect(await db.events.count()).toBe(1);
  });

  it("says what is wrong with a record, and keeps nothing of it", async () => {
    const { result } = await opened();
    fake.unsound = "The note has no text.";
    await act(async () => expect(await result.current.record(note(""))).toBe(false));
    expect(result.current.refused).toBe("The note has no text.");
    expect(await db.events.count()).toBe(0);
    expect(result.current.view?.title).toBe("0 records");
  });

  it("counts it only once the server has it, where the device cannot keep it", async () => {
    const { result } = await opened();
    vi.spyOn(db.events, "bulkAdd").mockRejectedValue(new Error("full"));
    signal = async (request) => {
      const { events } = (await request.json()) as { events: JobEvent[] };
      const answers = events.map((e) => ({ id: e.id, outcome: "kept", num: 7, t: "2026-11-25T09:00:01Z" }));
      return new Response(JSON.stringify({ answers }), { headers: { "Content-Type": "application/json" } });
    };
    await act(async () => expect(await result.current.record(note("loose"))).toBe(true));
    expect(result.current.view?.title).toBe("1 records");
    expect(result.current.refused).toMatch(/^This device cannot keep records/);
  });

  it("says that nothing was recorded, where neither the device nor the server takes it", async () => {
    const { result } = await opened();
    vi.spyOn(db.events, "bulkAdd").mockRejectedValue(new Error("full"));
    await act(async () => expect(await result.current.record(note("loose"))).toBe(false));
    expect(result.current.view?.title).toBe("0 records");
    expect(result.current.refused).toMatch(/^Not recorded: /);
  });

  it("starts a core that died again from what is kept", async () => {
    const { result } = await opened();
    await act(() => result.current.record(note("loose")));
    fake.dies = 1;
    act(() => result.current.look("front"));
    await waitFor(() => expect(fake.asked.filter((a) => a === "open")).toHaveLength(2));
    await waitFor(() => expect(result.current.view?.title).toBe("1 records"));
  });

  it("says so where the job was never on this device", async () => {
    await db.jobs.clear();
    const { result } = renderHook(() => useJob("j-1", "jonna"));
    await waitFor(() => expect(result.current.failed).toBeTruthy());
  });
});
