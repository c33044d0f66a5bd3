import fc from 'fast-check';
import {
  crossingsOf,
  curveOf,
  hostAt,
  lengthOf,
  mirror,
  placeOf,
  setForm,
  setNow,
  sightOf,
  STATION_NAMES,
  STATION_TURNS,
  STATIONS,
  type Figure,
  type SetForm,
} from '../../src/index.js';
import { marksSeen, measureForm, formSvg } from '../../src/form/index.js';
import { anyFigure, EMPTY, openKnot } from '../support/figures.js';

const figureOf = (file: string): Figure => openKnot(file).method.figure;

function set(figure: Figure): SetForm {
  const done = setNow(figure);
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}

const known = new Map<string, SetForm>();
/** A demo knot's form; set once. */
function formOf(file: string): SetForm {
  const form = known.get(file) ?? set(figureOf(file));
  known.set(file, form);
  return form;
}

/** The least distance of two strands over what it may be, but for places near along one rope. */
function thickness({ chains, solids }: SetForm): number {
  let least = Infinity;
  for (const a of chains) {
    for (const b of chains)
      for (let i = 0; i < a.at.length; i += 1)
        for (let j = 0; j < b.at.length; j += 1) {
          if (a === b && Math.abs(i - j) < 8) continue;
          const [p, q] = [placeOf(a.x, i), placeOf(b.x, j)];
          least = Math.min(least, Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) / (a.radius + b.radius));
        }
    for (const s of solids.filter((q) => q.kind === 'spar')) {
      const [p, q] = [placeOf(s.x, 0), placeOf(s.x, 1)];
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      for (let i = 0; i < a.at.length; i += 1) {
        const [x, y, z] = placeOf(a.x, i);
        const aside = ((q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])) / length;
        least = Math.min(least, Math.hypot(aside, z) / (a.radius + s.radius));
      }
    }
  }
  return least;
}

const eaten = (form: SetForm): number => measureForm(form).strands.reduce((sum, s) => sum + s.eaten, 0);

describe('a knot that is set', () => {
  for (const file of ['overhand.json', 'reef.json', 'bowline.json', 'clove-hitch.json'])
    it(`is proved to be the drawn knot, and no strand lies in another: ${file}`, () => {
      const form = formOf(file);
      expect(form.proof.sides).toBe(3);
      expect(form.proof.fallsApart).toBeFalse();
      expect(form.runs).toBeFalse();
      expect(thickness(form)).toBeGreaterThan(0.95);
    });

  it('is the same every time', () => {
    const again = set(figureOf('overhand.json'));
    expect(again.chains.map((c) => [...c.x])).toEqual(formOf('overhand.json').chains.map((c) => [...c.x]));
  });

  it('is as large in the other hand', () => {
    const other = set(mirror(figureOf('overhand.json')));
    expect(eaten(other) / eaten(formOf('overhand.json'))).toBeCloseTo(1, 1);
    measureForm(other).size.forEach((v, i) => {
      expect(Math.abs(v - measureForm(formOf('overhand.json')).size[i]!)).toBeLessThan(0.4);
    });
  });

  it('eats about as much rope as hands find, and bends no sharper than rope does', () => {
    // An overhand knot takes ten to thirteen diameters of rope; a reef knot about nine of each rope.
    expect(eaten(formOf('overhand.json'))).toBeGreaterThan(9);
    expect(eaten(formOf('overhand.json'))).toBeLessThan(14);
    const [a, b] = measureForm(formOf('reef.json')).strands;
    expect(Math.abs(a!.eaten - b!.eaten)).toBeLessThan(1.5);
    for (const s of [a!, b!]) expect(s.sharpest.radius).toBeGreaterThan(0.6);
  });

  it('goes round a spar on a circle of both radii', () => {
    const form = formOf('clove-hitch.json');
    const [spar] = form.solids;
    const touches = measureForm(form).strands[0]!.sharpest.radius;
    // No bend round the spar is sharper than the spar with half a rope on it; bends over the rope's own turn may be flatter.
    expect(touches).toBeLessThan(spar!.radius + 0.5 + 0.15);
    expect(touches).toBeGreaterThan(0.8);
  });

  it('names its places by the drawing, in the order of the trail', () => {
    for (const file of ['overhand.json', 'bowline.json']) {
      const [chain] = formOf(file).chains;
      const last = figureOf(file).ropes[0]!.points.length - 1;
      expect(chain!.at[0]).toBe(0);
      expect(chain!.at.at(-1)).toBeCloseTo(last, 6);
      chain!.at.forEach((at, i) => {
        if (i > 0) expect(at).toBeGreaterThanOrEqual(chain!.at[i - 1]! - 1e-9);
      });
    }
  });

  it('is turned so that its load lies level or upright', () => {
    for (const o of formOf('overhand.json').chains[0]!.outlets)
      expect(Math.min(Math.abs(o.way[0]), Math.abs(o.way[1]))).toBeLessThan(1e-6);
  });

  it('shows marks on either side, each at places of the trail', () => {
    const { crosses } = marksSeen(formOf('overhand.json'), 'front');
    expect(crosses.length).toBeGreaterThan(0);
    for (const c of crosses) {
      expect(c.angle).toBeGreaterThan(30);
      expect([c.over.strand, c.under.strand]).toEqual(['a', 'a']);
    }
  });

  it('tells how far it is, and may be stopped', () => {
    const work = setForm(figureOf('overhand.json'));
    let done = 0;
    for (let k = 0; k < 8; k += 1) {
      const step = work.next();
      if (step.done === true) throw new Error('ended too soon');
      expect(step.value.done).toBeGreaterThanOrEqual(done);
      done = step.value.done;
      expect(step.value.chains()[0]!.rope).toBe('a');
    }
    expect(work.return(undefined as never).done).toBeTrue();
  });

  it('is refused with the reason where it cannot be lifted', () => {
    const hand = { ...figureOf('overhand.json'), hosts: [hostAt('hand', 'h', [200, 200])] };
    const refused = setNow(hand);
    expect(refused.ok).toBeFalse();
    expect(refused.ok ? '' : refused.reason).toContain('hand');
    const [rope] = figureOf('overhand.json').ropes;
    const far = setNow({ ropes: [{ ...rope!, points: [...rope!.points.slice(0, -1), [5000, 5000]] }], hosts: [] });
    expect(far.ok).toBeFalse();
    expect(setNow(EMPTY)).toEqual(jasmine.objectContaining({ ok: false }));
  });

  it('is never another knot than was drawn: random figures are proved or refused', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        fc.pre(crossingsOf(figure).length <= 6 && figure.ropes.reduce((sum, r) => sum + lengthOf(curveOf(r)), 0) < 200);
        const done = setNow(figure);
        if (done.ok) expect(done.value.proof.sides).toBeGreaterThan(0);
        else expect(done.reason).not.toBe('');
      }),
      { numRuns: 3 },
    );
  });
});

describe('a picture of a form', () => {
  it('is clean from every station, says what it shows, and paints no place outside of numbers', () => {
    const figure = figureOf('reef.json');
    for (const station of STATION_NAMES) {
      const svg = formSvg(figure, formOf('reef.json'), { station, title: 'Reef & more', description: 'From a side' });
      expect(svg).toContain('<title>Reef &amp; more</title>');
      expect(svg).not.toMatch(/NaN|undefined|Infinity/);
      expect(svg.match(/<path/g)!.length).toBeGreaterThan(20);
    }
  });
  it('is turned to its stations, and keeps its size however it is turned', () => {
    for (const station of STATION_NAMES) {
      const turned = sightOf(STATION_TURNS[station]);
      for (const axis of ['right', 'down', 'near'] as const)
        turned[axis].forEach((v, i) =>
          expect(v).withContext(`${station} ${axis}`).toBeCloseTo(STATIONS[station][axis][i]!, 9),
        );
    }
    const size = (yaw: number): string[] =>
      /viewBox="([^"]*)"/
        .exec(
          formSvg(figureOf('reef.json'), formOf('reef.json'), {
            turn: { yaw, pitch: 0.4 },
            title: '',
            description: '',
          }),
        )![1]!
        .split(' ')
        .slice(2);
    expect(size(0.3)).toEqual(size(2));
  });
  it('has the same frame from in front and from behind', () => {
    const frame = (station: 'front' | 'back'): string[] =>
      /viewBox="([^"]*)"/
        .exec(formSvg(figureOf('reef.json'), formOf('reef.json'), { station, title: '', description: '' }))![1]!
        .split(' ');
    expect(frame('front').slice(1)).toEqual(frame('back').slice(1));
  });
});
