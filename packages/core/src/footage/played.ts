/**
 * A stretch of a film as it is played: its passages at their speeds, and standing still where its author lets it.
 */
import { passageAt, type OnFilm } from './on-film.js';

/** A piece of what is played, in seconds: from when to when it is shown, and of the film; one that stands still has one time of it. */
export interface PlayedPiece {
  readonly start: number;
  readonly end: number;
  readonly from: number;
  readonly to: number;
}

/** The pieces of a film from one time of it to another, in order, without gaps; the first is shown from 0 on. */
export function playedPieces(film: OnFilm, from: number, to: number): readonly PlayedPiece[] {
  const inside = (film.passages ?? []).filter((p) => p.to > from && p.from < to);
  const edges = [from, to, ...inside.flatMap((p) => [p.from, p.to])].filter((t) => t >= from && t <= to);
  const times = [...new Set(edges)].sort((a, b) => a - b);
  const pieces: PlayedPiece[] = [];
  let now = 0;
  const show = (seconds: number, a: number, b: number): void => {
    if (seconds <= 0) return;
    pieces.push({ start: now, end: now + seconds, from: a, to: b });
    now += seconds;
  };
  times.slice(0, -1).forEach((a, i) => {
    const b = times[i + 1] ?? a;
    const passage = passageAt(film, (a + b) / 2);
    // It stands still where it begins; a stretch that begins within it does not.
    if (passage && Math.abs(passage.from - a) < 1e-6) show(passage.still ?? 0, a, a);
    const rounds = passage?.again === true ? 2 : 1;
    for (let k = 0; k < rounds; k += 1) show((b - a) / (passage?.speed ?? 1), a, b);
  });
  return pieces;
}

/** How long a stretch of a film is shown, in seconds. */
export const playedFor = (film: OnFilm, from: number, to: number): number =>
  playedPieces(film, from, to).at(-1)?.end ?? 0;

/** The time of the film that is shown so many seconds after its first; before and after, its first and last. */
export function playedAt(pieces: readonly PlayedPiece[], seconds: number): number {
  const piece = pieces.find((p) => seconds < p.end) ?? pieces.at(-1);
  if (!piece) return 0;
  const share = Math.min(1, Math.max(0, (seconds - piece.start) / (piece.end - piece.start)));
  return piece.from + share * (piece.to - piece.from);
}

/** How long after the first a time of the film is first shown, in seconds; what lies before or after the pieces, at their beginning or end. */
export function shownAt(pieces: readonly PlayedPiece[], time: number): number {
  const piece = pieces.find((p) => time <= p.to);
  if (!piece) return pieces.at(-1)?.end ?? 0;
  const share = piece.to > piece.from ? Math.min(1, Math.max(0, (time - piece.from) / (piece.to - piece.from))) : 0;
  return piece.start + share * (piece.end - piece.start);
}
