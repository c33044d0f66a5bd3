/**
 * Which pieces of the stock are cut into which lengths: everything that is asked for, the least waste, then the fewest cuts, then the
 * fewest pieces cut into. The cutting stock problem in one dimension (Gilmore and Gomory, 1961) is searched whole where it is small, best fit
 * first; where it is not, the best that was found is answered, and said not to be proved. Lengths in millimetres.
 */

/** A length that is asked for. */
export interface Demand {
  readonly label: string;
  readonly mm: number;
}

/** A piece that can be cut. */
export interface Piece {
  readonly label: string;
  readonly mm: number;
}

export interface CutPiece {
  readonly piece: Piece;
  /** In the order in which they are cut, the longest first. */
  readonly lengths: readonly Demand[];
  readonly leftMm: number;
}

export interface CutList {
  readonly cut: readonly CutPiece[];
  /** What no piece is long enough for. */
  readonly missing: readonly Demand[];
  /** What is left of pieces cut into and is too short to keep. */
  readonly wasteMm: number;
  /** Strokes of the knife: a length that is just what is left needs none. */
  readonly cuts: number;
  /** Whether nothing better exists; else it is the best that was found. */
  readonly proved: boolean;
}

/** So many places in the search are looked at. */
const MOST_LOOKED_AT = 120_000;
/** Lengths that differ by less are the same. */
const SAME = 0.5;

/** What counts against a cut list, the weightiest first. */
type Cost = readonly [missing: number, waste: number, cuts: number, opened: number];
const better = (a: Cost, b: Cost): boolean => {
  for (let k = 0; k < a.length; k += 1) if (Math.abs(a[k]! - b[k]!) > SAME / 2) return a[k]! < b[k]!;
  return false;
};

/**
 * @param keepMm What is left of a piece and is at least so long goes back to the stock, and is no waste.
 */
export function cutList(demands: readonly Demand[], pieces: readonly Piece[], keepMm: number): CutList {
  const order = [...demands.keys()].sort((a, b) => demands[b]!.mm - demands[a]!.mm || a - b);
  const left = pieces.map((p) => p.mm);
  const counts = pieces.map(() => 0);
  const put = new Int32Array(demands.length).fill(-1);
  /** Of what is still to be placed, the shortest. */
  const shortest = (from: number): number => (from < order.length ? demands[order.at(-1)!]!.mm : Infinity);
  let best: { cost: Cost; put: Int32Array } | undefined;
  let looked = 0;

  /** What is certain already when `from` and what follows it is still to be placed: each can only grow. */
  const certain = (from: number, missing: number): Cost => {
    let [waste, cuts, opened] = [0, 0, 0];
    const least = shortest(from);
    for (const [i, n] of counts.entries()) {
      if (n === 0) continue;
      opened += 1;
      const l = left[i]!;
      cuts += l <= SAME ? n - 1 : n;
      // What is still longer than the shortest to come may be used up, and then one cut less is needed.
      if (l > SAME && l < keepMm && l + SAME < least) waste += l;
      if (l > SAME && l + SAME >= least) cuts -= 1;
    }
    return [missing, waste, cuts, opened];
  };

  const look = (from: number, missing: number): void => {
    looked += 1;
    if (best && (looked > MOST_LOOKED_AT || !better(certain(from, missing), best.cost))) return;
    if (from === order.length) {
      best = { cost: certain(from, missing), put: put.slice() };
      return;
    }
    const d = order[from]!;
    const mm = demands[d]!.mm;
    const before = from > 0 && demands[order[from - 1]!]!.mm === mm ? put[order[from - 1]!]! : undefined;
    // Best fit first. Lengths that are equal go to pieces in order, and of pieces that are alike one is tried: the rest is the same again.
    const alike = new Set<string>();
    const places = before === -1 ? [] : [...left.keys()].filter((i) => left[i]! + SAME >= mm && i >= (before ?? 0));
    const tried = places
      .sort((a, b) => left[a]! - left[b]! || a - b)
      .filter((i) => {
        const like = `${left[i]!.toFixed(1)} ${counts[i]! > 0}`;
        return !alike.has(like) && alike.add(like);
      });
    for (const i of tried) {
      left[i]! -= mm;
      counts[i]! += 1;
      put[d] = i;
      look(from + 1, missing);
      left[i]! += mm;
      counts[i]! -= 1;
      put[d] = -1;
      if (looked > MOST_LOOKED_AT) return;
    }
    if (tried.length === 0 || best === undefined || best.cost[0] > missing + mm - SAME) look(from + 1, missing + mm);
  };
  look(0, 0);
  return listOf(demands, pieces, best!.put, keepMm, looked <= MOST_LOOKED_AT);
}

function listOf(
  demands: readonly Demand[],
  pieces: readonly Piece[],
  put: Int32Array,
  keepMm: number,
  proved: boolean,
): CutList {
  const cut = pieces.flatMap((piece, i): CutPiece[] => {
    const lengths = demands.filter((_, d) => put[d] === i).sort((a, b) => b.mm - a.mm);
    if (lengths.length === 0) return [];
    const leftMm = Math.max(0, piece.mm - lengths.reduce((sum, l) => sum + l.mm, 0));
    return [{ piece, lengths, leftMm: leftMm <= SAME ? 0 : leftMm }];
  });
  return {
    cut,
    missing: demands.filter((_, d) => put[d] === -1),
    wasteMm: cut.reduce((sum, c) => sum + (c.leftMm < keepMm ? c.leftMm : 0), 0),
    cuts: cut.reduce((sum, c) => sum + c.lengths.length - (c.leftMm === 0 ? 1 : 0), 0),
    proved,
  };
}
