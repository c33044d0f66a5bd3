/**
 * How a drawing is painted: the colours of rope, host, ink and paper. Ropes differ by lightness and by texture, never by hue alone.
 */

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
  readonly host: string;
  readonly hostCore: string;
  readonly label: string;
  readonly labelText: string;
  /** The band under what a step lights. */
  readonly lit: string;
}

/** Thickness of the ink line round a rope, in diameters. */
export const OUTLINE = 0.11;
/** Length of a cross band and of the rope between two, in diameters. */
export const TICK: readonly [number, number] = [0.16, 0.74];

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
  label: '#2b353f',
  labelText: '#f4efe6',
  lit: '#8a7420',
};

/** Colours of one run. */
export function lookOf(
  look: Look,
  run: { readonly kind: 'rope' | 'host'; readonly index: number; readonly working: boolean },
): RopeLook {
  if (run.kind === 'host') return { body: look.host, core: look.hostCore, tick: 'none' };
  const own = look.ropes[run.index % look.ropes.length] as RopeLook;
  return run.working
    ? { body: look.working, core: look.workingCore, tick: own.tick === 'none' ? 'none' : look.ink }
    : own;
}
