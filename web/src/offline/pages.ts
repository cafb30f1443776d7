// The pages on the device: the next start needs no server.

/** A page that is open holds this as long as it lives. */
const open = "evensteps-page";

/** On the first visit what is worked with comes first: the rest is fetched after so many milliseconds. */
const behind = 5_000;

/** Whether another tab has pages open: its files stay as they are until it is closed. */
const othersOpen = async () =>
  ((await navigator.locks.query()).held ?? []).filter((lock) => lock.name === open).length > 1;

/**
 * Keeps the pages, the core and the fonts on this device (web/vite.config.ts makes the
 * worker that does it), and asks the browser not to clear its store. A new version is
 * fetched behind the old one, which goes on; it begins with the next start of a page,
 * before anything is done on it and once no other tab is open. Where the browser keeps
 * none (a private window), all else goes on.
 */
export function keepPages() {
  if (!("serviceWorker" in navigator)) return;
  const { serviceWorker } = navigator;
  void navigator.locks.request(open, { mode: "shared" }, () => new Promise(() => undefined));
  void navigator.storage.persist().catch(() => undefined);
  window.addEventListener("load", () =>
    setTimeout(() => void begin().catch(() => undefined), serviceWorker.controller ? 0 : behind),
  );

  async function begin() {
    const { waiting } = await serviceWorker.register("/sw.js");
    if (!waiting || (await othersOpen())) return;
    serviceWorker.addEventListener("controllerchange", () => window.location.reload(), { once: true });
    waiting.postMessage({ type: "SKIP_WAITING" });
  }
}
