import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  changeMethod,
  crossingsOf,
  WORKSHOP_WORDS,
  type Method,
  type LayoutEdit,
  type Point,
  type PointPlace,
} from '@foxtrail/core';
import { BenchStore, type Doing } from '../knot/bench-store';
import { overhand } from '../testing/knots';
import { DraftState } from './draft-state';
import { Handling } from './handling';
import { Laying } from './laying';
import { BandGesture } from './board/band.gesture';
import type { Touch } from './board/gesture';
import { LayGesture } from './board/lay.gesture';
import { UnderKey } from './under-key';
import { WeaveWalk } from './weave-walk';

describe('the hand on the board', () => {
  const method = signal<Method>({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
  let state: DraftState;
  let laying: Laying;
  let underKey: UnderKey;
  let handling: Handling;
  let walk: WeaveWalk;
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
    TestBed.configureTestingModule({
      providers: [DraftState, UnderKey, Laying, Handling, WeaveWalk, { provide: BenchStore, useValue: store }],
    });
    state = TestBed.inject(DraftState);
    laying = TestBed.inject(Laying);
    underKey = TestBed.inject(UnderKey);
    handling = TestBed.inject(Handling);
    walk = TestBed.inject(WeaveWalk);
  });

  it('lays a rope’s other end once that leads, and its halts and turns with it', () => {
    for (const point of [
      [-8, 0],
      [0, 8],
      [8, 0],
    ] as Point[])
      laying.lay([{ point, under: false }]);
    handling.placeHalt();
    state.takeOtherEnd();
    expect(state.message()).toContain('other end leads');
    expect(state.tip()).toEqual([-8, 0]);
    laying.lay([{ point: [9, -3], under: false }]);
    expect(state.figure().ropes[0]!.points[0]).toEqual([9, -3]);
    expect(state.figure().ropes[0]!.points.at(-1)).toEqual([8, 0]);
    state.chosen.set(null);
    handling.placeHalt();
    expect(method().halts.map((h) => [h.leader, h.at])).toEqual([
      [0, 3],
      [1, 0],
    ]);
    state.takeOtherEnd();
    laying.lay([{ point: [8, -6], under: true }]);
    expect(laying.tip()!.point).toEqual([8, -6]);
    expect(state.message()).toContain('other working end');
    // A stroke that begins at the other end takes that; a press there is a place to lay to.
    const touch = (x: number, y: number): Touch => ({ point: [x, y], under: false, screen: [x, y] });
    const press = new LayGesture(state, laying, touch(9.4, -3.2));
    press.end(touch(9.4, -3.2));
    expect(state.leads()).toBe('last');
    expect(state.figure().ropes[0]!.points.at(-1)).toEqual([9.4, -3.2]);
    state.takeOtherEnd();
    const stroke = new LayGesture(state, laying, touch(9.4, -3.2));
    stroke.move([touch(12, -6), touch(14, -9)]);
    expect(state.leads()).toBe('last');
    stroke.cancel();
    // Another rope begins with the end that is laid first.
    state.takeOtherEnd();
    state.setActive('none');
    expect(state.leads()).toBe('last');
  });
  it('begins a rope with two clicks and goes on with more', () => {
    for (const point of [
      [-10, 0],
      [10, 0],
      [10, -8],
      [0, -8],
      [0, 6],
    ] as Point[])
      laying.lay([{ point, under: false }]);
    expect(state.figure().ropes.length).toBe(1);
    expect(state.figure().ropes[0]!.points.length).toBe(5);
    expect(crossingsOf(state.figure()).length).toBe(1);
    expect(state.message()).toContain('over the standing part to make an overhand loop');
  });
  it('draws with the keyboard alone: arrows move the pencil, the end is laid to it', () => {
    const go = (dx: number, dy: number, times: number): void => {
      for (let i = 0; i < times; i += 1) handling.nudge([dx, dy], [0, 0]);
      laying.layToCursor();
    };
    go(-1, 0, 10);
    go(1, 0, 20);
    go(0, -1, 8);
    go(-1, 0, 10);
    underKey.press();
    go(0, 1, 14);
    underKey.release();
    expect(state.figure().ropes[0]!.weave).toBe('OU');
    // It was held for what was laid.
    expect(underKey.under()).toBeFalse();
  });
  it('passes under while the key is held, and latches when it is tapped', () => {
    underKey.press();
    expect(underKey.under()).toBeTrue();
    underKey.release();
    expect(underKey.under()).toBeTrue();
    underKey.press();
    underKey.release();
    expect(underKey.under()).toBeFalse();
  });
  it('passes under for just as long as the key is held, once it repeats', () => {
    underKey.press();
    underKey.press();
    expect(underKey.under()).toBeTrue();
    underKey.release();
    expect(underKey.under()).toBeFalse();
  });
  it('passes under for just as long as the key is held, however short, while a stroke goes on', () => {
    underKey.press();
    underKey.draws();
    underKey.release();
    expect(underKey.under()).toBeFalse();
  });
  it('says that a stroke was broken off, and lays nothing', () => {
    method.set(overhand().method);
    const points = state.figure().ropes[0]!.points.length;
    const touch = (x: number): Touch => ({ point: [x, 30], screen: [0, 0], under: false });
    const gesture = new LayGesture(state, laying, touch(0));
    gesture.move([4, 8, 12, 16].map(touch));
    expect(state.drawing()).toBeTrue();
    gesture.cancel();
    expect(state.message()).toContain('nothing was laid');
    expect(state.figure().ropes[0]!.points.length).toBe(points);
  });
  it('chooses a part by a band and moves it as one; a band round nothing chooses nothing', () => {
    method.set(overhand().method);
    const before = state.figure().ropes[0]!.points;
    const touch = (x: number, y: number): Touch => ({ point: [x, y], screen: [0, 0], under: false });
    const band = (from: Touch, to: Touch): void => {
      const gesture = new BandGesture(state, from);
      gesture.move([to]);
      expect(state.band()).not.toBeNull();
      gesture.end();
      expect(state.band()).toBeNull();
    };
    band(touch(300, 300), touch(320, 320));
    expect(state.chosen()).toBeNull();
    const [x, y] = before.at(-1)!;
    band(touch(x - 0.5, y - 0.5), touch(x + 0.5, y + 0.5));
    expect(state.chosen()).toEqual({ kind: 'part', points: [{ strand: 'a', index: before.length - 1 }] });
    handling.nudge([2, 0], [0, 0]);
    expect(state.figure().ropes[0]!.points.at(-1)).toEqual([x + 2, y]);
    expect(state.figure().ropes[0]!.points[0]).toEqual(before[0]);
    handling.mirrorPart();
    expect(state.message()).toContain('Only a whole drawing');
  });
  it('takes a strand away that is chosen whole, and leaves another its last points', () => {
    method.set(overhand().method);
    handling.addHost('spar', [0, 40]);
    const { ropes, hosts } = state.figure();
    const whole = (strand: { id: string; points: readonly Point[] }): PointPlace[] =>
      strand.points.map((_, index) => ({ strand: strand.id, index }));
    const [rope, spar] = [ropes[0]!, hosts[0]!];
    state.chosen.set({ kind: 'part', points: [...whole(spar), { strand: rope.id, index: rope.points.length - 1 }] });
    handling.removeChosen();
    expect(state.figure().hosts).toEqual([]);
    expect(state.figure().ropes[0]!.points.length).toBe(rope.points.length - 1);
    state.chosen.set({ kind: 'part', points: whole(state.figure().ropes[0]!) });
    handling.removeChosen();
    expect(state.figure().ropes).toEqual([]);
  });
  it('chooses all: it is turned, sized, mirrored to the other hand, and cleared', () => {
    handling.turnPart(1);
    expect(state.message()).toContain('Draw a band');
    method.set(overhand().method);
    const { weave } = state.figure().ropes[0]!;
    const signs = (): number[] => crossingsOf(state.figure()).map((c) => c.sign);
    const before = signs();
    handling.chooseAll();
    handling.turnPart(1);
    expect(handling.changePart({ scale: 1.1 })).toBeTrue();
    expect(signs()).toEqual(before);
    handling.mirrorPart();
    expect(signs()).toEqual(before.map((n) => -n));
    expect(state.figure().ropes[0]!.weave).toBe(weave);
    handling.removeChosen();
    expect(state.figure().ropes).toEqual([]);
    expect(state.message()).toContain('Undo brings it back');
  });
  it('swaps, removes and places halts, and says why when it cannot', () => {
    handling.placeHalt();
    expect(state.message()).toContain('Lay a rope first');
    handling.removeChosen();
    expect(state.message()).toContain('Choose');
    method.set(overhand().method);
    handling.swap(2);
    expect(method().figure.ropes[0]!.weave).toBe('UUUOOO');
    state.chosen.set({ kind: 'place', place: { strand: 'a', at: 2 } });
    handling.placeHalt();
    expect(method().halts.map((h) => h.at)).toEqual([2, 3.9, 7]);
    expect(state.step()).toBe(0);
    handling.removeChosen();
    expect(method().halts.length).toBe(2);
    handling.addHost('spar', [0, 0.2]);
    expect(method().figure.hosts[0]?.kind).toBe('spar');
    handling.removeChosen();
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
      walk.toggle();
      expect(state.walking()).toBeTrue();
      expect(state.pointed()).toBe(1);
      expect(state.message()).toContain('Crossing 1 of 3: the strand comes under');
      for (const over of [true, true, false]) walk.weave(over);
      expect(state.walking()).toBeFalse();
      expect(weaveOf()).toBe('OOUUUO');
      expect(state.message()).toBe('Every crossing is walked.');
    });
    it('changes nothing that is right already, and goes back and on', () => {
      const before = weaveOf();
      walk.toggle();
      walk.weave(false);
      walk.go(-1);
      expect(state.pointed()).toBe(1);
      walk.go(-1);
      expect(state.pointed()).toBe(1);
      walk.go(1);
      expect(state.pointed()).toBe(2);
      walk.toggle();
      expect(weaveOf()).toBe(before);
      expect(state.pointed()).toBeNull();
    });
    it('has nothing to do where nothing crosses', () => {
      method.set({ figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
      walk.toggle();
      expect(state.walking()).toBeFalse();
      expect(state.message()).toContain('nothing to weave');
    });
  });
});
