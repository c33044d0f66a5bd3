/**
 * The behaviour table: what is done to a knot, what it does then, what that rests on, and how to undo it. What the core computes stands
 * first; what an author tested or judged is beside it, and where it says the contrary, that is a finding.
 */
import type { Finding } from '../findings/finding.js';
import type { KnotDocument } from '../knot/document.js';
import { spillTest } from '../identity/classify.js';
import { finishedFigure } from '../tying/method.js';
import type { Judged, Does, Trial, Tried } from '../knot/judged.js';
import { TRIALS } from '../knot/judged.js';
import { traitsOf, type Evidence, type Known, type Traits } from './traits.js';

export interface BehaviourRow {
  readonly trial: Trial;
  readonly does: Does;
  readonly by: Evidence;
  readonly why: string;
  readonly undo?: string | undefined;
}

/** What follows from the drawing alone. */
function computedRows(knot: KnotDocument, traits: Traits): readonly BehaviourRow[] {
  const figure = finishedFigure(knot.method);
  const rows: BehaviourRow[] = [];
  const row = (trial: Trial, does: Does, why: string): void => {
    rows.push({ trial, does, by: 'computed', why });
  };
  const hosts = spillTest(figure);
  const stays = hosts.find((s) => !s.spills);
  const told = stays ?? hosts[0];
  if (told) row('take the object out', stays ? 'holds' : 'spills', told.text);
  if (traits.fixed?.value === false) {
    const away = traits.slipped?.value === true;
    if (away)
      row('pull on the tail', 'spills', 'The standing part’s strand is the knotted one: the tail draws the loop away.');
    else
      row(
        'pull on the standing part',
        'slides',
        'The tail’s strand is knotted round the standing part, which runs through: the loop closes.',
      );
  } else if (traits.slipped?.value === true)
    row('pull on the tail', 'spills', 'Its last tuck is a bight: one pull draws it out.');
  return rows;
}

/** What follows from what is judged for choosing. */
function judgedRows(traits: Traits): readonly BehaviourRow[] {
  const rows: BehaviourRow[] = [];
  const row = (trial: Trial, does: Does, known: Known<unknown>): void => {
    rows.push({ trial, does, by: known.by, why: known.why });
  };
  const { staysWhenShaken, comesUndone, unlikeRopes, loads } = traits;
  if (staysWhenShaken) row('shake it', staysWhenShaken.value ? 'holds' : 'slips', staysWhenShaken);
  if (comesUndone?.value === false) row('load and unload', 'jams', comesUndone);
  if (unlikeRopes) row('use unlike ropes', unlikeRopes.value ? 'holds' : 'slips', unlikeRopes);
  if (loads?.value.some((w) => w === 'across the rope' || w === 'three ways')) row('pull across', 'holds', loads);
  return rows;
}

/** The table of a knot: one row a trial, the computed one before a tested, a tested before a judged. */
export function behaviourOf(knot: KnotDocument, judged?: Judged): readonly BehaviourRow[] {
  const traits = traitsOf(knot, judged);
  const own = (knot.entry.behaviour ?? []).map((t: Tried): BehaviourRow => ({ ...t }));
  const order: readonly Evidence[] = ['computed', 'tested', 'judged'];
  const all = [...computedRows(knot, traits), ...own, ...judgedRows(traits)].sort(
    (a, b) => order.indexOf(a.by) - order.indexOf(b.by),
  );
  return TRIALS.flatMap((trial) => {
    const [first] = all.filter((r) => r.trial === trial);
    if (!first) return [];
    // How to undo it is an author's word, also where the outcome is computed.
    const undo = first.undo ?? own.find((r) => r.trial === trial)?.undo;
    return [undo === undefined ? first : { ...first, undo }];
  });
}

/** Rows of an author's table that the core finds otherwise. */
export function behaviourFindings(knot: KnotDocument): readonly Finding[] {
  const traits = traitsOf(knot, undefined);
  return computedRows(knot, traits).flatMap((c): Finding[] => {
    const said = (knot.entry.behaviour ?? []).find((t) => t.trial === c.trial && t.does !== c.does);
    return said
      ? [
          {
            code: 'behaviour-contradicts',
            severity: 'warning',
            title: `The table says that it ${said.does} when one does this: ${c.trial}`,
            why: `By its drawing it ${c.does}. ${c.why}`,
            remedy: 'Correct the row under Behaviour, or the drawing.',
          },
        ]
      : [];
  });
}
