import { act, renderHook } from "@testing-library/react";
import { beforeEach, expect, it, vi } from "vitest";
import { beginNewVersion, keepPages, useNewVersion } from "./pages";

/** A browser with one registration of the worker of the pages, and so many tabs. */
function browser(waiting?: { postMessage: (message: unknown) => void }, tabs = 1) {
  const held = Array.from({ length: tabs }, () => ({ name: "evensteps-page" }));
  const heard: Record<string, () => void> = {};
  const reload = vi.fn();
  const pages = Object.assign(new EventTarget(), {
    waiting,
    installing: undefined as (EventTarget & { state: string; postMessage: unknown }) | undefined,
    update: () => Promise.resolve(),
  });
  vi.stubGlobal("navigator", {
    locks: { request: vi.fn(), query: () => Promise.resolve({ held }) },
    storage: { persist: () => Promise.resolve(false) },
    serviceWorker: {
      controller: {},
      register: vi.fn(() => Promise.resolve(pages)),
      addEventListener: (name: string, listen: () => void) => (heard[name] = listen),
    },
  });
  vi.stubGlobal("location", { ...window.location, reload });
  return { heard, reload, pages };
}

beforeEach(() => vi.unstubAllGlobals());
const start = async () => {
  keepPages();
  window.dispatchEvent(new Event("load"));
  await new Promise((done) => setTimeout(done));
};

it("begins with the new version where one has been fetched before this start", async () => {
  const asked = vi.fn();
  const { heard, reload } = browser({ postMessage: asked });
  await start();
  expect(asked).toHaveBeenCalledWith({ type: "SKIP_WAITING" });
  expect(reload, "not before it is in charge").not.toHaveBeenCalled();
  heard["controllerchange"]?.();
  expect(reload).toHaveBeenCalledOnce();
});

it("offers a version that comes while the page is open, and begins it when asked", async () => {
  const { heard, reload, pages } = browser();
  await start();
  const asked = vi.fn();
  pages.installing = Object.assign(new EventTarget(), { state: "installing", postMessage: asked });
  pages.dispatchEvent(new Event("updatefound"));
  const offered = renderHook(() => useNewVersion());
  pages.installing.state = "installed";
  act(() => void pages.installing?.dispatchEvent(new Event("statechange")));
  expect(offered.result.current).toBe(true);
  expect(asked, "nothing by itself").not.toHaveBeenCalled();
  expect(await beginNewVersion()).toBe(true);
  expect(asked).toHaveBeenCalledWith({ type: "SKIP_WAITING" });
  heard["controllerchange"]?.();
  expect(reload).toHaveBeenCalledOnce();
});

it("leaves the page alone where there is none", async () => {
  const { heard, reload } = browser();
  await start();
  expect(heard["controllerchange"]).toBeUndefined();
  expect(reload).not.toHaveBeenCalled();
});

it("lets the old version be while another tab works with its files", async () => {
  const asked = vi.fn();
  browser({ postMessage: asked }, 2);
  await start();
  expect(asked).not.toHaveBeenCalled();
});
