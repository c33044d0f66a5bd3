import fc from 'fast-check';
import { readdirSync, readFileSync } from 'node:fs';
import {
  change,
  crossingAt,
  crossingsOf,
  findingsOf,
  FIRST_LAYOUT,
  flipped,
  keysOf,
  methodsOf,
  placeOfCrossing,
  readKnot,
  readKnotText,
  tailRuleFor,
  WORKSHOP_PRACTICE,
  WORKSHOP_WORDS,
  writeKnot,
  type Finding,
  type KnotDocument,
  type KnotEdit,
} from '@foxtrail/core';
import {
  findingsIn,
  patternKeys,
  patterns,
  PROOF_PARTS,
  proofOf,
  type ProofHouse,
  type ProofPart,
} from '../src/index.js';

const demo = new URL('../../../demo/', import.meta.url);
const demoKnots = readdirSync(demo)
  .filter((f) => f.endsWith('.json'))
  .map((file): KnotDocument => {
    const read = readKnotText(readFileSync(new URL(file, demo), 'utf8'));
    if (!read.ok) throw new Error(read.reason);
    return read.value;
  });
const house: ProofHouse = { practice: WORKSHOP_PRACTICE, words: WORKSHOP_WORDS };

/** Findings without their order. */
const told = (findings: readonly Finding[]): string[] => findings.map((f) => JSON.stringify(f)).sort();

/** A knot with some of its crossings swapped, and with a second method that is the first one unswapped. */
const wrongly = fc
  .tuple(fc.constantFrom(...patterns().map((p) => p.knot)), fc.nat(20), fc.boolean(), fc.boolean())
  .map(([knot, n, both, people]): KnotDocument => {
    const list = crossingsOf(knot.method.figure);
    const crossing = list[n % Math.max(1, list.length)];
    const swapped = crossing && change(knot, FIRST_LAYOUT, { kind: 'swap', where: crossing.over });
    const one = swapped?.ok ? swapped.value : knot;
    const graded: KnotDocument = people ? { ...one, entry: { ...one.entry, useGrade: 'people depend on it' } } : one;
    if (!both) return graded;
    const two = change(graded, FIRST_LAYOUT, { kind: 'add-method', name: 'Otherwise', method: knot.method });
    return two.ok ? two.value : graded;
  });

describe('The proof of a knot', () => {
  it('is one: by parts and method by method, as the bench asks for it, it finds what it finds whole', () => {
    fc.assert(
      fc.property(fc.oneof(fc.constantFrom(...demoKnots), wrongly), (knot) => {
        const whole = [...proofOf(knot, house)];
        const slow: readonly ProofPart[] = ['layouts', 'identity', 'grade', 'practice'];
        const bench = methodsOf(knot).flatMap((_, method) => [
          ...proofOf(knot, house, { methods: [method], parts: slow }),
          ...proofOf(knot, house, { methods: [method], parts: ['drawing'] }),
        ]);
        expect(told(findingsIn(bench))).toEqual(told(findingsIn(whole)));
        expect(whole.map((p) => p.part)).toEqual(methodsOf(knot).flatMap(() => PROOF_PARTS.map((p) => p)));
      }),
      { numRuns: 25 },
    );
  });
  it('leaves no finding of its parts out', () => {
    for (const knot of demoKnots) {
      const found = told(findingsIn(proofOf(knot, house)));
      for (const { method } of methodsOf(knot))
        for (const f of findingsOf(method, {
          tail: tailRuleFor(WORKSHOP_PRACTICE, knot.entry),
          cordMm: knot.entry.cord.diameterMm,
          words: WORKSHOP_WORDS,
          pull: knot.entry.pull,
        }))
          if (f.code !== 'tail-short') expect(found).withContext(knot.name).toContain(JSON.stringify(f));
    }
  });
  it('is the same after the knot was written and read', () => {
    fc.assert(
      fc.property(wrongly, (knot) => {
        const again = readKnot(JSON.parse(JSON.stringify(writeKnot(knot))));
        if (!again.ok) throw new Error(again.reason);
        expect(told(findingsIn(proofOf(again.value, house)))).toEqual(told(findingsIn(proofOf(knot, house))));
      }),
      { numRuns: 10 },
    );
  });
  it('computes nothing before it is asked for, and says why a piece could not be worked out', () => {
    const empty: KnotDocument = {
      ...demoKnots[0]!,
      method: { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
    };
    const pieces = [...proofOf(empty, house, { methods: [0], parts: ['identity', 'drawing'] })];
    expect(pieces.map((p) => p.part)).toEqual(['identity', 'drawing']);
    expect(pieces[0]!.declined?.reason).toContain('no rope');
    expect(findingsIn(pieces).map((f) => f.code)).toEqual(['no-rope']);
    expect(proofOf(empty, house).next().value?.part).toBe('identity');
  });
  it('takes a tail rule in place of the practice’s', () => {
    const codes = (tail: number): string[] =>
      findingsIn(proofOf(demoKnots[0]!, { ...house, tail: { diameters: tail, millimetres: 0 } })).map((f) => f.code);
    expect(codes(0)).not.toContain('tail-short');
    expect(codes(500)).toContain('tail-short');
  });
});

describe('A wrong way shown to learners', () => {
  const edits = (knot: KnotDocument, ...all: readonly KnotEdit[]): KnotDocument =>
    all.reduce((k, edit) => {
      const done = change(k, FIRST_LAYOUT, edit);
      if (!done.ok) throw new Error(done.reason);
      return done.value;
    }, knot);
  /** In its open layout alone, to which what was shown of the dressed one has gone over. */
  const bowline = ((knot) => {
    const done = change(knot, { method: 0, layout: 1 }, { kind: 'remove-layout' });
    if (!done.ok) throw new Error(done.reason);
    return done.value;
  })(demoKnots.find((k) => k.name === 'Bowline')!);
  const about = (knot: KnotDocument): Finding[] =>
    findingsIn(proofOf(knot, house)).filter((f) => f.code.startsWith('exhibit') || f.code === 'mark-lost');
  /** What the page says of each, and what a learner who lays that crossing so has in hand. */
  const held = ({ method }: KnotDocument): [string, string][] =>
    (method.exhibits ?? []).map((e) => {
      const numbers = e.crossings.map((c) => crossingAt(method.figure, c)!.number);
      const keys = keysOf(flipped(method.figure, numbers));
      if (!keys.ok) throw new Error(keys.reason);
      return [e.becomes, patternKeys().named(keys.value.key)[0]?.name ?? ''];
    });

  it('is what it is called when the standing part is kinked, so that all crossings are numbered anew', () => {
    expect(held(bowline)).toEqual([['False bowline', 'False bowline']]);
    const kinked = edits(
      bowline,
      ...[0.25, 1.3, 2.3].map((at): KnotEdit => ({ kind: 'insert-point', strand: 'a', at })),
      ...(
        [
          [3, -19],
          [6, -22],
          [3, -25],
        ] as const
      ).map((to, i): KnotEdit => ({ kind: 'move-point', strand: 'a', index: i + 1, to })),
    );
    expect(crossingsOf(kinked.method.figure).length).toBe(crossingsOf(bowline.method.figure).length + 1);
    expect(held(kinked)).toEqual([['False bowline', 'False bowline']]);
    expect(about(kinked)).toEqual([]);
    expect(kinked.method.marks?.length).toBe(bowline.method.marks?.length);
  });

  it('is an error when it is something else than it is called, and the fix calls it what it is or withdraws it', () => {
    const { figure } = bowline.method;
    for (const crossing of crossingsOf(figure)) {
      const exhibits = [{ crossings: [placeOfCrossing(crossing)], becomes: 'False bowline' }];
      const knot = edits(bowline, { kind: 'show', shown: { exhibits } });
      const [found, ...more] = about(knot);
      expect(more).toEqual([]);
      if (held(knot)[0]![1] === 'False bowline') {
        expect(found).toBeUndefined();
        continue;
      }
      expect(found).toEqual(jasmine.objectContaining({ code: 'exhibit-differs', severity: 'error' }));
      expect(about(edits(knot, found!.fix!.edit))).toEqual([]);
    }
  });

  it('and a mark of the card are errors when what they were of is gone, each with what takes it off', () => {
    const cut = edits(bowline, { kind: 'remove-rope', rope: 'a' });
    expect(cut.method.exhibits).toEqual([]);
    // A crossing that was drawn away: the places are still on the rope.
    const apart = edits(
      bowline,
      ...bowline.method.figure.ropes[0]!.points.map((_, index): KnotEdit => ({
        kind: 'move-point',
        strand: 'a',
        index,
        to: [0, 3 * index],
      })),
    );
    expect(crossingsOf(apart.method.figure).length).toBe(0);
    const found = about(apart);
    expect(found.map((f) => f.code)).toContain('exhibit-lost');
    expect(found.map((f) => f.code)).toContain('mark-lost');
    let left = apart;
    for (let fix = about(left)[0]?.fix; fix; fix = about(left)[0]?.fix) left = edits(left, fix.edit);
    expect(about(left)).toEqual([]);
    expect(left.method.exhibits).toEqual([]);
  });
});

describe('A loop that is meant to stay', () => {
  // An eye that is seized is a bight that something is wound round: it closes nothing of its own.
  const eyed = patterns().filter(
    ({ id, knot }) => id !== 'flat-seizing' && knot.method.figure.ropes.some((r) => (r.eyes ?? []).length === 1),
  );

  it('is suggested as an eye where that makes the knot one that is known: any of the book drawn without it', () => {
    expect(eyed.length).toBeGreaterThan(5);
    for (const { knot } of eyed) {
      const { figure } = knot.method;
      const without: KnotDocument = {
        ...knot,
        entry: { ...knot.entry, claim: undefined },
        name: 'Of no name',
        method: { ...knot.method, figure: { ...figure, ropes: figure.ropes.map(({ eyes: _eyes, ...r }) => r) } },
      };
      const pieces = [...proofOf(without, house, { parts: ['identity'] })];
      const verdict = pieces[0]!.identity!.verdict;
      const found = pieces[0]!.findings.find((f) => f.code === 'eye-not-marked');
      if (verdict.state !== 'unknown' && verdict.state !== 'fails') {
        expect(found).withContext(knot.name).toBeUndefined();
        continue;
      }
      expect(found?.title).withContext(knot.name).toBeDefined();
      const marked = change(without, FIRST_LAYOUT, found!.fix!.edit);
      if (!marked.ok) throw new Error(marked.reason);
      const [again] = proofOf(marked.value, house, { parts: ['identity'] });
      expect(again!.identity!.verdict.headline).not.toContain('No known knot');
      expect(again!.findings.map((f) => f.code)).not.toContain('eye-not-marked');
    }
  });

  it('is refused where nothing closes it, and can always be taken back', () => {
    for (const { knot } of eyed) {
      const { figure } = knot.method;
      const rope = figure.ropes.find((r) => r.eyes);
      if (rope!.closed) continue;
      // Beyond its crossings, where the rope comes in and where it goes out.
      const along = crossingsOf(figure)
        .flatMap((c) => [c.first, c.second])
        .filter((q) => q.strand === rope!.id)
        .map((q) => q.at);
      for (const at of [Math.min(...along) / 2, (Math.max(...along) + rope!.points.length - 1) / 2]) {
        const done = change(knot, FIRST_LAYOUT, { kind: 'toggle-eye', where: { strand: rope!.id, at } });
        expect(done.ok).withContext(`${knot.name} ${at}`).toBeFalse();
      }
      const where = { strand: rope!.id, at: rope!.eyes![0]! };
      expect(change(knot, FIRST_LAYOUT, { kind: 'toggle-eye', where }).ok).toBeTrue();
    }
  });
});
