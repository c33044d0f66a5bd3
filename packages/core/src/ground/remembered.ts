/**
 * What was worked out of a thing that does not change is worked out once, and forgotten with the thing.
 */
export function remembered<K extends object, V>(work: (thing: K) => V): (thing: K) => V {
  const known = new WeakMap<K, { readonly value: V }>();
  return (thing) => {
    let found = known.get(thing);
    if (!found) known.set(thing, (found = { value: work(thing) }));
    return found.value;
  };
}

/** The same for what is worked out of a thing and a word. */
export function rememberedBy<K extends object, W extends string, V>(
  work: (thing: K, word: W) => V,
): (thing: K, word: W) => V {
  const known = remembered<K, Map<W, V>>(() => new Map());
  return (thing, word) => {
    const own = known(thing);
    if (!own.has(word)) own.set(word, work(thing, word));
    return own.get(word) as V;
  };
}
