/**
 * Keeps lessons on this device, so that they open where there is no network: by the water, under a tree. Only where somebody asks for it. Films
 * are large, and kept when that is asked for as well.
 */
import { OFFLINE, withoutPlace, withoutView } from './offline-names.js';
import { element } from './said.js';

/** Fetched at once. */
const AT_ONCE = 4;
const PICTURES = 'img[src], link[rel="icon"]';
/** The path of a lesson or a course. */
const PAGE = /^\/learn\/(?:courses\/)?[^/.]+$/;

/** Fetches what is kept; undefined where there is none. What could not be had for another reason is thrown: half a lesson is not kept. */
async function had(address: string): Promise<Response | undefined> {
  const answer = await fetch(address);
  if (answer.ok) return answer;
  if (answer.status === 404) return undefined;
  throw new Error(`${address}: ${answer.status}`);
}

/** Keeps an address; a page with its pictures, and with the pages on which its knot is practised. */
async function keepPage(cache: Cache, address: string): Promise<void> {
  const answer = await had(address);
  if (!answer) return;
  const text = await answer.clone().text();
  await cache.put(address, answer);
  const page = new DOMParser().parseFromString(text, 'text/html');
  const beside = new Set<string>();
  for (const e of page.querySelectorAll(PICTURES)) {
    const to = e.getAttribute('src') ?? e.getAttribute('href');
    if (to !== null) beside.add(to);
  }
  for (const image of page.querySelectorAll('image')) beside.add(image.getAttribute('href') ?? '');
  for (const link of page.querySelectorAll('.practise a')) beside.add(link.getAttribute('href') ?? '');
  const practised = [...beside].some((to) => /\/(?:lay|yours)\?/.test(to));
  const slug = /^\/learn\/([^/?]+)/.exec(new URL(address).pathname)?.[1];
  if (practised && slug !== undefined) {
    beside.add(`/api/public/knots/${slug}/figure.json`);
    beside.add('/api/public/patterns/keys.json');
  }
  const wanted = [...beside].filter((to) => to !== '').map((to) => new URL(to, address).href);
  for (let i = 0; i < wanted.length; i += AT_ONCE)
    await Promise.all(
      wanted.slice(i, i + AT_ONCE).map(async (to) => {
        const got = await had(to);
        if (!got) return;
        await cache.put(withoutView(to), got.clone());
        await cache.put(to, got);
      }),
    );
}

/** What belongs to a film of a page, without the place at which it begins to play. */
const FILMS = 'video[src], video[poster], track[src]';

/** The films of pages that are kept, with their posters, captions and chapters, each once. */
async function filmsOn(pages: readonly string[]): Promise<Set<string>> {
  const found = new Set<string>();
  for (const address of pages) {
    const kept = await caches.match(address, { cacheName: OFFLINE });
    const page = new DOMParser().parseFromString((await kept?.text()) ?? '', 'text/html');
    for (const e of page.querySelectorAll(FILMS))
      for (const to of [e.getAttribute('src'), e.getAttribute('poster')])
        if (to !== null) found.add(withoutPlace(new URL(to, address).href));
  }
  return found;
}

/** Those that are not kept yet. */
async function lacking(films: ReadonlySet<string>): Promise<string[]> {
  const known = await Promise.all([...films].map((to) => caches.match(to, { cacheName: OFFLINE })));
  return [...films].filter((_, i) => known[i] === undefined);
}

/** How much there is to fetch, in bytes; what does not say how long it is counts as nothing. */
async function bytesOf(addresses: readonly string[]): Promise<number> {
  const sizes = await Promise.all(
    addresses.map(async (to) => Number((await fetch(to, { method: 'HEAD' })).headers.get('Content-Length') ?? 0)),
  );
  return sizes.reduce((sum, n) => sum + n, 0);
}

const sayBytes = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** Offers to keep what the addresses lead to, with the page itself. */
export function offerOffline(place: HTMLElement, addresses: readonly string[]): void {
  if (!('serviceWorker' in navigator) || !('caches' in globalThis)) return;
  const here = withoutView(location.href);
  const all = [here, ...addresses.map((a) => withoutView(new URL(a, location.href).href))];
  const button = element('button', 'Keep it on this device', 'keep');
  button.type = 'button';
  const said = element('span', '', 'soft');
  said.setAttribute('role', 'status');
  const films = element('button', '', 'keep');
  films.type = 'button';
  place.hidden = false;
  place.replaceChildren(button, films, said);

  const isKept = async (): Promise<boolean> => (await caches.match(here, { cacheName: OFFLINE })) !== undefined;
  const show = async (): Promise<void> => {
    const kept = await isKept();
    const filmed = kept ? await filmsOn(all) : new Set<string>();
    const away = await lacking(filmed);
    button.textContent = kept ? 'Remove it from this device' : 'Keep it on this device';
    films.hidden = away.length === 0;
    films.textContent = 'Keep its films too';
    const apart = away.length > 0 ? ', films apart' : filmed.size > 0 ? ', films and all' : '';
    said.textContent = kept ? `It opens without a network${apart}.` : '';
    // How large they are is said as soon as it is known; without a network it is not.
    if (away.length > 0)
      void bytesOf(away).then(
        (bytes) => {
          if (bytes > 0) films.textContent = `Keep its films too (${sayBytes(bytes)})`;
        },
        () => undefined,
      );
  };
  const keepFilms = async (): Promise<void> => {
    const away = await lacking(await filmsOn(all));
    const cache = await caches.open(OFFLINE);
    for (const [i, to] of away.entries()) {
      said.textContent = `Keeping ${i + 1} of ${away.length} …`;
      const got = await had(to);
      if (got) await cache.put(to, got);
    }
  };
  const keep = async (): Promise<void> => {
    await navigator.serviceWorker.register('/learn-offline.js', { scope: '/learn' });
    await navigator.serviceWorker.ready;
    const cache = await caches.open(OFFLINE);
    for (const i of all.keys()) {
      said.textContent = `Keeping ${i + 1} of ${all.length} …`;
      // The page itself last: what is begun and not ended is not taken for kept.
      await keepPage(cache, all[(i + 1) % all.length]!);
    }
  };
  const remove = async (): Promise<void> => {
    const cache = await caches.open(OFFLINE);
    const own = await filmsOn(all);
    await Promise.all(all.map((a) => cache.delete(a)));
    const pages = (await cache.keys()).map(({ url }) => url).filter((url) => PAGE.test(new URL(url).pathname));
    // A film that another page has which is kept stays with that.
    const others = await filmsOn(pages);
    await Promise.all([...own].filter((film) => !others.has(film)).map((film) => cache.delete(film)));
    if (pages.length > 0) return;
    // Nothing is kept any more: neither its pictures, nor who answers for it.
    await caches.delete(OFFLINE);
    await (await navigator.serviceWorker.getRegistration('/learn'))?.unregister();
  };
  const does = (what: () => Promise<void>, otherwise: string): void => {
    button.disabled = films.disabled = true;
    void what()
      .then(show)
      .catch(() => {
        said.textContent = otherwise;
      })
      .finally(() => {
        button.disabled = films.disabled = false;
      });
  };
  button.addEventListener('click', () =>
    does(
      async () => ((await isKept()) ? remove() : keep()),
      'It could not be kept: the network is gone, or this browser keeps nothing. Try again.',
    ),
  );
  films.addEventListener('click', () =>
    does(
      keepFilms,
      'Not every film could be kept: the network is gone, or there is no room for it. What came stays; try again.',
    ),
  );
  void show();
}
