// The pages on the device: the next start needs no server.
import { useSyncExternalStore } from "react";

/** A page that is open holds this as long as it lives. */
const open = "evensteps-page";

/** On the first visit what is worked with comes first: the rest is fetched after so many milliseconds. */
const behind = 5_000;

/** A page that stays open looks for a new version so often, in milliseconds. */
const looks = 30 * 60_000;

/** Whether another tab has pages open: its files stay as they are until it is closed. */
const othersOpen = async () =>
  ((await navigator.locks.query()).held ?? []).filter((lock) => lock.name === open).length > 1;

/** A new version that has been fetched and waits, with those who want to know of it. */
let fresh: ServiceWorker | undefined;
const told = new Set<() => void>();

function cameNew(worker: ServiceWorker | null) {
  fresh = worker ?? undefined;
  told.forEach((tell) => tell());
}

/** Whether a new version waits on this device. */
export const useNewVersion = () =>
  useSyncExternalStore(
    (tell) => {
      told.add(tell);
      return () => void told.delete(tell);
    },
    () => fresh !== undefined,
  );

/** Begins with the new version; false where another tab still works with the old one. */
export async function beginNewVersion(): Promise<boolean> {
  if (!fresh || (await othersOpen())) return false;
  navigator.serviceWorker.addEventListener("controllerchange", () => window.location.reload(), {
    once: true,
  });
  fresh.postMessage({ type: "SKIP_WAITING" });
  return true;
}

/**
 * Keeps the pages, the core and the fonts on this device (web/vite.config.ts makes the
 * worker that does it), and asks the browser not to clear its store. A new version is
 * fetched behind the old one, which goes on; it begins with the next start of a page,
 * before anything is done on it and once no other tab is open, or when somebody begins it
 * between two jobs. Where the browser keeps
 * none (a private window), all else goes on.
 */
export function keepPages() {
  if (!("serviceWorker" in navigator)) return;
  const { serviceWorker } = navigator;
  void navigator.locks.request(open, { mode: "shared" }, () => new Promise(() => undefined));
  void navigator.storage.persist().catch(() => undefined);
  const soon = () =>
    setTimeout(() => void begin().catch(() => undefined), serviceWorker.controller ? 0 : behind);
  window.addEventListener("load", soon, { once: true });

  async function begin() {
    const pages = await serviceWorker.register("/sw.js");
    cameNew(pages.waiting);
    if (await beginNewVersion()) return;
    pages.addEventListener("updatefound", () => {
      const { installing } = pages;
      // The first of all is none that is new.
      installing?.addEventListener("statechange", () => {
        if (installing.state === "installed" && serviceWorker.controller) cameNew(installing);
      });
    });
    setInterval(() => void pages.update().catch(() => undefined), looks);
  }
}
