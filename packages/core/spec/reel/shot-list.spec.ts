import { crossingsOf, finishedFigure, stepsOf, WORKSHOP_WORDS } from '../../src/index.js';
import { composeReel, shotList, type Filmable } from '../../src/reel/index.js';
import { drawnKnot } from '../support/figures.js';

describe('The shot list', () => {
  const knot = drawnKnot('bowline.json');
  const of: Filmable = { method: knot.method, name: knot.name, words: WORKSHOP_WORDS, pace: 'normal' };

  it('has a shot of every step, and both sides of the finished knot', () => {
    const shots = shotList(of);
    expect(shots.length).toBe(stepsOf(knot.method).length + 2);
    expect(shots.slice(-2).map((s) => s.side)).toEqual(['tying side', 'from behind']);
    for (const shot of shots) {
      expect(shot.says).not.toBe('');
      expect(shot.wide).toBeGreaterThan(5);
    }
  });

  it('keeps every crossing free of hands in the step that passes it, each once', () => {
    const free = shotList(of).flatMap((s) => s.free);
    const numbers = crossingsOf(finishedFigure(knot.method)).map((c) => c.number);
    expect([...free].sort((a, b) => a - b)).toEqual(numbers);
  });

  it('follows the scenes of a reel, and leaves out its cards', () => {
    const reel = composeReel(of, 'lesson', 'For moorings.', 1);
    const shots = shotList(of, reel);
    expect(shots.length).toBe(reel.scenes.filter((s) => s.kind !== 'card' && s.kind !== 'film').length);
    expect(shots.every((s) => reel.scenes[s.number - 1]?.kind !== 'card')).toBeTrue();
    expect(shotList(of, { name: 'Only a card', scenes: [{ kind: 'card', text: 'Look after your lines.' }] })).toEqual(
      [],
    );
  });
});
