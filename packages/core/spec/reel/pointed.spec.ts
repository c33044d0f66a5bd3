import {
  change,
  changeMethod,
  crossingsOf,
  curveOf,
  figureInView,
  finishedFigure,
  FIRST_LAYOUT,
  lastAt,
  layoutsOf,
  leftHanded,
  pointAt,
  readKnot,
  REELS,
  reelsTrouble,
  ropeOf,
  stepsOf,
  WORKSHOP_WORDS,
  writeKnot,
  type Box,
  type KnotDocument,
  type Method,
  type Point,
  type ReelScene,
  type SceneCallout,
} from '../../src/index.js';
import {
  cameraAt,
  momentAt,
  pointedInStep,
  reelTimeline,
  trailInStep,
  type Moment,
  type Pointed,
} from '../../src/reel/index.js';
import { drawnFiles, drawnKnot } from '../support/figures.js';

const SIZE = { width: 1280, height: 600 };
const withScenes = (knot: KnotDocument, scenes: readonly ReelScene[]): KnotDocument => {
  const done = changeMethod(knot.method, 0, { kind: 'set-reels', reels: [{ name: 'R', scenes }] });
  if (!done.ok) throw new Error(done.reason);
  return { ...knot, method: done.value };
};
const last = (method: Method): number =>
  stepsOf(method)
    .filter((s) => s.does === 'lay')
    .at(-1)!.index;

/** The moment at the end of a step, or after a share of its motion, with what is pointed out in it. */
function moment(knot: KnotDocument, step: number, callouts: readonly SceneCallout[], share = 1): Moment {
  const { method, name } = withScenes(knot, [{ kind: 'step', step, callouts }]);
  const timeline = reelTimeline({ method, name, words: WORKSHOP_WORDS, pace: 'normal' }, method.reels![0]!);
  const { start, laid } = timeline.scenes[0]!;
  return momentAt(method, timeline, start + share * (laid - start))!;
}
const apart = ([l, t, r, b]: Box, [x, y]: Point): number =>
  Math.hypot(Math.max(l - x, 0, x - r), Math.max(t - y, 0, y - b));

describe('what a scene points out', () => {
  it('lies on its rope, its words within the picture and clear of every crossing', () => {
    let worded = 0;
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      const step = last(knot.method);
      const figure = stepsOf(knot.method)[step]!.of.figure;
      const rope = figure.ropes[0]!;
      const callouts = [0.3, 0.6].map((share, i): SceneCallout => ({
        kind: i === 0 ? 'label' : 'ring',
        strand: rope.id,
        at: share * lastAt(rope),
        text: 'Look here',
      }));
      const now = moment(knot, step, callouts);
      const frame = cameraAt(knot.method, now, 'front', SIZE);
      const pointed = pointedInStep(knot.method, now, 'front', frame);
      expect(pointed.length).withContext(file).toBe(2);
      for (const [i, p] of pointed.entries()) {
        expect(p.at).toEqual(pointAt(curveOf(rope), callouts[i]!.at));
        const { box } = p.note!;
        expect(box[0] >= frame[0] && box[1] >= frame[1] && box[2] <= frame[2] && box[3] <= frame[3])
          .withContext(`${file}: in view`)
          .toBeTrue();
        worded += crossingsOf(figure).some((c) => apart(box, c.point) < 0.5) ? 0 : 1;
      }
    }
    expect(worded).toBeGreaterThanOrEqual(2 * drawnFiles.length - 2);
  });

  it('is there once its rope is laid, and in the mirror at the mirrored place', () => {
    const knot = drawnKnot('bowline.json');
    const { method } = knot;
    const step = last(method);
    const { stretch } = stepsOf(method)[step]!;
    const late: SceneCallout = { kind: 'arrow', strand: stretch!.rope, at: stretch!.to - 0.01 };
    const seen = (share: number): readonly Pointed[] => {
      const now = moment(knot, step, [late], share);
      return pointedInStep(method, now, 'front', cameraAt(method, now, 'front', SIZE));
    };
    expect([seen(0.3).length, seen(1).length]).toEqual([0, 1]);
    const now = moment(knot, step, [late]);
    const [left] = pointedInStep(method, now, 'left', cameraAt(method, now, 'left', SIZE));
    const mirrored = figureInView(stepsOf(method)[step]!.of.figure, 'left');
    expect(left!.at).toEqual(pointAt(curveOf(ropeOf(mirrored, late.strand)!), late.at));
    // An arrow without words comes from where there is no rope.
    const rope = curveOf(ropeOf(mirrored, late.strand)!).line;
    expect(Math.min(...rope.map((p) => Math.hypot(p[0] - left!.from[0], p[1] - left!.from[1])))).toBeGreaterThan(1);
  });

  it('is a ruler between two places of a rope: it says how long it is, and goes with both of its ends', () => {
    const knot = drawnKnot('bowline.json');
    const step = last(knot.method);
    const { figure } = stepsOf(knot.method)[step]!.of;
    const rope = figure.ropes[0]!;
    const [at, to] = [0.2 * lastAt(rope), 0.5 * lastAt(rope)];
    const ruler: SceneCallout = { kind: 'ruler', strand: rope.id, at, to };
    const [found] = pointedInStep(knot.method, moment(knot, step, [ruler]), 'front', [-50, -50, 100, 100]);
    const [p, q] = [at, to].map((v) => pointAt(curveOf(rope), v)) as [Point, Point];
    expect([found!.at, found!.to!]).toEqual([p, q]);
    expect(found!.note!.lines.join(' ')).toBe(`${Math.hypot(p[0] - q[0], p[1] - q[1]).toFixed(1)} d`);
    const named = pointedInStep(
      knot.method,
      moment(knot, step, [{ ...ruler, text: 'eye' }]),
      'front',
      [-50, -50, 100, 100],
    );
    expect(named[0]!.note!.lines.join(' ')).toBe('eye');
    // One that has no end, or ends beyond the rope, is none; nor has a ring two ends.
    const wrong: readonly SceneCallout[] = [
      { kind: 'ruler', strand: rope.id, at },
      { ...ruler, to: lastAt(rope) + 1 },
      { ...ruler, kind: 'ring' },
    ];
    for (const callout of wrong)
      expect(
        reelsTrouble(knot.method, [{ name: 'R', scenes: [{ kind: 'step', step, callouts: [callout] }] }]),
      ).toBeDefined();
  });

  it('is found by a press on the rope, and nothing beside it', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      const step = last(knot.method);
      const rope = stepsOf(knot.method)[step]!.of.figure.ropes[0]!;
      const now = moment(knot, step, []);
      const at = 0.15 * lastAt(rope);
      const found = trailInStep(knot.method, now, 'front', pointAt(curveOf(rope), at));
      expect(found?.strand).toBe(rope.id);
      const place = pointAt(curveOf(rope), found!.at);
      const wanted = pointAt(curveOf(rope), at);
      expect(Math.hypot(place[0] - wanted[0], place[1] - wanted[1])).toBeLessThan(0.05);
      expect(trailInStep(knot.method, now, 'front', [999, 999])).toBeUndefined();
    }
  });

  it('stands in the file, is said for the other hand, and is refused where no rope is, or where it says too much', () => {
    const knot = drawnKnot('reef.json');
    const [rope] = finishedFigure(knot.method).ropes;
    const callout: SceneCallout = { kind: 'ring', strand: rope!.id, at: 3, text: 'Out to the left' };
    const pointing = withScenes(knot, [{ kind: 'look', side: 'front', callouts: [callout] }]);
    const read = readKnot(JSON.parse(JSON.stringify(writeKnot(pointing))) as unknown);
    expect(read.ok && read.value.method.reels).toEqual(pointing.method.reels);
    const [scene] = leftHanded(pointing.method).reels![0]!.scenes;
    expect(scene?.kind === 'look' && scene.callouts?.[0]?.text).toBe('Out to the right');
    const trouble = (callouts: readonly SceneCallout[]): string | undefined =>
      reelsTrouble(knot.method, [{ name: 'R', scenes: [{ kind: 'tail', callouts }] }])?.reason;
    expect(trouble([{ ...callout, strand: 'nowhere' }])).toContain('no rope has');
    expect(trouble([{ ...callout, at: lastAt(rope!) + 1 }])).toContain('no rope has');
    expect(trouble([{ ...callout, text: 'x'.repeat(REELS.callout + 1) }])).toContain('characters');
    expect(trouble(Array.from({ length: REELS.callouts + 1 }, () => callout))).toContain('at most');
    expect(trouble([callout])).toBeUndefined();
  });

  it('stays where it is when the drawing is changed elsewhere, goes with its rope, and is gone with it', () => {
    const knot = drawnKnot('reef.json');
    const layout = layoutsOf(knot.method).length - 1;
    const [rope] = finishedFigure(knot.method).ropes;
    const at = 0.4 * lastAt(rope!);
    const place = pointAt(curveOf(rope!), at);
    const pointing = withScenes(knot, [
      { kind: 'look', side: 'front', callouts: [{ kind: 'ring', strand: rope!.id, at }] },
    ]);
    const after = (edit: Parameters<typeof change>[2]): { readonly method: Method; readonly found?: SceneCallout } => {
      const done = change(pointing, { ...FIRST_LAYOUT, layout }, edit);
      if (!done.ok) throw new Error(done.reason);
      const [scene] = done.value.method.reels![0]!.scenes;
      return { method: done.value.method, found: scene?.kind === 'look' ? scene.callouts?.[0] : undefined };
    };
    const away = ({ method, found }: ReturnType<typeof after>): number => {
      const [x, y] = pointAt(curveOf(ropeOf(finishedFigure(method), rope!.id)!), found!.at);
      return Math.hypot(x - place[0], y - place[1]);
    };
    const inserted = after({ kind: 'insert-point', strand: rope!.id, at: 0.1 * lastAt(rope!) });
    expect(inserted.found!.at).not.toBeCloseTo(at, 1);
    expect(away(inserted)).toBeLessThan(0.5);
    expect(away(after({ kind: 'reverse', rope: rope!.id }))).toBeLessThan(0.05);
    const near = Math.round(at);
    const [x, y] = rope!.points[near]!;
    expect(away(after({ kind: 'move-point', strand: rope!.id, index: near, to: [x + 0.2, y] }))).toBeLessThan(0.4);
    expect(after({ kind: 'remove-rope', rope: rope!.id }).found).toBeUndefined();
  });
});
