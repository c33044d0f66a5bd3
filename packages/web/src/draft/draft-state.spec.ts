import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { changeMethod, crossingsOf, WORKSHOP_WORDS, type Method, type LayoutEdit, type Point } from '@foxtrail/core';
import { BenchStore, type Doing } from '../knot/bench-store';
import { overhand } from '../testing/knots';
import { DraftState, fitStroke, type Sample } from './draft-state';

const along = (from: Point, to: Point, under: boolean): Sample[] =>
  Array.from({ length: 21 }, (_, i) => ({
    point: [from[0] + ((to[0] - from[0]) * i) / 20, from[1] + ((to[1] - from[1]) * i) / 20] as Point,
    under,
  }));

describe('fitting a stroke', () => {
  it('keeps the stretches passed under apart, with a letter for each', () => {
    const { points, pass } = fitStroke([
      ...along([0, 0], [10, 0], false),
      ...along([10, 0], [10, 10], true),
      ...along([10, 10], [0, 10], false),
    ]);
    expect(pass.length).toBe(points.length - 1);
    expect(pass).toMatch(/^O+U+O+$/);
    // The letters change where the key went down and up.
    const at = (letter: number): Point => points[letter]!;
    expect(Math.hypot(at(pass.indexOf('U'))[0] - 10, at(pass.indexOf('U'))[1])).toBeLessThan(1.6);
    expect(at(pass.lastIndexOf('U') + 1)[1]).toBeCloseTo(10, 5);
  });
  it('of nothing is nothing', () => expect(fitStroke([])).toEqual({ points: [], pass: '' }));
});

describe('the hand on the board', () => {
  const method = signal<Method>({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
  let state: DraftState;
  beforeEach(() => {
    method.set({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
    const store = {
      method,
      vocabulary: () => WORKSHOP_WORDS,
      edit: (edit: LayoutEdit, { layout = 0 }: Doing = {}) => {
        const done = changeMethod(method(), layout, edit);
        if (done.ok) method.set(done.value);
        return done;
      },
    };
    TestBed.configureTestingModule({ providers: [DraftState, { provide: BenchStore, useValue: store }] });
    state = TestBed.inject(DraftState);
  });

  it('begins a rope with two clicks and goes on with more', () => {
    for (const point of [
      [-10, 0],
      [10, 0],
      [10, -8],
      [0, -8],
      [0, 6],
    ] as Point[])
      state.lay([{ point, under: false }]);
    expect(state.figure().ropes.length).toBe(1);
    expect(state.figure().ropes[0]!.points.length).toBe(5);
    expect(crossingsOf(state.figure()).length).toBe(1);
    expect(state.message()).toContain('over the standing part to make an overhand loop');
  });
  it('draws with the keyboard alone: arrows move the pencil, the end is laid to it', () => {
    const go = (dx: number, dy: number, times: number): void => {
      for (let i = 0; i < times; i += 1) state.nudge([dx, dy], [0, 0]);
      state.layToCursor();
    };
    go(-1, 0, 10);
    go(1, 0, 20);
    go(0, -1, 8);
    go(-1, 0, 10);
    state.pressUnder();
    go(0, 1, 14);
    state.releaseUnder();
    expect(state.figure().ropes[0]!.weave).toBe('OU');
  });
  it('passes under while the key is held, and latches when it is tapped', () => {
    state.pressUnder();
    expect(state.under()).toBeTrue();
    state.releaseUnder();
    expect(state.under()).toBeTrue();
    state.pressUnder();
    state.releaseUnder();
    expect(state.under()).toBeFalse();
  });
  it('swaps, removes and places halts, and says why when it cannot', () => {
    state.placeHalt();
    expect(state.message()).toContain('Lay a rope first');
    state.removeChosen();
    expect(state.message()).toContain('Choose');
    method.set(overhand().method);
    state.swap(2);
    expect(method().figure.ropes[0]!.weave).toBe('UUUOOO');
    state.chosen.set({ kind: 'place', place: { strand: 'a', at: 2 } });
    state.placeHalt();
    expect(method().halts.map((h) => h.at)).toEqual([2, 3.9, 7]);
    expect(state.step()).toBe(0);
    state.removeChosen();
    expect(method().halts.length).toBe(2);
    state.addHost('spar', [0, 0.2]);
    expect(method().figure.hosts[0]?.kind).toBe('spar');
    state.removeChosen();
    expect(method().figure.hosts).toEqual([]);
  });
  it('leaves the document alone while an edit is only shown', () => {
    method.set(overhand().method);
    const before = method();
    state.preview({ kind: 'move-point', strand: 'a', index: 0, to: [-25, 3] });
    expect(state.figure().ropes[0]!.points[0]).toEqual([-25, 3]);
    expect(method()).toBe(before);
    state.preview({ kind: 'move-point', strand: 'a', index: 0, to: [-26, 4] }, true);
    state.endPreview();
    expect(state.figure()).toBe(before.figure);
    state.preview({ kind: 'move-point', strand: 'a', index: 0, to: [-25, 3] });
    state.commitPreview();
    expect(method().figure.ropes[0]!.points[0]).toEqual([-25, 3]);
    expect(method().halts).toEqual(before.halts);
  });

  describe('walking the weave', () => {
    const weaveOf = (): string => state.figure().ropes[0]!.weave;
    beforeEach(() => method.set(overhand().method));

    it('goes from crossing to crossing and lays each over or under', () => {
      state.toggleWalk();
      expect(state.walking()).toBeTrue();
      expect(state.pointed()).toBe(1);
      expect(state.message()).toContain('Crossing 1 of 3: the strand comes under');
      for (const over of [true, true, false]) state.weave(over);
      expect(state.walking()).toBeFalse();
      expect(weaveOf()).toBe('OOUUUO');
      expect(state.message()).toBe('Every crossing is walked.');
    });
    it('changes nothing that is right already, and goes back and on', () => {
      const before = weaveOf();
      state.toggleWalk();
      state.weave(false);
      state.stepWalk(-1);
      expect(state.pointed()).toBe(1);
      state.stepWalk(-1);
      expect(state.pointed()).toBe(1);
      state.stepWalk(1);
      expect(state.pointed()).toBe(2);
      state.toggleWalk();
      expect(weaveOf()).toBe(before);
      expect(state.pointed()).toBeNull();
    });
    it('has nothing to do where nothing crosses', () => {
      method.set({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
      state.toggleWalk();
      expect(state.walking()).toBeFalse();
      expect(state.message()).toContain('nothing to weave');
    });
  });
});
