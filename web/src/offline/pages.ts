// The pages on the device: the next start needs no server.

/**
 * Keeps the pages, the core and the fonts on this device (web/vite.config.ts makes the
 * worker that does it). A new version is fetched behind the old one, which goes on; it
 * begins with the next start of the page, before anything is done on it. Where the
 * browser keeps none (a private window), all else goes on.
 */
export function keepPages() {
  if (!("serviceWorker" in navigator)) return;
  const { serviceWorker } = navigator;
  window.addEventListener("load", () => {
    serviceWorker.register("/sw.js").then(
      ({ waiting }) => {
        if (!waiting) return;
        serviceWorker.addEventListener("controllerchange", () => window.location.reload(), { once: true });
        waiting.postMessage({ type: "SKIP_WAITING" });
      },
      () => undefined,
    );
  });
}
