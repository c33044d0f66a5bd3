/**
 * A knot against the way it is loaded: what a lesson loads otherwise than the knot is judged for is said, before somebody hangs on it.
 */
import { takesLoad, type Finding, type KnotDocument, type LoadWay } from '@foxtrail/core';
import { judgedOf } from './uses.js';

const INSTEAD: Readonly<Record<LoadWay, string>> = {
  'along the rope': 'a knot that is loaded along the rope',
  'across the rope': 'a loop in mid-rope that may be loaded across',
  'three ways': 'a loop in mid-rope that may be loaded three ways',
  'either way': 'a hitch that grips either way',
  'against its first end': 'a loop that takes a load from that side: the one laid from the other end',
  'against its last end': 'a loop that takes a load from that side: the one laid from the other end',
  'on and off': 'one that stays tied when the load comes and goes',
};

/** What is said of each way in which its lesson loads a knot that is judged for others alone. */
export function loadedFindings(knot: KnotDocument): readonly Finding[] {
  const { loaded, wrongWayOf } = knot.entry;
  const judged = judgedOf(knot);
  // What is shown to be known as wrong is not taught to be loaded.
  if (!loaded || !judged?.loads || wrongWayOf !== undefined) return [];
  const taken = judged.loads;
  return loaded
    .filter((way) => !takesLoad(taken, way))
    .map((way): Finding => {
      const because = judged.because?.loads;
      return {
        code: 'loaded-otherwise',
        severity: knot.entry.useGrade === 'light duty' ? 'warning' : 'error',
        title: `It is loaded ${way}, and is not judged for that`,
        why: `It is judged to take a load ${taken.length === 0 ? 'no way' : taken.join(', or ')}.${because ? ` ${because}` : ''} Loaded otherwise it may slip, roll or come undone.`,
        remedy: `Choose ${INSTEAD[way]}, load it another way, or judge it under Kin with your reason.`,
      };
    });
}
