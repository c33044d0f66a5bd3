/**
 * What is judged of the knots of the book for choosing one: common experience, in our own words, with the reason where it is not plain.
 */
import { unsuitableReason, type Computed } from './grade.js';
import { traitsOf, type Choosable, type Judged, type KnotDocument, type LoadWay } from '@foxtrail/core';
import { claimOf } from './claim.js';

const ALONG: readonly LoadWay[] = ['along the rope'];

/** A judgement in short: yes and no by letter. */
interface Short {
  readonly loads?: readonly LoadWay[];
  readonly unlike?: boolean;
  readonly loaded?: boolean;
  readonly hand?: boolean;
  readonly undone: boolean;
  readonly shaken: boolean;
  readonly webbing?: boolean;
  readonly why?: Judged['because'];
}
const judged = ({
  loads = ALONG,
  unlike,
  loaded = false,
  hand = false,
  undone,
  shaken,
  webbing = false,
  why,
}: Short): Judged => ({
  loads: [...loads],
  ...(unlike === undefined ? {} : { unlikeRopes: unlike }),
  underLoad: loaded,
  oneHand: hand,
  comesUndone: undone,
  staysWhenShaken: shaken,
  webbing,
  ...(why ? { because: why } : {}),
});

const GRIPS: readonly LoadWay[] = ['along the rope', 'on and off'];

export const JUDGED: Readonly<Record<string, Judged>> = {
  overhand: judged({
    undone: false,
    shaken: true,
    hand: true,
    webbing: true,
    why: { comesUndone: 'It draws down hard on itself.' },
  }),
  'double-overhand': judged({ undone: false, shaken: true }),
  'triple-overhand': judged({ undone: false, shaken: true }),
  noose: judged({ undone: true, shaken: false }),
  'noose-2': judged({ undone: false, shaken: true, why: { comesUndone: 'Its turns bed down after a hard pull.' } }),
  'noose-3': judged({ undone: false, shaken: true }),
  'slip-knot': judged({ undone: true, shaken: false, hand: true }),
  'water-knot': judged({
    undone: false,
    shaken: false,
    unlike: false,
    webbing: true,
    why: { staysWhenShaken: 'It creeps when the load comes and goes.', webbing: 'It lies flat in flat webbing.' },
  }),
  fishermans: judged({ undone: false, shaken: true, unlike: false }),
  'double-fishermans': judged({ undone: false, shaken: true, unlike: true }),
  'triple-fishermans': judged({
    undone: false,
    shaken: true,
    unlike: true,
    why: { comesUndone: 'Its turns bed down after a hard pull.' },
  }),
  'interlocked-overhands': judged({ undone: true, shaken: true, unlike: false }),
  'interlocked-overhands-mirrored': judged({ undone: true, shaken: true, unlike: false }),
  'half-hitch': judged({ undone: true, shaken: false, hand: true, loaded: true }),
  'clove-hitch-backed': judged({ undone: true, shaken: true, loaded: true }),
  'clove-hitch-carabiner': judged({
    undone: true,
    shaken: true,
    loaded: true,
    why: { underLoad: 'It is let out by feeding rope into it from either side.' },
  }),
  'cow-hitch-ring': judged({ undone: true, shaken: false }),
  'munter-hitch': judged({
    undone: true,
    shaken: false,
    loaded: true,
    why: { staysWhenShaken: 'It is held by the hand on its slack part.' },
  }),
  'slipped-reef': judged({
    undone: true,
    shaken: false,
    unlike: false,
    why: { unlikeRopes: 'It capsizes in unlike ropes.' },
  }),
  'becket-hitch': judged({ undone: true, shaken: false, unlike: true }),
  'sliding-stopper': judged({ undone: false, shaken: true, unlike: true, loads: [] }),
  'slipped-bowline': judged({ undone: true, shaken: false }),
  'quick-release-hitch': judged({
    undone: true,
    shaken: false,
    loaded: true,
    why: { underLoad: 'One pull at its tail draws the last bight out, whatever hangs on it.' },
  }),
  'falling-release-hitch': judged({
    undone: true,
    shaken: false,
    why: { staysWhenShaken: 'It is meant to fall open when it is slack.' },
  }),
  'slipped-sheet-bend': judged({ undone: true, shaken: false, unlike: true }),
  'triple-sheet-bend': judged({
    undone: true,
    shaken: true,
    unlike: true,
    why: { staysWhenShaken: 'Its further turns keep it.' },
  }),
  'bowline-backed': judged({
    undone: true,
    shaken: true,
    loads: ['along the rope', 'on and off'],
    why: { staysWhenShaken: 'The overhand of two turns keeps its tail.' },
  }),
  'bowline-led-back': judged({
    undone: true,
    shaken: true,
    loads: ['along the rope', 'on and off'],
    why: { staysWhenShaken: 'Its tail is held by the knot a second time.' },
  }),
  'bowline-two-loops': judged({ undone: true, shaken: true }),
  'offset-overhand-bend': judged({
    undone: false,
    shaken: true,
    unlike: false,
    why: { unlikeRopes: 'In unlike ropes it rolls the sooner.' },
  }),
  'three-lobed-stopper': judged({ undone: true, shaken: true }),
  'killick-hitch': judged({ undone: true, shaken: true }),
  'one-way-wrap': judged({ undone: true, shaken: true, unlike: true, loads: GRIPS }),
  'sling-hitch': judged({ undone: true, shaken: true, webbing: true, loads: ['along the rope', 'on and off'] }),
  'overhand-loop': judged({ undone: false, shaken: true, hand: true }),
  'eight-bend': judged({ undone: true, shaken: true, unlike: false }),
  'figure-eight': judged({ undone: true, shaken: true }),
  stevedore: judged({ undone: true, shaken: true }),
  'eight-on-the-bight': judged({ undone: true, shaken: true, loads: ['along the rope', 'on and off'] }),
  'followed-eight': judged({ undone: true, shaken: true, loads: ['along the rope', 'on and off'] }),
  reef: judged({ undone: true, shaken: false, unlike: false, why: { unlikeRopes: 'It capsizes in unlike ropes.' } }),
  'sheet-bend': judged({ undone: true, shaken: false, unlike: true }),
  'double-sheet-bend': judged({
    undone: true,
    shaken: true,
    unlike: true,
    why: { staysWhenShaken: 'The second turn keeps it.' },
  }),
  bowline: judged({
    undone: true,
    shaken: false,
    hand: true,
    why: { staysWhenShaken: 'It loosens when it is loaded and unloaded in turn.' },
  }),
  'bowline-outside': judged({ undone: true, shaken: false }),
  'double-nip-bowline': judged({
    undone: true,
    shaken: true,
    why: { staysWhenShaken: 'The second nipping turn keeps the first.' },
  }),
  'running-bowline': judged({ undone: true, shaken: false }),
  'bowline-on-the-bight': judged({
    loads: ['along the rope', 'on and off'],
    undone: true,
    shaken: true,
    why: { comesUndone: 'Its bight is pushed back over the loops, whatever load it held.' },
  }),
  'carrick-bend': judged({ undone: true, shaken: true, unlike: false }),
  'clove-hitch': judged({ undone: true, shaken: false, hand: true, loaded: true }),
  'cow-hitch': judged({ undone: true, shaken: false }),
  'two-half-hitches': judged({ undone: true, shaken: true }),
  'round-turn-two-half-hitches': judged({
    undone: true,
    shaken: true,
    loaded: true,
    why: { underLoad: 'The round turn takes the load while the hitches are tied.' },
  }),
  'anchor-hitch': judged({
    undone: true,
    shaken: true,
    loads: ['along the rope', 'on and off'],
    why: { staysWhenShaken: 'The second turn holds the end down.' },
  }),
  'cats-paw': judged({
    undone: true,
    shaken: true,
    webbing: true,
    why: { comesUndone: 'Off the hook its twists fall out.' },
  }),
  'rolling-hitch': judged({ undone: true, shaken: false, loaded: true, unlike: true, loads: GRIPS }),
  'taut-line-hitch': judged({ undone: true, shaken: false, loaded: true, loads: GRIPS }),
  'prusik-2': judged({ undone: true, shaken: false, unlike: true, loads: ['either way', 'on and off'] }),
  'prusik-4': judged({ undone: true, shaken: true, unlike: true, loads: ['either way', 'on and off'] }),
  prusik: judged({ undone: true, shaken: true, unlike: true, loads: ['either way', 'on and off'] }),
  'eight-two-loops': judged({ undone: true, shaken: true, loads: ['along the rope', 'on and off'] }),
  'directional-eight': judged({
    undone: true,
    shaken: true,
    loads: ['against its first end'],
    why: { loads: 'Loaded towards its other end it rolls over.' },
  }),
  'many-wrap-hitch': judged({ undone: true, shaken: false, unlike: true, loads: GRIPS }),
  'common-whipping': judged({
    undone: false,
    shaken: true,
    unlike: true,
    loads: [],
    why: { comesUndone: 'It is cut off, not untied.' },
  }),
  'flat-seizing': judged({
    undone: false,
    shaken: true,
    unlike: true,
    loads: [],
    why: { comesUndone: 'It is cut off, not untied.' },
  }),
  'timber-hitch': judged({ undone: true, shaken: false }),
  butterfly: judged({ undone: true, shaken: true, loads: ['along the rope', 'across the rope', 'three ways'] }),
};

/** What is judged of a knot: by its own entry, else by the book where it claims to be one of its patterns. */
export const judgedOf = (knot: KnotDocument): Judged | undefined =>
  knot.entry.judged ?? JUDGED[claimOf(knot)?.id ?? ''];

/** A knot as the chooser needs it. */
export function choosable(ref: string, knot: KnotDocument, computed: Computed = {}): Choosable {
  return {
    ref,
    traits: traitsOf(knot, judgedOf(knot)),
    notForPeople: unsuitableReason(knot, computed),
    ...(knot.entry.wrongWayOf === undefined
      ? {}
      : { notToUse: `It is a wrong way of the ${knot.entry.wrongWayOf}, shown to be known.` }),
  };
}
