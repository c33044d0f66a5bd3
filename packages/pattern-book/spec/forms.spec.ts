import {
  figureToSet,
  leaderEnd,
  methodFor,
  placeOf,
  proveForm,
  setNow,
  slippedForm,
  type BightLeader,
  type Figure,
  type Method,
  type SetForm,
  type Station,
} from '@foxtrail/core';
import { heatFaceSvg, marksSeen, measureForm } from '@foxtrail/core/form';
import { patternForm } from '../src/forms.js';
import { SOURCES } from '../src/sources.js';
import { patternOf, patterns } from '../src/laid.js';

const figureOf = (id: string): Figure => patternOf(id)!.knot.method.figure;
const formOf = (id: string): SetForm => patternForm(id)!;

/** Rope over the diagonal of the knot's box, in the picture. */
function legibility(form: SetForm): number {
  const [a, b] = measureForm(form).size;
  const thinnest = Math.min(...form.chains.map((c) => 2 * c.radius));
  return thinnest / Math.hypot(a, b);
}

/** Those that are long by nature: as two hitches are apart on a log, as many wraps are beside the hitches that hold them. */
const LONG: Readonly<Record<string, number>> = { 'killick-hitch': 0.035, 'many-wrap-hitch': 0.05 };

describe('the patterns as they lie in the hand', () => {
  it('are each proved to be the drawn knot, with rope thick enough to be read at arm’s length', () => {
    for (const { id, knot } of patterns()) {
      const form = patternForm(id);
      if (!form) throw new Error(`${id} has no form: npm run forms`);
      const proof = proveForm(figureToSet(knot.method), form);
      expect(proof.ok).withContext(id).toBeTrue();
      expect(legibility(form))
        .withContext(id)
        .toBeGreaterThan(LONG[id] ?? 0.06);
    }
  });

  it('are as setting them anew finds them', () => {
    for (const id of ['overhand', 'sheet-bend', 'cow-hitch']) {
      const again = setNow(figureOf(id));
      if (!again.ok) throw new Error(again.reason);
      again.value.chains.forEach((chain, k) => {
        const known = formOf(id).chains[k]!;
        expect(chain.at.length).withContext(id).toBe(known.at.length);
        for (let i = 0; i < chain.at.length; i += 1)
          placeOf(chain.x, i).forEach((v, c) => expect(Math.abs(v - placeOf(known.x, i)[c]!)).toBeLessThan(0.05));
      });
    }
  });

  it('run on being pulled only where a knot does not hold by itself, rolls, or lets rope from one loop to the other', () => {
    const running = patterns()
      .flatMap(({ id }) => (formOf(id).runs ? [id] : []))
      .sort();
    expect(running).toEqual(['bowline-two-loops', 'false-bowline', 'offset-overhand-bend']);
  });

  it('tell the butterfly by two strands side by side on one face and none such on the other; the false one has none', () => {
    const longest = (id: string, side: Station): number =>
      Math.max(0, ...marksSeen(formOf(id), side).parallels.map((p) => p.length));
    expect(longest('butterfly', 'front')).toBeGreaterThan(2);
    expect(longest('butterfly', 'back')).toBeLessThan(2);
    expect(longest('false-butterfly', 'front')).toBeLessThan(2);
    expect(longest('false-butterfly', 'back')).toBeLessThan(2);
    // Behind, its two wings cross.
    expect(marksSeen(formOf('butterfly'), 'back').crosses.length).toBeGreaterThan(0);
  });

  it('draw the two halves of a double fisherman’s together, each with its turns side by side', () => {
    const form = formOf('double-fishermans');
    const { size, contacts } = measureForm(form);
    // Four turns of rope beside one another, and what crosses them: no gap is left between the halves.
    expect(size[0]).toBeLessThan(8);
    expect(contacts.some((c) => c.a.strand !== c.b.strand)).toBeTrue();
    for (const side of ['front', 'back'] as const)
      expect(marksSeen(form, side).parallels.length).withContext(side).toBeGreaterThan(1);
  });

  for (const [id, turns] of [
    ['prusik-2', 2],
    ['prusik', 3],
    ['prusik-4', 4],
  ] as const)
    it(`lay the coils of a prusik side by side on the line that they grip: ${id}`, () => {
      const form = formOf(id);
      const [line] = form.solids;
      expect(line!.kind).toBe('rope');
      expect(marksSeen(form, 'front').parallels.length).toBeGreaterThan(1);
      // Above the bridge and below it each turn lies against the next, all the way round.
      const [, cord] = figureOf(id).ropes;
      const coils = measureForm(form).contacts.filter(
        ({ a, b, length }) => a.strand === cord!.id && b.strand === cord!.id && length > 4 * (turns - 1),
      );
      expect(coils.length).toBe(2);
    });

  it('eat more rope the more turns there are', () => {
    const eaten = (id: string): number => measureForm(formOf(id)).strands[0]!.eaten;
    expect(eaten('double-overhand')).toBeGreaterThan(eaten('overhand') + 3);
    expect(eaten('triple-overhand')).toBeGreaterThan(eaten('double-overhand') + 3);
    expect(eaten('double-fishermans')).toBeGreaterThan(eaten('fishermans') + 3);
    expect(eaten('noose-3')).toBeGreaterThan(eaten('noose-2') + 3);
  });

  it('hold open the bight of a slipped form, which its tail, drawn up, would draw out; no other bight', () => {
    const withBight = (figure: Figure, bight: BightLeader): Method => {
      const method = methodFor(figure);
      return { ...method, leaders: [...method.leaders, bight] };
    };
    const made = slippedForm(figureOf('sheet-bend'), 'b');
    if (!made.ok) throw new Error(made.reason);
    const slipped = withBight(made.value.figure, made.value.bight);
    const apex = leaderEnd(slipped, slipped.leaders.length - 1);
    expect(figureToSet(slipped).ropes.map((r) => r.eyes)).toEqual([undefined, [apex]]);
    // Asked twice it is the same figure: what is set already is not set again.
    expect(figureToSet({ ...slipped })).toBe(figureToSet(slipped));
    // The other rope's bight is what the knot is tied round, and goes through nothing.
    const [pale] = figureOf('sheet-bend').ropes;
    const bent = withBight(figureOf('sheet-bend'), {
      kind: 'bight',
      rope: pale!.id,
      from: 0,
      to: pale!.points.length - 1,
    });
    expect(figureToSet(bent)).toBe(bent.figure);
    for (const { id, knot } of patterns()) {
      const held = figureToSet(knot.method) !== knot.method.figure;
      expect(held)
        .withContext(id)
        .toBe(SOURCES.some((s) => s.id === id && s.slip !== undefined));
    }
  });

  it('show what was missed where each crossing lies on them, on both faces', () => {
    for (const id of ['bowline', 'reef', 'clove-hitch']) {
      const [figure, form] = [figureToSet(patternOf(id)!.knot.method), formOf(id)];
      const heat = new Map([
        [1, 0.5],
        [3, 0.1],
        // No crossing has this number.
        [999, 1],
      ]);
      for (const side of ['front', 'back'] as const) {
        const svg = heatFaceSvg(figure, form, side, heat, '#123456', { title: id, description: id });
        const discs = [...svg.matchAll(/<circle cx="([^"]+)" cy="([^"]+)" r="([^"]+)" fill="#123456"/g)];
        expect(discs.length).withContext(id).toBe(2);
        const [l, t, w, h] = (/viewBox="([^"]+)"/.exec(svg)?.[1] ?? '').split(' ').map(Number) as [
          number,
          number,
          number,
          number,
        ];
        for (const [, x, y] of discs) {
          expect(Number(x)).withContext(`${id} ${side}`).toBeGreaterThan(l);
          expect(Number(x)).toBeLessThan(l + w);
          expect(Number(y)).toBeGreaterThan(t);
          expect(Number(y)).toBeLessThan(t + h);
        }
        const [first, second] = discs.map((d) => Number(d[3]));
        expect(first!).toBeGreaterThan(second!);
      }
    }
  });
});
