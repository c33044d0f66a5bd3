/** The knot of a page, as the page shows it, and the keys by which knots of the book are told. */
import { KeyBook, leftHanded, methodsOf, readKnot, type Method, type NamedKeys } from '@foxtrail/core';
import { number } from './said.js';

async function fetched<T>(address: string): Promise<T> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`${address}: ${answer.status}`);
  return (await answer.json()) as T;
}

/** The method and the hand are those that the page says; undefined where it could not be fetched. */
export async function knotOn(
  { dataset }: HTMLElement,
  slug: string,
): Promise<{ readonly method: Method; readonly book: KeyBook } | undefined> {
  try {
    const [document, { keys }] = await Promise.all([
      fetched<unknown>(`/api/public/knots/${slug}/figure.json`),
      fetched<{ keys: NamedKeys[] }>('/api/public/patterns/keys.json'),
    ]);
    const read = readKnot(document);
    if (!read.ok) return undefined;
    const chosen = methodsOf(read.value)[number(dataset.method)]?.method ?? read.value.method;
    return { method: dataset.left === undefined ? chosen : leftHanded(chosen), book: new KeyBook(keys) };
  } catch {
    return undefined;
  }
}
