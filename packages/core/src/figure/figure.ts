/**
 * The figure: ropes, hosts and their weave, as an immutable document. It is scale-free: lengths are rope diameters.
 */
import type { OfCordage } from './cordage.js';
import type { Point } from './point.js';

/** `O`: this strand is over at that crossing; `U`: under. */
export type Letter = 'O' | 'U';

/** `standing` and `off` run to the board's edge and are held there; `tail` is free. */
export type End = 'standing' | 'tail' | 'off';

/** Turns laid as one: they can be counted, turned and spaced anew, and what was laid after them follows. */
export interface Wrap {
  /** First and last control point of the turns on the rope. */
  readonly from: number;
  readonly to: number;
  /** The strands it goes round, at the place where it begins; the first gives the direction. */
  readonly about: readonly TrailPosition[];
  /** Whole or half turns. */
  readonly turns: number;
  /** `on`: along the trail of the first strand it goes round; `back`: against it. */
  readonly direction: 'on' | 'back';
  /** How it first passes what it goes round. */
  readonly first: Letter;
  /** From one turn to the next, in diameters. */
  readonly spacing: number;
  /** Turns that go back slantwise over those that lie there. */
  readonly riding?: boolean | undefined;
  /** Turns of a bight: both its legs go round side by side, out to its apex and back. */
  readonly bight?: boolean | undefined;
}

/** A place at which a rope is drawn short: what is left out counts as so many of its diameters. */
export interface Break {
  readonly at: number;
  readonly counts: number;
}

export interface Rope extends OfCordage {
  readonly id: string;
  /** Control points from the standing part to the working end. */
  readonly points: readonly Point[];
  readonly curve: 'smooth' | 'straight';
  readonly closed: boolean;
  readonly ends: readonly [End, End];
  /** One letter per crossing met along the rope, in trail order. */
  readonly weave: string;
  /** Trail positions where a loop that is meant to stay is cut when the knot is identified. */
  readonly eyes?: readonly number[] | undefined;
  readonly wraps?: readonly Wrap[] | undefined;
  /** Ascending, on a standing part or a tail. */
  readonly breaks?: readonly Break[] | undefined;
  /** Which ends are cut off once the knot is set, as a whipping's are: no tail is asked of them. */
  readonly trimmed?: readonly [boolean, boolean] | undefined;
}

export type HostKind = 'spar' | 'post' | 'ring' | 'carabiner' | 'hook' | 'hand';

export interface Host {
  readonly id: string;
  readonly kind: HostKind;
  readonly points: readonly Point[];
  /** Thickness in rope diameters. */
  readonly size?: number | undefined;
}

export interface Figure {
  readonly ropes: readonly Rope[];
  readonly hosts: readonly Host[];
}

/** A place on a strand: control-point index + fraction of the way to the next. `strand` is a rope's or a host's id. */
export interface TrailPosition {
  readonly strand: string;
  readonly at: number;
}

/** A run of a trail, between two of its positions. */
export interface TrailSpan {
  readonly strand: string;
  readonly from: number;
  readonly to: number;
}

export const EMPTY_FIGURE: Figure = { ropes: [], hosts: [] };

/** Default thickness of a host, in rope diameters: a spar a hand can close round a few ropes thick. */
export const HOST_SIZE = 2.4;

export const ropeOf = (figure: Figure, id: string): Rope | undefined => figure.ropes.find((r) => r.id === id);
export const hostOf = (figure: Figure, id: string): Host | undefined => figure.hosts.find((h) => h.id === id);

/** The figure with some things of one of its ropes changed. */
export const withRope = (figure: Figure, id: string, change: Partial<Rope>): Figure => ({
  ...figure,
  ropes: figure.ropes.map((r) => (r.id === id ? { ...r, ...change } : r)),
});

/** Hosts that close on themselves. */
export const hostIsClosed = (host: Host): boolean => host.kind === 'ring' || host.kind === 'carabiner';

/** The largest trail position on a rope. */
export const lastAt = (strand: { readonly points: readonly Point[]; readonly closed?: boolean }): number =>
  strand.points.length - (strand.closed === true ? 0 : 1);

/** The first id of the form a, b, c … not used yet in the figure. */
export function freshId(figure: Figure, stem = ''): string {
  const used = new Set([...figure.ropes.map((r) => r.id), ...figure.hosts.map((h) => h.id)]);
  for (let n = 0; ; n += 1) {
    const id =
      stem === ''
        ? String.fromCharCode(97 + (n % 26)) + (n < 26 ? '' : String(Math.floor(n / 26)))
        : stem + String(n + 1);
    if (!used.has(id)) return id;
  }
}
