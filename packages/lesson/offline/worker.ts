/**
 * Answers for the public pages where there is no network: with what was kept on this device when somebody asked for it (see `keep-offline`). Where
 * there is one, what is there now is shown, and what was kept is kept anew.
 */
import { OFFLINE, withoutView } from '../browser/offline-names.js';

declare const self: ServiceWorkerGlobalScope;
/** The pages' own scripts, styles and fonts, as JSON; the build knows them. */
declare const KEPT_FILES: string;
const FILES = JSON.parse(KEPT_FILES) as string[];

/** How what is kept is looked for; asked for so, no store is made where there is none. */
const KEPT_AS: MultiCacheQueryOptions = { cacheName: OFFLINE, ignoreVary: true };
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
  return (
    (await caches.match(request, KEPT_AS)) ??
    (await caches.match(withoutView(request.url), KEPT_AS)) ??
    caches.match(request, { ...KEPT_AS, ignoreSearch: true })
  );
}

async function answered(request: Request): Promise<Response> {
  const own = await kept(request);
  const fresh = fetch(request).then(async (response) => {
    // Only what somebody had kept is kept.
    const isKept = own && response.status === 200 && (await caches.match(request, KEPT_AS));
    // Looked at before the store is opened: one that was removed meanwhile is not made anew.
    if (isKept) await (await caches.open(OFFLINE)).put(request, response.clone());
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
