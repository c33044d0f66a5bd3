/**
 * Keeps lessons on this device, so that they open where there is no network: by the water, under a tree. Only where somebody asks for it. Films
 * are not kept: they are large.
 */
import { OFFLINE, withoutView } from './offline-names.js';
import { element } from './said.js';

/** Fetched at once. */
const AT_ONCE = 4;
const PICTURES = 'img[src], link[rel="icon"]';

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

/** Offers to keep what the addresses lead to, with the page itself. */
export function offerOffline(place: HTMLElement, addresses: readonly string[]): void {
  if (!('serviceWorker' in navigator) || !('caches' in globalThis)) return;
  const here = withoutView(location.href);
  const all = [here, ...addresses.map((a) => withoutView(new URL(a, location.href).href))];
  const button = element('button', 'Keep it on this device', 'keep');
  button.type = 'button';
  const said = element('span', '', 'soft');
  said.setAttribute('role', 'status');
  place.hidden = false;
  place.replaceChildren(button, said);

  const isKept = async (): Promise<boolean> => (await caches.match(here, { cacheName: OFFLINE })) !== undefined;
  const show = async (): Promise<void> => {
    const kept = await isKept();
    button.textContent = kept ? 'Remove it from this device' : 'Keep it on this device';
    said.textContent = kept ? 'It opens without a network, films apart.' : '';
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
    await Promise.all(all.map((a) => cache.delete(a)));
    const left = (await cache.keys()).some(({ url }) => /^\/learn\/(?:courses\/)?[^/.]+$/.test(new URL(url).pathname));
    if (left) return;
    // Nothing is kept any more: neither its pictures, nor who answers for it.
    await caches.delete(OFFLINE);
    await (await navigator.serviceWorker.getRegistration('/learn'))?.unregister();
  };
  button.addEventListener('click', () => {
    button.disabled = true;
    void isKept()
      .then((kept) => (kept ? remove() : keep()))
      .then(show)
      .catch(() => {
        said.textContent = 'It could not be kept: the network is gone, or this browser keeps nothing. Try again.';
      })
      .finally(() => {
        button.disabled = false;
      });
  });
  void show();
}
