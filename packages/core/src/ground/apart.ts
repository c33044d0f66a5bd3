/**
 * Places on a line set apart.
 */

/**
 * Moves places by as little as sets each a given room from the one before it, in the sense of least squares; their order is kept. Places
 * must be ascending. Source: isotonic regression by pooling adjacent violators, R. E. Barlow et al., Statistical Inference under Order
 * Restrictions (1972).
 */
export function setApart(places: readonly number[], room: number): number[] {
  const blocks: { sum: number; count: number }[] = [];
  places.forEach((place, i) => {
    let block = { sum: place - room * i, count: 1 };
    for (
      let before = blocks.at(-1);
      before && before.sum * block.count >= block.sum * before.count;
      before = blocks.at(-1)
    ) {
      block = { sum: before.sum + block.sum, count: before.count + block.count };
      blocks.pop();
    }
    blocks.push(block);
  });
  return blocks
    .flatMap(({ sum, count }) => Array.from({ length: count }, () => sum / count))
    .map((v, i) => v + room * i);
}

/** The same within two bounds: what would lie beyond one is moved back with all that stands against it. */
export function setApartWithin(
  places: readonly number[],
  room: number,
  [low, high]: readonly [number, number],
): number[] {
  const out = setApart(places, room);
  for (let i = 0; i < out.length; i += 1) out[i] = Math.max(out[i] as number, low + room * i);
  for (let i = out.length - 1; i >= 0; i -= 1) out[i] = Math.min(out[i] as number, high - room * (out.length - 1 - i));
  return out;
}
