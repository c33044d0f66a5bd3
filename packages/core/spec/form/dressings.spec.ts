import {
  beadNearest,
  change,
  FIRST_LAYOUT,
  howToSet,
  layoutToSet,
  leftHandedEdition,
  mirror,
  mirroredSetting,
  placeOf,
  readKnot,
  setForm,
  sameSetting,
  setNow,
  wishesFor,
  writeKnot,
  type Chain,
  type Dressing,
  type KnotDocument,
  type KnotEdit,
  type SetForm,
  type SetWishes,
} from '../../src/index.js';
import { measureForm, lift, partsPulled } from '../../src/form/index.js';
import { demoKnot } from '../support/figures.js';

const figureOf = (file: string): ReturnType<typeof layoutToSet>['figure'] => layoutToSet(demoKnot(file).method).figure;

/** A demo knot set by a way, which must be proved and hold; what usual wishes leave out is as usual. */
function set(file: string, wishes: SetWishes = {}): SetForm {
  const figure = figureOf(file);
  const done = setNow(figure, { ...wishesFor(figure), ...wishes });
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
}

function parts(file: string): ReturnType<typeof partsPulled> {
  const figure = figureOf(file);
  const lifted = lift(figure);
  if (!lifted.ok) throw new Error(lifted.reason);
  return partsPulled(figure, lifted.value);
}

const eaten = (form: SetForm, rope = 0): number => measureForm(form).strands[rope]!.eaten;

/** How far a rope strays from the straight line between its ends, in diameters. */
function straying(form: SetForm, rope: string): number {
  const { x, at } = form.chains.find((c) => c.rope === rope)!;
  const [from, to] = [placeOf(x, 0), placeOf(x, at.length - 1)];
  const d = [to[0] - from[0], to[1] - from[1], to[2] - from[2]] as const;
  const length = Math.hypot(...d);
  return Array.from(at, (_, i) => {
    const p = placeOf(x, i);
    const u = [p[0] - from[0], p[1] - from[1], p[2] - from[2]] as const;
    const along = (u[0] * d[0] + u[1] * d[1] + u[2] * d[2]) / length;
    return Math.sqrt(Math.max(0, u[0] ** 2 + u[1] ** 2 + u[2] ** 2 - along ** 2));
  }).reduce((a, b) => Math.max(a, b));
}

function edited(knot: KnotDocument, edit: KnotEdit): KnotDocument {
  const done = change(knot, FIRST_LAYOUT, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
}

describe('the parts that are pulled', () => {
  it('are the standing part with its load, the loop with its load, and the tail by hand', () => {
    expect(parts('bowline.json').map(({ kind, pulled }) => `${kind} ${pulled}`)).toEqual([
      'standing loaded',
      'eye loaded',
      'tail by hand',
    ]);
    // A knot in the end of a rope that holds nothing is drawn tight between its two ends.
    expect(parts('overhand.json').map(({ kind, pulled }) => `${kind} ${pulled}`)).toEqual([
      'standing loaded',
      'tail loaded',
    ]);
  });

  it('are pulled as by themselves when all is said that is so anyway', () => {
    const said = set('reef.json', { pulls: parts('reef.json') });
    expect(said.chains.map((c) => c.x)).toEqual(set('reef.json').chains.map((c) => c.x));
  });

  it('are pulled in an order: a bowline drawn up by its tail first is another dressing of the same knot', () => {
    const [standing, eye, tail] = parts('bowline.json');
    const tailFirst = set('bowline.json', { inTurn: true, pulls: [tail!, eye!, standing!] });
    expect(tailFirst.runs).toBeFalse();
    expect(Math.abs(eaten(tailFirst) - eaten(set('bowline.json')))).toBeGreaterThan(1);
  });

  it('capsize a reef when one end and its own tail are jerked apart: that rope comes to lie straight, the other hitched round it', () => {
    const pulls = parts('reef.json').map((p) => {
      const isOfFirst = p.place.strand === 'a';
      return { ...p, pulled: isOfFirst ? ('loaded' as const) : p.kind === 'tail' ? p.pulled : ('slack' as const) };
    });
    const capsized = set('reef.json', { pulls });
    const reef = set('reef.json');
    expect(straying(capsized, 'a')).toBeLessThan(straying(reef, 'a') / 3);
    expect(straying(capsized, 'b')).toBeGreaterThan(straying(reef, 'b'));
  });
});

describe('a strand that is nudged', () => {
  it('goes that way, and the knot is still proved', () => {
    const figure = figureOf('overhand.json');
    const at = (figure.ropes[0]!.points.length - 1) / 2;
    for (const by of [
      [0, 2, 0],
      [-1.5, 0, 1.5],
    ] as const) {
      const form = set('overhand.json', { nudges: [{ place: { strand: 'a', at }, by }] });
      expect(form.runs).toBeFalse();
      expect(form.proof.sides).toBe(3);
    }
  });

  it('is the one that is seen at the place that was named, though the rope has run through the knot since it was drawn', () => {
    // On a spar: the form is not turned level.
    const figure = figureOf('rolling-hitch.json');
    const seen = set('rolling-hitch.json').chains[0]!;
    const wishes = wishesFor(figure);
    for (const at of [6, 12]) {
      const by = [0, 0, 2] as const;
      const work = setForm(figure, { ...wishes, nudges: [{ place: { strand: 'a', at }, by }] });
      const nudged: Chain[] = [];
      let before: Chain | undefined;
      // Until the hand has gone its way, and before all is pulled again.
      for (let step = work.next(); step.done !== true && nudged.length < 20; step = work.next()) {
        const [chain] = step.value.chains();
        if (step.value.phase === 'nudge') nudged.push(chain!);
        else before = chain;
      }
      const moved = Array.from(before!.at, (raw, i) => {
        const now = placeOf(nudged.at(-1)!.x, beadNearest(nudged.at(-1)!, raw));
        const was = placeOf(before!.x, i);
        return { was, far: Math.hypot(now[0] - was[0], now[1] - was[1], now[2] - was[2]) };
      }).sort((p, q) => q.far - p.far);
      const meant = placeOf(seen.x, beadNearest(seen, at));
      const { was, far } = moved[0]!;
      expect(far).withContext(`${at}`).toBeGreaterThan(0.3);
      expect(Math.hypot(was[0] - meant[0], was[1] - meant[1], was[2] - meant[2]))
        .withContext(`${at}`)
        .toBeLessThan(1.5);
    }
  });

  it('passes through nothing, however far it is to go', () => {
    for (const at of [9, 14])
      for (const by of [
        [6, 0, 0],
        [0, 0, -6],
      ] as const) {
        const form = set('reef.json', {
          nudges: [{ place: { strand: 'a', at: at % figureOf('reef.json').ropes[0]!.points.length }, by }],
        });
        expect(form.runs)
          .withContext(`${at}, ${by.join(' ')}`)
          .toBeFalse();
      }
  });
});

describe('ways to dress a knot', () => {
  const knot = demoKnot('bowline.json');
  const [standing, eye, tail] = parts('bowline.json').map(({ place, pulled }) => ({ place, pulled }));
  const way: Dressing = {
    name: 'Tail first',
    inTurn: true,
    pulls: [tail!, eye!, standing!],
    nudges: [{ place: { strand: 'a', at: 20.5 }, by: [1, -0.5, 0.25] }],
  };
  const kept = edited(knot, { kind: 'show', shown: { dressings: [way] } });

  it('are kept with the knot, the first is the right one, and the file gives them back', () => {
    const read = readKnot(JSON.parse(JSON.stringify(writeKnot(kept))));
    if (!read.ok) throw new Error(read.reason);
    expect(layoutToSet(read.value.method).dressings).toEqual([way]);
    expect(sameSetting(howToSet(knot.method), howToSet(kept.method))).toBeFalse();
    expect(howToSet(kept.method).wishes.inTurn).toBeTrue();
    const again = { ...kept.method, name: 'Open' };
    expect(sameSetting(howToSet(again), howToSet(kept.method))).toBeTrue();
  });

  it('follow the drawing, place by place', () => {
    const turned = edited(kept, { kind: 'reverse', rope: 'a' });
    const last = layoutToSet(knot.method).figure.ropes[0]!.points.length - 1;
    const [after] = layoutToSet(turned.method).dressings!;
    expect(after!.pulls!.map((p) => p.place.at)).toEqual(way.pulls!.map((p) => last - p.place.at));
    expect(after!.nudges![0]!.place.at).toBe(last - 20.5);
  });

  it('are mirrored for the other hand, and set as its mirror image', () => {
    const [other] = layoutToSet(leftHandedEdition(kept).method).dressings!;
    expect(other!.nudges![0]!.by).toEqual([-1, -0.5, 0.25]);
    const setting = howToSet(kept.method);
    expect(mirroredSetting(setting).figure.ropes).toEqual(mirror(setting.figure).ropes);
    expect(mirroredSetting(setting).wishes.nudges).toEqual(other!.nudges);
  });

  it('are refused when they are too many, called alike, or pull what is not there', () => {
    const refused = (dressings: Dressing[]): boolean =>
      !change(knot, FIRST_LAYOUT, { kind: 'show', shown: { dressings } }).ok;
    expect(refused([way, { name: 'tail first ' }])).toBeTrue();
    expect(refused(Array.from({ length: 7 }, (_, i) => ({ name: `Way ${i}` })))).toBeTrue();
    const file = writeKnot(kept) as { method: { dressings: object[] } };
    file.method.dressings = [{ name: 'Nowhere', pulls: [{ place: { strand: 'q', at: 1 }, pulled: 'loaded' }] }];
    expect(readKnot(file)).toEqual(jasmine.objectContaining({ ok: false, place: 'method.dressings' }));
  });
});

it('twice the beads changes the rope that a knot eats by less than three in a hundred', () => {
  const [usual, finer] = [set('figure-eight.json'), set('figure-eight.json', { finer: 2 })];
  expect(Math.abs(eaten(finer) / eaten(usual) - 1)).toBeLessThan(0.03);
  expect(finer.chains[0]!.at.length).toBeGreaterThan(1.8 * usual.chains[0]!.at.length);
});
