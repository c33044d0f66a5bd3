import {
  figureToSet,
  layoutsOf,
  placeOf,
  proveForm,
  setWatched,
  sightOf,
  stepsOf,
  tailsOf,
  WORKSHOP_WORDS,
  type RopeForm,
} from '../../src/index.js';
import {
  heldFrom,
  inOtherHand,
  marksOn,
  MARK_RADIUS,
  onItsWay,
  sayTails,
  tailsMeasured,
  turningOver,
  wayAt,
  type Pose,
  type Tightening,
} from '../../src/reel/index.js';
import { lengthOfVector, less } from '../../src/form/vector.js';
import { drawnKnot } from '../support/figures.js';

const known = new Map<string, Tightening>();
/** A demo knot being drawn tight; computed once. */
function wayOf(file: string): Tightening {
  const before = known.get(file);
  if (before) return before;
  const figure = figureToSet(drawnKnot(file).method);
  const work = setWatched(figure);
  let step = work.next();
  while (step.done !== true) step = work.next();
  if (!step.value.ok) throw new Error(step.value.reason);
  const way = onItsWay(figure, step.value.value);
  known.set(file, way);
  return way;
}

const dotOf = (u: readonly number[], v: readonly number[]): number => u.reduce((total, x, i) => total + x * v[i]!, 0);

/** Where each bead is in the picture, and how near. */
const seen = ({ form, sight }: Pose): number[][] =>
  form.chains.map((c) =>
    Array.from(c.at, (_, i) => placeOf(c.x, i)).flatMap((p) =>
      [sight.right, sight.down, sight.near].map((v) => dotOf(p, v)),
    ),
  );

/** Farthest that a bead goes between two forms whose ropes have as many beads. */
function farthest(a: RopeForm, b: RopeForm): number {
  let most = 0;
  a.chains.forEach((c, k) => {
    const other = b.chains[k]!;
    const n = Math.min(c.at.length, other.at.length);
    for (let i = 0; i < n; i += 1) {
      const j = Math.round((i * (other.at.length - 1)) / (c.at.length - 1));
      const [p, q] = [placeOf(c.x, i), placeOf(other.x, j)];
      most = Math.max(most, Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]));
    }
  });
  return most;
}

const FILES = ['overhand.json', 'reef.json', 'clove-hitch.json'];

describe('a knot being drawn tight', () => {
  for (const file of FILES)
    it(`is the drawn knot at every share of the way, and in the end the set one: ${file}`, () => {
      const way = wayOf(file);
      const at = way.moments.map((m) => m.at);
      expect([at[0], at.at(-1)]).toEqual([0, 1]);
      at.forEach((share, i) => {
        if (i > 0) expect(share).toBeGreaterThan(at[i - 1]!);
      });
      for (const share of [0, 0.13, 0.37, 0.5, 0.77, 0.9, 1])
        expect(proveForm(way.figure, wayAt(way, share).form).ok)
          .withContext(String(share))
          .toBeTrue();
      const [end, held] = [seen(wayAt(way, 1)), seen(heldFrom(way, 'front'))];
      end.forEach((beads, k) => {
        beads.forEach((v, i) => {
          expect(Math.abs(v - held[k]![i]!)).toBeLessThan(0.01);
        });
      });
    });

  it('moves evenly: no frame of a second’s tightening leaps', () => {
    const way = wayOf('reef.json');
    let before = wayAt(way, 0).form;
    for (let share = 1 / 150; share <= 1; share += 1 / 150) {
      const form = wayAt(way, share).form;
      // Leads are shortened from the edge of the board: the farthest are those.
      expect(farthest(before, form)).withContext(String(share)).toBeLessThan(1.5);
      before = form;
    }
  });

  it('is turned over by a true half turn, and back', () => {
    const way = wayOf('reef.json');
    const [front, back] = [heldFrom(way, 'front'), heldFrom(way, 'back')];
    expect(turningOver(way, 'front', 0)).toEqual(front);
    expect(turningOver(way, 'front', 1)).toEqual(back);
    expect(turningOver(way, 'back', 1)).toEqual(front);
    let yaw = 0;
    for (let share = 0.05; share < 1; share += 0.05) {
      const { near } = turningOver(way, 'front', share).sight;
      expect(near[1]).toBe(0);
      // Always onward, never back.
      const turned = Math.atan2(near[0], near[2]);
      expect(turned).toBeGreaterThan(yaw);
      yaw = turned;
      const other = turningOver(way, 'back', share).sight.near;
      expect(other[0]).toBeCloseTo(-near[0], 9);
      expect(other[2]).toBeCloseTo(-near[2], 9);
    }
    expect(sightOf({ yaw: Math.PI, pitch: 0 }).near[2]).toBe(back.sight.near[2]);
  });

  it('is its own mirror image in the other hand, as near and as large', () => {
    const pose = wayAt(wayOf('overhand.json'), 0.6);
    const other = inOtherHand(pose);
    const [a, b] = [seen(pose)[0]!, seen(other)[0]!];
    a.forEach((v, i) => {
      expect(b[i]).toBeCloseTo(i % 3 === 0 ? -v : v, 9);
    });
    expect(other.frame[2] - other.frame[0]).toBeCloseTo(pose.frame[2] - pose.frame[0], 9);
    expect(inOtherHand(other)).toEqual(pose);
  });
});

describe('marks on a set knot', () => {
  it('are those of the card, on the face they are of, beside the rope and clear of one another', () => {
    for (const file of FILES) {
      const { method } = drawnKnot(file);
      const layout = layoutsOf(method).at(-1)!;
      const way = wayOf(file);
      const both = (['front', 'back'] as const).map((side) => marksOn(layout, way.form, heldFrom(way, side), side));
      const wanted = new Set((layout.marks ?? []).map((_, i) => String(i + 1)));
      expect(both.flat().every((m) => wanted.has(m.label))).toBeTrue();
      expect(both[0]!.every((m) => both[1]!.every((n) => n.label !== m.label))).toBeTrue();
      both.forEach((marks, k) => {
        const pose = heldFrom(way, k === 0 ? 'front' : 'back');
        const rope = seen(pose).flatMap((beads) =>
          Array.from({ length: beads.length / 3 }, (_, i): [number, number] => [beads[3 * i]!, beads[3 * i + 1]!]),
        );
        marks.forEach(({ point, at }, i) => {
          const away = (p: readonly [number, number]): number => Math.hypot(p[0] - at[0], p[1] - at[1]);
          expect(Math.min(...rope.map(away))).toBeLessThan(0.3);
          for (const other of marks.slice(0, i))
            expect(Math.hypot(other.point[0] - point[0], other.point[1] - point[1])).toBeGreaterThan(2 * MARK_RADIUS);
        });
      });
      if (stepsOf(method).some((s) => s.does === 'check')) expect(both.flat().length).toBeGreaterThan(0);
    }
  });
});

describe('tails that are measured', () => {
  const asked = { rule: { diameters: 6, millimetres: 0 }, cordMm: 8 } as const;

  it('are drawn out as long as they are, with a ruler that ends on them where they are as long as is asked', () => {
    for (const file of FILES) {
      const way = wayOf(file);
      const figure = figureToSet(drawnKnot(file).method);
      const tails = tailsOf(figure).filter((t) => !t.inside);
      for (const side of ['front', 'back'] as const) {
        const pose = tailsMeasured(figure, heldFrom(way, side), asked);
        expect(pose.rulers.map((r) => r.rope)).toEqual(tails.map((t) => t.rope));
        for (const { rope, from, along, aside, unit, thick, wanted, label } of pose.rulers) {
          const tail = tails.find((t) => t.rope === rope)!;
          expect([wanted, label]).toEqual([6, '6 d (48 mm)']);
          expect(Math.hypot(...along)).toBeCloseTo(1, 9);
          expect(dotOf(along, aside)).toBeCloseTo(0, 9);
          const chain = pose.form.chains.find((c) => c.rope === rope)!;
          const beads = Array.from(chain.at, (_, i) => placeOf(chain.x, i));
          const flat = beads.map((p) => [dotOf(p, pose.sight.right), dotOf(p, pose.sight.down)] as const);
          // The ruler runs on to the tail’s end, and that is as far as it is drawn.
          const [last, whole] = [flat.at(-1)!, tail.length * tail.diameter];
          if (tail.length >= wanted) {
            expect(last[0]).toBeCloseTo(from[0] + whole * along[0], 1);
            expect(last[1]).toBeCloseTo(from[1] + whole * along[1], 1);
          }
          // It begins where no strand crosses the tail any more.
          const start = flat.findIndex(([x, y]) => Math.hypot(x - last[0], y - last[1]) < whole - 0.3);
          const way = less(beads.at(-1)!, beads.at(-3)!);
          const others = pose.form.chains.flatMap((c) =>
            Array.from({ length: c.at.length - 1 }, (_, i) => i)
              .filter((i) => c !== chain || i < start - 12)
              .flatMap((i) => {
                const on = less(placeOf(c.x, i + 1), placeOf(c.x, i));
                const cos = Math.abs(dotOf(on, way)) / (lengthOfVector(on) * lengthOfVector(way));
                return cos < 0.7 ? [placeOf(c.x, i)] : [];
              }),
          );
          for (const p of beads.slice(start + 3))
            expect(Math.min(...others.map((q) => lengthOfVector(less(p, q))))).toBeGreaterThan(0.9);
          // What is asked of it is measured along it.
          const end = [from[0] + wanted * unit * along[0], from[1] + wanted * unit * along[1]] as const;
          const away = Math.min(...flat.map(([x, y]) => Math.hypot(x - end[0], y - end[1])));
          if (tail.length >= wanted)
            expect(away)
              .withContext(`${file} ${side}`)
              .toBeLessThan(0.3 * thick);
          const [l, t, r, b] = pose.frame;
          expect(end[0] > l && end[0] < r && end[1] > t && end[1] < b).toBeTrue();
        }
      }
    }
  });
  it('are measured alike for the other hand, and not at all where they end inside', () => {
    const figure = figureToSet(drawnKnot(FILES[0]!).method);
    const held = heldFrom(wayOf(FILES[0]!), 'front');
    const [one, other] = [held, inOtherHand(held)].map((pose) => tailsMeasured(figure, pose, asked).rulers);
    expect(other!.map((r) => [-r.from[0], r.from[1]].map((v) => v.toFixed(6)))).toEqual(
      one!.map((r) => [...r.from].map((v) => v.toFixed(6))),
    );
    expect(sayTails(figure, WORKSHOP_WORDS, asked)).toContain('at least 6 d (48 mm)');
    expect(sayTails({ ropes: [], hosts: [] }, WORKSHOP_WORDS, asked)).toBe('');
  });
});
