import { behaviourOf, chooseAmong, type Wishes } from '@foxtrail/core';
import { choosable, JUDGED, judgedOf, patternOf, patterns } from '../src/index.js';

const all = patterns().map(({ id, knot }) => choosable(id, knot));
const best = (wishes: Wishes): readonly string[] => {
  const answers = chooseAmong(all, wishes).filter((a) => a.ruledOut === undefined && a.contra.length === 0);
  return answers.filter((a) => a.unknown.length === 0).map((a) => a.ref);
};

describe('Choosing from the pattern book', () => {
  it('knows every pattern that is no wrong way', () => {
    for (const { id, wrongWayOf } of patterns()) if (!wrongWayOf) expect(JUDGED[id]).withContext(id).toBeDefined();
    for (const id of Object.keys(JUDGED)) expect(patternOf(id)).withContext(id).toBeDefined();
  });

  it('finds the loop in mid-rope that is loaded three ways and comes undone', () => {
    expect(best({ holds: 'a loop in itself', place: 'in the middle', load: 'three ways', comesUndone: true })).toEqual([
      'butterfly',
    ]);
  });

  it('joins unlike ropes so that they stay when shaken and come undone', () => {
    expect(best({ holds: 'another rope', unlikeRopes: true, staysWhenShaken: true, comesUndone: true })).toEqual([
      'double-sheet-bend',
      'triple-sheet-bend',
    ]);
    expect(best({ holds: 'another rope', webbing: true })).toEqual(['water-knot']);
  });

  it('rules out for people what a rule rules out, and wrong ways always', () => {
    const people = chooseAmong(all, { grade: 'people depend on it' });
    const out = people.filter((a) => a.ruledOut).map((a) => a.ref);
    for (const id of ['reef', 'cow-hitch', 'noose', 'slip-knot', 'granny']) expect(out).toContain(id);
    for (const id of ['followed-eight', 'butterfly', 'double-fishermans']) expect(out).not.toContain(id);
    expect(
      chooseAmong(all, {})
        .filter((a) => a.ruledOut)
        .map((a) => a.ref),
    ).toContain('false-bowline');
  });

  it('tells what each does when it is tried: the noose runs, the slip knot comes away, the hitch spills', () => {
    const does = (id: string, trial: string): string | undefined => {
      const { knot } = patternOf(id)!;
      return behaviourOf(knot, judgedOf(knot)).find((r) => r.trial === trial)?.does;
    };
    expect(does('noose', 'pull on the standing part')).toBe('slides');
    expect(does('slip-knot', 'pull on the tail')).toBe('spills');
    expect(does('clove-hitch', 'take the object out')).toBe('spills');
    expect(does('two-half-hitches', 'take the object out')).toBe('holds');
    expect(does('bowline', 'shake it')).toBe('slips');
    expect(does('double-fishermans', 'load and unload')).toBe('jams');
    expect(does('butterfly', 'pull across')).toBe('holds');
  });
});
