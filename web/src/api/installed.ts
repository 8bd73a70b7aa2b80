/**
 * The program on the device: its service worker keeps the shell, so that it opens without a link. A newer one is told
 * of, and taken when somebody says so.
 */
type Waiting = ServiceWorker | undefined;

let waiting: Waiting;
const listeners = new Set<() => void>();

export const newer = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  snapshot: () => waiting !== undefined,
  /** Loads the page anew with the newer program. */
  take: () => {
    navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), { once: true });
    waiting?.postMessage("newest");
  },
};

const told = (worker: Waiting) => {
  waiting = worker;
  listeners.forEach((l) => l());
};

/** How long after the first page the shell is fetched for later, ms: it does not share the link with that page. */
const after = 3000;
/** How often is looked for a newer program, ms. */
const lookEvery = 60 * 60_000;

/** Keeps the shell on the device from now on. Where the browser cannot, or may not, everything goes on with a link. */
export function install(open: (path: string) => void) {
  const workers = (navigator as { serviceWorker?: ServiceWorkerContainer }).serviceWorker;
  if (!workers) return;
  workers.addEventListener("message", (e: MessageEvent<{ open?: unknown }>) => {
    if (typeof e.data.open === "string") open(e.data.open);
  });
  setTimeout(() => {
    workers.register("/sw.js").then(
      (r) => {
        const look = (w: ServiceWorker | null) => w?.state === "installed" && workers.controller && told(w);
        look(r.waiting);
        r.addEventListener("updatefound", () => {
          const found = r.installing;
          found?.addEventListener("statechange", () => look(found));
        });
        setInterval(() => void r.update().catch(() => undefined), lookEvery);
      },
      () => undefined, // no certificate that the browser trusts, or no room
    );
  }, after);
}
