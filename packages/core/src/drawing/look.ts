/**
 * How a drawing is painted: the colours of rope, host, ink and paper. Ropes differ by lightness and by texture, never by hue alone.
 */

import { isFlat, type Cordage } from '../figure/cordage.js';
import type { HostKind } from '../figure/figure.js';
import type { Run } from './drawing.js';

export interface RopeLook {
  readonly body: string;
  readonly core: string;
  /** Cross bands along the rope; `none` for a plain one. */
  readonly tick: string;
}

export interface Look {
  readonly paper: string;
  readonly ink: string;
  readonly ropes: readonly RopeLook[];
  /** The band at a free end. */
  readonly band: string;
  readonly working: string;
  readonly workingCore: string;
  /** Spars and posts, and the hand; and what is of metal. */
  readonly host: string;
  readonly hostCore: string;
  readonly metal: string;
  readonly metalCore: string;
  readonly label: string;
  readonly labelText: string;
  /** The band under what a step lights. */
  readonly lit: string;
  /** Whether plain ropes have bands, by which they are seen to run. */
  readonly banded?: boolean | undefined;
}

/** Thickness of the ink line round a rope, in diameters. */
export const OUTLINE = 0.11;
/** Thickness of a fine line in ink, in diameters. */
export const FINE_LINE = 0.12;
/** Length of a cross band and of the rope between two, in diameters. */
export const TICK: readonly [number, number] = [0.16, 0.74];
/** The same of the bands by which a plain rope is seen to run: far enough apart that the eye keeps to one. */
const BAND: readonly [number, number] = [0.45, 3.55];

export const PAPER_LOOK: Look = {
  paper: '#f6efe3',
  ink: '#1f2a33',
  ropes: [
    { body: '#e6dcc6', core: '#f4edde', tick: 'none' },
    { body: '#5d6f80', core: '#71839a', tick: '#d9e0e6' },
    { body: '#a8b59a', core: '#bcc7b0', tick: '#46543a' },
    { body: '#8f7f8d', core: '#a493a2', tick: '#2e2630' },
  ],
  band: '#1f2a33',
  working: '#e0702a',
  workingCore: '#ee9a5f',
  host: '#cdb590',
  hostCore: '#d9c6a6',
  metal: '#9fb0bb',
  metalCore: '#c3ced5',
  label: '#fffdf8',
  labelText: '#1f2a33',
  lit: '#f0cf62',
};

export const DARK_LOOK: Look = {
  ...PAPER_LOOK,
  paper: '#1d242b',
  ink: '#0c1014',
  band: '#c3ccd4',
  ropes: [
    { body: '#d8ccb2', core: '#e8dfcb', tick: 'none' },
    { body: '#5f7890', core: '#7790a8', tick: '#e3e9ee' },
    { body: '#8fa37c', core: '#a2b491', tick: '#25301c' },
    { body: '#927f90', core: '#a996a7', tick: '#1c151d' },
  ],
  host: '#8a7553',
  hostCore: '#9c8765',
  metal: '#7f8f9b',
  metalCore: '#a3b1bb',
  label: '#2b353f',
  labelText: '#f4efe6',
  lit: '#8a7420',
};

const METAL: ReadonlySet<HostKind> = new Set(['ring', 'carabiner', 'hook']);

/** Colours of what a rope is tied to, by its kind. */
export const hostLook = (look: Look, kind: HostKind | undefined): RopeLook =>
  kind !== undefined && METAL.has(kind)
    ? { body: look.metal, core: look.metalCore, tick: 'none' }
    : { body: look.host, core: look.hostCore, tick: 'none' };

/** Colours of one run. */
function lookOf(look: Look, run: Run): RopeLook {
  if (run.kind === 'host') return hostLook(look, run.host);
  const own = look.ropes[run.index % look.ropes.length] as RopeLook;
  // A rope whose author has said how it looks has no bands but those of its own construction.
  const bare = run.cordage?.construction !== undefined || run.cordage?.colour !== undefined;
  if (run.working)
    return { body: look.working, core: look.workingCore, tick: bare || own.tick === 'none' ? 'none' : look.ink };
  const colour = run.second === true ? (run.cordage?.second ?? run.cordage?.colour) : run.cordage?.colour;
  const body = colour ?? own.body;
  if (!bare) return own;
  return {
    body: run.side === 'back' ? mixed(body, look.ink, BACK_SHADE) : body,
    core: mixed(body, '#ffffff', SHEEN),
    tick: 'none',
  };
}

/** How much lighter the middle of a round rope is, and how much darker the back of webbing is than its face. */
const SHEEN = 0.18;
const BACK_SHADE = 0.3;
/** Width of a tracer and of a fine line of a texture, in diameters of the rope. */
const TRACER = 0.17;
const FINE = 0.1;
/** Lightness, L* of CIELAB, below which a texture is drawn lighter than its rope and not darker. */
const DARK = 55;

/** One line of the brush. Lengths are in the figure's unit. */
export interface Stroke {
  readonly path: string;
  readonly colour: string;
  readonly width: number;
  readonly dash?: readonly number[] | undefined;
  readonly offset?: number | undefined;
}

/** The strokes that paint a run, in order: its ink, its body, what shows how it is made. Every painter follows them. */
export function strokesOf(look: Look, run: Run): Stroke[] {
  const { body, core, tick } = lookOf(look, run);
  const edge = Math.min(OUTLINE, run.width * 0.14);
  const fine = run.width - 2 * edge;
  const { cordage } = run;
  const flat = isFlat(cordage);
  const line = isDark(body, run) ? mixed(body, '#ffffff', 0.62) : mixed(body, look.ink, 0.6);
  const inner = (colour: string, width: number, more: Partial<Stroke> = {}): Stroke => ({
    path: run.inner,
    colour,
    width,
    ...more,
  });
  const strokes: Stroke[] = [{ path: run.path, colour: look.ink, width: run.width }, inner(body, fine)];
  if (!flat) strokes.push(inner(core, fine * 0.42));
  // The face of flat webbing has a stripe down its middle; its back has fine bars across.
  if (flat && run.side === 'face')
    strokes.push(inner(run.working ? look.workingCore : (cordage?.second ?? core), fine * 0.3));
  if (flat && run.side === 'back') strokes.push(inner(line, fine * 0.5, { dash: [0.07, 0.33], offset: run.start }));
  if (tick !== 'none') strokes.push(inner(tick, fine, { dash: TICK, offset: run.start }));
  if (look.banded === true && run.kind === 'rope' && tick === 'none' && !flat && run.texture === undefined)
    strokes.push(inner(line, fine, { dash: BAND, offset: run.start }));
  if (run.texture !== undefined)
    strokes.push({ path: run.texture, colour: line, width: FINE * Math.min(1, run.width) });
  if (cordage?.mark === 'tracer' && !flat)
    strokes.push(
      inner(cordage.second ?? line, TRACER * run.width, {
        dash: [1.1 * run.width, 0.5 * run.width],
        offset: run.start,
      }),
    );
  // A page names its colours: what is shaded there is shaded by nothing.
  if (isHex(look.ink))
    for (const path of run.shadows ?? []) strokes.push(inner(`${look.ink}${SHADOW}`, fine, { path }));
  return strokes;
}

/** How dark one part of a shadow is, of 255. */
const SHADOW = '2a';

/** Whether a texture must be lighter than its rope. A page names the colours of its looks; then they are told by the rope's place. */
const isDark = (body: string, run: Run): boolean =>
  lightness(isHex(body) ? body : run.working ? PAPER_LOOK.working : bodyOf(PAPER_LOOK, run.index, undefined)) < DARK;

const isHex = (colour: string): boolean => colour.startsWith('#');

const channels = (hex: string): [number, number, number] => {
  const n = Number.parseInt(hex.slice(1), 16);
  return [n >> 16, (n >> 8) & 255, n & 255];
};

/** A colour between two, as `#rrggbb`; `share` of the second. Of colours that a page names, an expression that it computes. */
export function mixed(a: string, b: string, share: number): string {
  if (!isHex(a) || !isHex(b)) return `color-mix(in srgb, ${a}, ${b} ${Math.round(100 * share)}%)`;
  const [p, q] = [channels(a), channels(b)];
  return `#${p
    .map((v, i) =>
      Math.round(v + ((q[i] as number) - v) * share)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** Lightness of a colour as the eye and a black-and-white print take it: L* of CIELAB, 0 to 100. Source: CIE 15. */
export function lightness(hex: string): number {
  const [r, g, b] = channels(hex).map((v) => {
    const c = v / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return y <= 216 / 24389 ? (24389 / 27) * y : 116 * Math.cbrt(y) - 16;
}

/** The colour that most of a rope has: its own, or what ropes of its place look like. */
export const bodyOf = (look: Look, index: number, cordage: Cordage | undefined): string =>
  cordage?.colour ?? (look.ropes[index % look.ropes.length] as RopeLook).body;
