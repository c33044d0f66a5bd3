import {
  crossingsOf,
  figureInView,
  finishedFigure,
  mirror,
  proveForm,
  signatureOf,
  WORKSHOP_WORDS,
  type Figure,
} from '@foxtrail/core';
import {
  mayBeAsked,
  MOST_CROSSINGS,
  type DrillQuestion,
  type OpenPicture,
  type SlipPicture,
} from '@foxtrail/core/drill';
import { slipInHand, slipsToSet, SLIPS_IN_HAND, type SlipInHand } from '@foxtrail/core/form';
import { drillOf } from '../src/drill.js';
import { patternKeys, patternOf, patterns } from '../src/index.js';

const asked = (id: string): readonly DrillQuestion[] => {
  const found = drillOf(patternOf(id)!.knot, WORKSHOP_WORDS);
  if (!found.ok) throw new Error(found.reason);
  return found.value;
};
const keyOf = (figure: Figure): string => {
  const found = signatureOf(figure);
  return found.ok ? found.value.key : '';
};
const figureOf = (q: DrillQuestion, picture = 0): Figure => (q.pictures[picture] as OpenPicture).figure;

describe('Questions on a knot', () => {
  it('have one right answer each: pictures called right are the knot, those called wrong are not', () => {
    for (const id of ['overhand', 'bowline', 'reef', 'clove-hitch', 'sheet-bend', 'butterfly']) {
      const figure = finishedFigure(patternOf(id)!.knot.method);
      const own = new Set([keyOf(figure), keyOf(figureInView(figure, 'back'))]);
      for (const q of asked(id)) {
        const isOwn = q.pictures.map((p) => ('figure' in p ? own.has(keyOf(p.figure)) : undefined));
        if (q.kind === 'judge' && isOwn[0] !== undefined)
          expect(isOwn[0])
            .withContext(`${id} ${q.id}`)
            .toBe(q.right === 0);
        if (q.kind === 'which') expect(isOwn.indexOf(true)).withContext(`${id} ${q.id}`).toBe(q.right);
        if (q.kind === 'which') expect(isOwn.filter(Boolean).length).withContext(`${id} ${q.id}`).toBe(1);
        expect(q.options.length).toBeGreaterThan(q.right);
        expect(q.kind === 'which' ? q.options.length : 1).toBe(q.pictures.length);
      }
    }
  });

  it('name the crossing of each slip: laid back, it is the knot', () => {
    for (const q of asked('bowline').filter((d) => d.where?.slip !== undefined)) {
      const wrong = figureOf(q);
      expect(q.where!.points.length).toBe(crossingsOf(wrong).length);
      expect(q.id).toBe(`judge:slip-${q.where!.slip}`);
      expect(crossingsOf(wrong).find((c) => c.number === q.where!.slip)!.point).toEqual(
        q.where!.points[q.where!.slip! - 1]!,
      );
    }
    // Every crossing of the bowline matters, and its second slip is a knot that has a name.
    expect(asked('bowline').filter((q) => q.where?.slip !== undefined).length).toBe(7);
    expect(asked('bowline').find((q) => q.id === 'judge:slip-2')!.tells).toContain('it is the false bowline.');
  });

  it('show slips as they lie in the hand where they hold as another knot: each proved, and none that falls apart', () => {
    const shown = (id: string): readonly SlipInHand[] => {
      const { method } = patternOf(id)!.knot;
      const tried = slipsToSet(method, patternKeys());
      if (!tried.ok) throw new Error(tried.reason);
      const set = tried.value.map((slip) => slipInHand(method, slip));
      return set.filter((s) => s !== undefined).slice(0, SLIPS_IN_HAND.shown);
    };
    // Every slip of the figure eight undoes it; the whipping has so many crossings that nothing is asked of it.
    expect(shown('figure-eight')).toEqual([]);
    expect(shown('common-whipping')).toEqual([]);
    const sheetBend = finishedFigure(patternOf('sheet-bend')!.knot.method);
    const slips = shown('sheet-bend');
    expect(slips.length).toBe(SLIPS_IN_HAND.shown);
    expect(new Set(slips.map((s) => keyOf(s.figure))).size).toBe(slips.length);
    for (const { slip, figure, form } of slips) {
      expect(crossingsOf(figure).find((c) => c.number === slip)!.point).toEqual(
        crossingsOf(sheetBend).find((c) => c.number === slip)!.point,
      );
      expect(keyOf(figure)).not.toBe(keyOf(sheetBend));
      expect(proveForm(figure, form).ok).toBeTrue();
      expect(form.runs).toBeFalse();
    }
    // Asked of those alone, in the same words as the picture of the right one, and told with the crossing.
    const found = drillOf(
      patternOf('sheet-bend')!.knot,
      WORKSHOP_WORDS,
      slips.map((s) => s.slip),
    );
    if (!found.ok) throw new Error(found.reason);
    const inHand = found.value.filter((q) => q.id.startsWith('judge:hand-slip-'));
    expect(inHand.map((q) => (q.pictures[0] as SlipPicture).slip)).toEqual(
      slips.map((s) => s.slip).sort((a, b) => a - b),
    );
    const right = found.value.find((q) => q.id === 'judge:set-front')!;
    for (const q of inHand) {
      expect(q.right).toBe(1);
      expect([q.asks, q.pictures[0]!.says]).toEqual([right.asks, right.pictures[0]!.says]);
      expect(q.tells).toContain(`crossing ${(q.pictures[0] as SlipPicture).slip}`);
    }
    expect(asked('sheet-bend').some((q) => q.id.startsWith('judge:hand-slip-'))).toBeFalse();
  });

  it('ask after the hand of knots that have one: the figure eight and the reef are their own mirror images', () => {
    const hands = (id: string): DrillQuestion[] => asked(id).filter((q) => q.kind === 'hand');
    expect(hands('overhand').length).toBe(2);
    expect(hands('figure-eight')).toEqual([]);
    expect(hands('reef')).toEqual([]);
    const [own, other] = hands('bowline');
    expect(keyOf(figureOf(other!))).toBe(keyOf(mirror(figureOf(own!))));
  });

  it('show what it is taken for as it lies in the hand, and say how that differs', () => {
    const granny = asked('reef').find((q) => q.id === 'judge:like-granny')!;
    expect(granny.pictures[0]).toEqual(jasmine.objectContaining({ pattern: 'granny', side: 'front' }));
    expect(granny.tells).toContain('Its second half turns the wrong way.');
    // From the granny, the reef is what it is taken for; nothing is asked of what is taught as wrong.
    expect(asked('granny')).toEqual([]);
  });

  it('do not say in words what is asked: a picture is read out by its crossings alone', () => {
    for (const q of asked('bowline'))
      for (const { says } of q.pictures)
        expect(says)
          .withContext(q.id)
          .not.toMatch(/bowline|wrong|mirror/i);
  });

  it('say the same of a knot in the hand, whether it is the one or is taken for it', () => {
    const says = (id: string): string => asked('reef').find((q) => q.id === id)!.pictures[0]!.says;
    expect(says('judge:like-granny')).toBe(says('judge:set-front'));
  });

  it('are there for patterns that are not too small, too wide or wrong, each under a name of its own', () => {
    const some = patterns().filter(({ knot }, i) => i % 5 === 0 || knot.entry.wrongWayOf !== undefined);
    for (const { id, knot } of some) {
      const figure = finishedFigure(knot.method);
      const all = asked(id);
      expect(all.length > 0)
        .withContext(id)
        .toBe(mayBeAsked(figure) && knot.entry.wrongWayOf === undefined);
      expect(new Set(all.map((q) => q.id)).size)
        .withContext(id)
        .toBe(all.length);
      expect(all.length).withContext(id).toBeLessThan(120);
      if (all.length > 0) expect(crossingsOf(figure).length).toBeLessThanOrEqual(MOST_CROSSINGS);
      // Easy ones to begin with, of a right way and of wrong ones.
      const first = all.filter((q) => q.level === 1);
      if (all.length > 0)
        expect(first.some((q) => q.kind === 'which') || first.length > 1)
          .withContext(id)
          .toBeTrue();
    }
  });
});
