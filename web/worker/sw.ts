/**
 * The service worker: the program's shell opens from the device where no link is, and reminders are shown. A page that
 * is loaded with a link comes from the program, so that nobody works in an old one.
 */
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

const shell = "/index.html";
/** How long the program is waited for before the shell on the device is shown, ms. */
const patience = 1500;

precacheAndRoute(self.__WB_MANIFEST, { directoryIndex: "", cleanURLs: false }); // pages are routed below
cleanupOutdatedCaches();

registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      const kept = () => matchPrecache(shell).then((page) => page ?? Response.error());
      try {
        const answer = await fetch(request, { signal: AbortSignal.timeout(patience) });
        return answer.status >= 500 ? await kept() : answer;
      } catch {
        return await kept();
      }
    },
    { denylist: [/^\/api\//] },
  ),
);

/** Pictures of jobs lie under their addresses, which never change what they show. */
const photos = "hevrin.photos";
/** How many are kept; the oldest go first. */
const mostPhotos = 400;

registerRoute(
  ({ url }) => url.pathname.startsWith("/api/v1/photos/"),
  async ({ request }) => {
    const cache = await caches.open(photos);
    const kept = await cache.match(request.url);
    if (kept) return kept;
    const answer = await fetch(request);
    if (answer.ok) {
      await cache.put(request.url, answer.clone()).catch(() => undefined); // full: it is only not kept
      const all = await cache.keys();
      for (const old of all.slice(0, Math.max(0, all.length - mostPhotos))) await cache.delete(old);
    }
    return answer;
  },
);

// a newer one waits until nobody works in the old one, or until somebody asks for it
self.addEventListener("message", (e: ExtendableMessageEvent) => {
  if (e.data === "newest") void self.skipWaiting();
});

interface Message {
  title: string;
  body: string;
  path: string;
  tag: string;
}

self.addEventListener("push", (e: PushEvent) => {
  const m = e.data?.json() as Message | undefined;
  if (!m) return;
  e.waitUntil(
    self.registration.showNotification(m.title, {
      body: m.body,
      tag: m.tag,
      icon: "/icon-192.png",
      data: m.path,
    }),
  );
});

self.addEventListener("notificationclick", (e: NotificationEvent) => {
  e.notification.close();
  const path = String(e.notification.data);
  e.waitUntil(
    (async () => {
      const [open] = await self.clients.matchAll({ type: "window", includeUncontrolled: true });
      if (!open) return void (await self.clients.openWindow(path));
      await open.focus();
      open.postMessage({ open: path }); // without loading the page anew: what is typed there stays
    })(),
  );
});
