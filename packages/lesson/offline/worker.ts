/**
 * Answers for the public pages where there is no network: with what was kept on this device when somebody asked for it (see `keep-offline`). Where
 * there is one, what is there now is shown, and what was kept is kept anew.
 */
import { OFFLINE, withoutPlace, withoutView } from '../browser/offline-names.js';

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

/** A part of what is kept, as a player asks for a film (RFC 9110, 14.2); the whole where it asks for what is no part. */
async function partOf(whole: Response, range: string): Promise<Response> {
  const asked = /^bytes=(\d+)-(\d*)$/.exec(range);
  const film = await whole.blob();
  const from = Number(asked?.[1] ?? 0);
  const to = Math.min(film.size - 1, asked?.[2] ? Number(asked[2]) : film.size - 1);
  if (!asked || from > to)
    return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${film.size}` } });
  return new Response(film.slice(from, to + 1, film.type), {
    status: 206,
    headers: {
      'Content-Range': `bytes ${from}-${to}/${film.size}`,
      'Content-Length': String(to + 1 - from),
      'Content-Type': whole.headers.get('Content-Type') ?? film.type,
      'Accept-Ranges': 'bytes',
    },
  });
}

/** A part of a film: from the network, else of what was kept. */
async function played(request: Request, range: string): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const own = await caches.match(withoutPlace(request.url), KEPT_AS);
    if (!own) throw error;
    return partOf(own, range);
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== self.location.origin) return;
  if (!/^\/(?:learn|media\/|favicon|api\/public\/)/.test(pathname)) return;
  const range = request.headers.get('Range');
  event.respondWith(range === null ? answered(request) : played(request, range));
});
