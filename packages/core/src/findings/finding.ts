/**
 * A finding: what is wrong or doubtful, where, why it matters, and what puts it right.
 */
import type { TailRule } from '../ropes/tail-rule.js';
import type { LayoutEdit } from '../tying/layout-edit.js';
import type { PullSide } from '../dressing/winding.js';
import type { Vocabulary } from '../words/vocabulary.js';

export type FindingCode =
  | 'not-the-claim'
  | 'eye-not-marked'
  | 'other-hand'
  | 'not-for-people'
  | 'against-house-rule'
  | 'behaviour-contradicts'
  | 'loaded-otherwise'
  | 'kin-refuted'
  | 'no-rope'
  | 'tail-short'
  | 'tail-inside'
  | 'standing-inside'
  | 'three-strands'
  | 'degenerate'
  | 'strands-touch'
  | 'gaps-meet'
  | 'mostly-hidden'
  | 'needless-crossing'
  | 'doubles-cross'
  | 'sharp-bend'
  | 'ropes-alike'
  | 'webbing-twisted'
  | 'riding-side'
  | 'step-passes-too-much'
  | 'step-without-text'
  | 'step-hides-crossing'
  | 'step-leaves-picture'
  | 'text-contradicts'
  | 'again-differs'
  | 'not-finished'
  | 'another-knot'
  | 'undecided'
  | 'methods-differ'
  | 'no-halt'
  | 'step-cuts-move'
  | 'rope-after-last-halt'
  | 'mark-lost'
  | 'exhibit-lost'
  | 'exhibit-differs'
  | 'footage-mirrored'
  | 'footage-differs'
  | 'footage-undecided';

export interface Finding {
  readonly code: FindingCode;
  /** An error keeps a learner from tying the knot rightly; a warning makes it harder. */
  readonly severity: 'error' | 'warning';
  readonly title: string;
  readonly why: string;
  readonly remedy: string;
  /** Where to point on board and trail. */
  readonly place?: { readonly strand: string; readonly at: number } | undefined;
  readonly crossings?: readonly number[] | undefined;
  /** Which layout place and crossings are of; absent: the one in which the knot is finished. */
  readonly layout?: number | undefined;
  readonly step?: number | undefined;
  /** Of a text that contradicts its picture: the crossings that would lie the other way, were it tied as it is told. */
  readonly told?: readonly number[] | undefined;
  /** What one press does about it, and to which layout. */
  readonly fix?: { readonly label: string; readonly layout: number; readonly edit: LayoutEdit } | undefined;
}

/** What a layout's own finding is in its method: its layout named, its fix meant for that layout. */
export type LayoutFinding = Omit<Finding, 'fix' | 'layout'> & {
  readonly fix?: { readonly label: string; readonly edit: LayoutEdit } | undefined;
};

/** What a house asks of a method. */
export interface HouseRules {
  readonly tail: TailRule;
  readonly cordMm: number;
  readonly words: Vocabulary;
  /** Where a tail with a keeper is measured from, by rope, when that is before the keeper. */
  readonly tailFrom?: ReadonlyMap<string, number> | undefined;
  /** The side to which the knot is pulled along its host, or along its own standing part, where the author declared one. */
  readonly pull?: PullSide | undefined;
}
