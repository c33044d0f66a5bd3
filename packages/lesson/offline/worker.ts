/**
 * Answers for the public pages where there is no network: with what was kept on this device when somebody asked for it (see `keep-offline`). Where
 * there is one, what is there now is shown, and what was kept is kept anew.
 */
import { OFFLINE, withoutView } from '../browser/offline-names.js';

declare const self: ServiceWorkerGlobalScope;
/** The pages' own scripts, styles and fonts, as JSON; the build knows them. */
declare const KEPT_FILES: string;
const FILES = JSON.parse(KEPT_FILES) as string[];

/** How long an answer is waited for before what is kept is shown, in milliseconds. */
const PATIENCE = 4000;

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(OFFLINE)
      .then((cache) => cache.addAll(FILES))
      .then(() => self.skipWaiting()),
  );
});
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

/** What is kept of an address: as it was asked for, else the same page in the view that was kept. */
async function kept(request: Request): Promise<Response | undefined> {
  // Matched so, no store is made where there is none.
  const from = { cacheName: OFFLINE, ignoreVary: true };
  return (
    (await caches.match(request, from)) ??
    (await caches.match(withoutView(request.url), from)) ??
    caches.match(request, { ...from, ignoreSearch: true })
  );
}

async function answered(request: Request): Promise<Response> {
  const own = await kept(request);
  const fresh = fetch(request).then(async (response) => {
    // Only what somebody had kept is kept.
    if (own && response.ok && response.status === 200) {
      const cache = await caches.open(OFFLINE);
      if (await cache.match(request, { ignoreVary: true })) await cache.put(request, response.clone());
    }
    return response;
  });
  if (!own) return fresh;
  const late = new Promise<Response>((done) => setTimeout(() => done(own), PATIENCE));
  return Promise.race([fresh.catch(() => own), late]);
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  // Films are played in parts, and are not kept.
  if (request.method !== 'GET' || origin !== self.location.origin || request.headers.has('Range')) return;
  if (/^\/(?:learn|media\/|favicon|api\/public\/)/.test(pathname)) event.respondWith(answered(request));
});
