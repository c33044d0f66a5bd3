/**
 * A knot laid anew, tied in several ways, and for the other hand.
 */
import fc from 'fast-check';
import {
  change,
  changeMethod,
  compareFigures,
  crossingsOf,
  drawStep,
  figureAtStep,
  finishedFigure,
  forOtherHand,
  knotByMethod,
  layoutFindings,
  layoutsOf,
  leftHanded,
  leftHandedEdition,
  methodFor,
  methodProofs,
  methodsOf,
  mirror,
  readKnot,
  relayProofs,
  signatureOf,
  stepsOf,
  stepText,
  tidy,
  weaveFigure,
  WORKSHOP_WORDS,
  writeKnot,
  type Figure,
  FIRST_LAYOUT,
  type KnotDocument,
  type KnotEdit,
  type LayoutEdit,
  type LayoutPlace,
  type Method,
} from '../../src/index.js';
import { edited as ok, drawnFiles, openKnot, rope, serpentine } from '../support/figures.js';

const inMethod = (method: number): LayoutPlace => ({ ...FIRST_LAYOUT, method });
const okKnot = (knot: KnotDocument, edit: KnotEdit, place = FIRST_LAYOUT): KnotDocument => {
  const done = change(knot, place, edit);
  if (!done.ok) throw new Error(`${done.place}: ${done.reason}`);
  return done.value;
};
const swapFirst = (figure: Figure): LayoutEdit => ({ kind: 'swap', where: crossingsOf(figure)[1]!.over });

/** A rope to and fro and then up and down through itself: so many strands side by side. */
function weaving(lines: number): Figure {
  const figure: Figure = { ropes: [rope('a', serpentine(lines), { curve: 'straight' })], hosts: [] };
  // Over and under in turn along every line: nothing can be drawn out.
  return weaveFigure(figure, ({ point: [x, y] }) => (Math.round(x / 4 + 0.2) + Math.round(y / 4)) % 2 === 0);
}

describe('a knot laid anew', () => {
  it('is proved to be the same knot as long as only its drawing changes', () => {
    for (const file of ['reef.json', 'bowline.json', 'clove-hitch.json', 'sheet-bend.json']) {
      const { method } = openKnot(file);
      let dressed = ok(method, { kind: 'add-layout', name: 'Dressed' });
      const tidied = tidy(finishedFigure(dressed));
      if (!tidied.ok) throw new Error(tidied.reason);
      const { figure, mapping } = tidied.value;
      dressed = ok(dressed, { kind: 'redraw', figure, mapping }, 1);
      expect(finishedFigure(dressed)).toEqual(figure);
      expect(dressed.figure).toBe(method.figure);
      const [proof] = relayProofs(dressed);
      expect(proof!.same).withContext(`${file}: ${proof!.evidence}`).toBeTrue();
      expect(proof!.proved).withContext(file).toBeTrue();
      expect(layoutFindings(dressed)).toEqual([]);
    }
  });
  it('takes along what finishes it, and gives that back', () => {
    const { method } = openKnot('bowline.json');
    const dressed = ok(method, { kind: 'add-layout', name: 'Dressed' });
    expect(dressed.finish).toBeUndefined();
    expect(
      stepsOf(dressed)
        .slice(-3)
        .every((s) => s.layout === 1),
    ).toBeTrue();
    expect(stepsOf(dressed).length).toBe(stepsOf(method).length);
    expect(ok(dressed, { kind: 'remove-layout' }, 1)).toEqual(method);
    expect(changeMethod(dressed, 0, { kind: 'remove-layout' }).ok).toBeFalse();
    expect(changeMethod(dressed, 5, { kind: 'remove-layout' }).ok).toBeFalse();
    expect(changeMethod(methodFor({ ropes: [], hosts: [] }), 0, { kind: 'add-layout', name: 'x' }).ok).toBeFalse();
  });
  it('given back, what its finishing steps point at lies at the same crossings', () => {
    const { method } = openKnot('figure-eight.json');
    let dressed = ok(method, { kind: 'add-layout', name: 'Dressed' });
    const tidied = tidy(finishedFigure(dressed));
    if (!tidied.ok) throw new Error(tidied.reason);
    dressed = ok(dressed, { kind: 'redraw', ...tidied.value }, 1);
    const third = crossingsOf(finishedFigure(dressed))[2]!;
    const callouts = [{ strand: 'a', at: third.first.at, text: 'here' }];
    const lit = [{ strand: 'a', from: third.first.at, to: third.second.at }];
    dressed = ok(dressed, { kind: 'tell', index: 0, telling: { callouts, lit } }, 1);
    const back = ok(dressed, { kind: 'remove-layout' }, 1);
    const same = crossingsOf(back.figure)[2]!;
    expect(back.finish![0]!.callouts![0]!.at).toBeCloseTo(same.first.at, 6);
    expect(back.finish![0]!.lit![0]!.to).toBeCloseTo(same.second.at, 6);
    // Where the rope passes otherwise there is no such place; the step itself stays.
    const across: LayoutEdit = {
      kind: 'lay',
      rope: 'a',
      points: [
        [30, 30],
        [-12, 30],
        [-12, -30],
      ],
      pass: 'OOO',
    };
    const kinked = ok(dressed, across, 1);
    expect(crossingsOf(finishedFigure(kinked)).length).not.toBe(crossingsOf(back.figure).length);
    expect(ok(kinked, { kind: 'remove-layout' }, 1).finish![0]!.callouts).toEqual([]);
    expect(ok(kinked, { kind: 'remove-layout' }, 1).finish!.length).toBe(dressed.relaid![0]!.finish!.length);
  });
  it('that has become another knot is an error, unless it is said what passes what', () => {
    const { method } = openKnot('reef.json');
    let other = ok(method, { kind: 'add-layout', name: 'Dressed' });
    other = ok(other, swapFirst(other.figure), 1);
    const [finding] = layoutFindings(other);
    expect(finding!.code).toBe('another-knot');
    expect(finding!.severity).toBe('error');
    expect(finding!.layout).toBe(1);
    const stated = ok(other, { kind: 'state-passes', passes: 'the dark end passes over its own part' }, 1);
    expect(layoutFindings(stated)).toEqual([]);
    expect(relayProofs(stated)[0]!.same).toBeFalse();
    const first = stepsOf(stated).find((s) => s.layout === 1)!;
    expect(stepText(stated, first.index, WORKSHOP_WORDS)).not.toBe('');
    const composed = ok(stated, { kind: 'set-text', index: 0, text: undefined }, 1);
    expect(stepText(composed, first.index, WORKSHOP_WORDS)).toMatch(/^The dark end passes over its own part\. /);
  });
  it('that is too large to be compared is not called another: it is not decided, and what is drawn alike is the same all the same', () => {
    const method = methodFor(weaving(12));
    expect(signatureOf(method.figure).ok).toBeFalse();
    const copied = ok(method, { kind: 'add-layout', name: 'Dressed' });
    expect(relayProofs(copied)[0]).toEqual(jasmine.objectContaining({ same: true, proved: true }));
    const other = ok(copied, swapFirst(copied.figure), 1);
    const [found, ...more] = layoutFindings(other);
    expect(more).toEqual([]);
    expect([found!.code, found!.severity, found!.layout]).toEqual(['undecided', 'warning', 1]);
    const stated = ok(other, { kind: 'state-passes', passes: 'the end passes over its own part' }, 1);
    expect(layoutFindings(stated)).toEqual([]);
    const methods = layoutFindings(method, [{ name: 'Otherwise', method: methodFor(other.relaid![0]!.figure) }]);
    expect(methods.map((f) => [f.code, f.severity])).toEqual([['undecided', 'warning']]);
  });
  it('is compared without a host that is put in: loops made in the hand are dropped over a spar', () => {
    const clove = openKnot('clove-hitch.json').method;
    const host = clove.figure.hosts[0]!;
    let loops = ok({ ...clove, halts: [] }, { kind: 'remove-host', host: host.id });
    loops = ok(loops, { kind: 'place-halt', leader: 0, at: Infinity });
    const dropped = ok(loops, { kind: 'add-layout', name: 'Dropped over' });
    // Laid as the clove hitch lies about its spar: without it the rope is what it was.
    const over: Method = { ...dropped, relaid: [{ ...dropped.relaid![0]!, figure: clove.figure }] };
    const [proof] = relayProofs(over);
    expect([proof!.putIn, proof!.takenOut, proof!.same]).toEqual([[host.id], [], true]);
    // A knot that was tied meanwhile is another one all the same.
    const tied: Method = {
      ...dropped,
      relaid: [{ ...dropped.relaid![0]!, figure: openKnot('overhand.json').method.figure }],
    };
    expect(relayProofs(tied)[0]!.same).toBeFalse();
  });
  it('is compared without a host that is taken out, and from where its own leaders begin', () => {
    const { method } = openKnot('bowline.json');
    const hand = {
      id: 'hand',
      kind: 'hand' as const,
      points: [
        [60, -20],
        [60, 20],
      ] as [number, number][],
    };
    const aside = ok(method, { kind: 'add-host', host: hand });
    let out = ok(aside, { kind: 'add-layout', name: 'Hand taken out' });
    out = ok(out, { kind: 'remove-host', host: 'hand' }, 1);
    expect(relayProofs(out)[0]!.takenOut).toEqual(['hand']);
    expect(relayProofs(out)[0]!.same).toBeTrue();
    // Laid on in the second layout: the comparison is of what both have.
    const tail = out.figure.ropes[0]!.points.at(-1)!;
    const on = ok(out, { kind: 'lay', rope: 'a', points: [[tail[0] - 4, tail[1] + 9]], pass: 'O' }, 1);
    expect(relayProofs(on)[0]!.same).withContext(relayProofs(on)[0]!.evidence).toBeTrue();
    const halted = ok(on, { kind: 'place-halt', leader: 0, at: Infinity }, 1);
    const step = stepsOf(halted).find((s) => s.layout === 1 && s.stretch)!;
    expect(drawStep(halted, step.index).runs.some((r) => r.working)).toBeTrue();
    expect(figureAtStep(halted, step.index - 1).ropes[0]!.points.length).toBeGreaterThan(3);
  });
  it('survives being written and read, with all that its steps show', () => {
    for (const file of drawnFiles) {
      const knot = openKnot(file);
      let method = ok(knot.method, { kind: 'name-layout', name: 'Open' });
      method = ok(method, { kind: 'add-layout', name: 'Dressed' });
      method = ok(method, { kind: 'state-passes', passes: 'nothing passes' }, 1);
      method = ok(method, {
        kind: 'tell',
        index: 0,
        telling: {
          view: 'back',
          closeUp: 2,
          numbers: true,
          ghost: false,
          arrow: false,
          lit: [{ strand: 'a', from: 0, to: 1 }],
          callouts: [{ strand: 'a', at: 0.5, text: 'standing part' }],
        },
      });
      method = ok(method, { kind: 'set-text', index: 0, text: 'Work it even.' }, 1);
      const several = okKnot({ ...knot, method, methodName: 'Plain' }, { kind: 'add-method', name: 'Other', method });
      const read = readKnot(JSON.parse(JSON.stringify(writeKnot(several))));
      if (!read.ok) throw new Error(`${file}: ${read.place}: ${read.reason}`);
      expect(writeKnot(read.value)).toEqual(writeKnot(several));
      expect(layoutsOf(read.value.method).map((l) => l.name)).toEqual(['Open', 'Dressed']);
    }
  });
  it('is refused in a file with the place of what is wrong', () => {
    const { method, ...knot } = openKnot('reef.json');
    const dressed = ok(method, { kind: 'add-layout', name: 'Dressed' });
    type Loose = Record<string, unknown>;
    /** Where the file is refused when what stands at a path is another thing. */
    const place = (path: readonly (string | number)[], value: unknown): string => {
      const file = JSON.parse(JSON.stringify(writeKnot({ ...knot, method: dressed }))) as Loose;
      const holder = path.slice(0, -1).reduce<Loose>((at, key) => at[key] as Loose, file);
      holder[path.at(-1)!] = value;
      const read = readKnot(file);
      return read.ok ? 'read' : read.place;
    };
    const relaid = ['method', 'relaid', 0];
    expect(place(['name'], 'Reef knot')).toBe('read');
    expect(place([...relaid, 'ropes', 0, 'weave'], 'OOO')).toContain('method.relaid[0]');
    expect(place([...relaid, 'leaders', 0, 'from'], 999)).toBe('method.relaid[0].leaders[0].from');
    const callouts = [{ strand: 'z', at: 1, text: 'x' }];
    expect(place(['method', 'halts', 0, 'callouts'], callouts)).toBe('method.halts[0]');
    expect(place(['method', 'halts', 0, 'again'], { of: 3, way: 'once more' })).toBe('method.halts[0].again');
    expect(place([...relaid, 'finish', 0, 'kind'], 'admire')).toContain('method.relaid[0].finish[0].kind');
    const other = { ropes: [], hosts: [], method: { leaders: [{ rope: 'q' }] } };
    expect(place(['others'], [other])).toBe('others[0].method.leaders[0].rope');
  });
});

describe('several methods', () => {
  const knot = (): KnotDocument => openKnot('figure-eight.json');
  it('are proved to end in the same knot, or it is said how they differ', () => {
    const same = okKnot(knot(), { kind: 'add-method', name: 'Twisted', method: knot().method });
    expect(methodProofs(same.method, same.others!)[0]!.same).toBeTrue();
    expect(layoutFindings(same.method, same.others)).toEqual([]);
    const overhand = okKnot(same, {
      kind: 'add-method',
      name: 'In haste',
      method: openKnot('overhand.json').method,
    });
    const [finding] = layoutFindings(overhand.method, overhand.others);
    expect(finding!.code).toBe('methods-differ');
    expect(finding!.title).toContain('In haste');
    expect(methodProofs(overhand.method, overhand.others!)[1]!.differ.length).toBeGreaterThan(0);
    const begun = okKnot(same, { kind: 'add-method', name: 'Begun', method: methodFor({ ropes: [], hosts: [] }) });
    expect(layoutFindings(begun.method, begun.others)).toEqual([]);
  });
  it('are named, put first, taken out and worked on one at a time, each undone', () => {
    let k = okKnot(knot(), { kind: 'name-method', name: 'By the end' });
    k = okKnot(k, { kind: 'add-method', name: 'Twisted', method: openKnot('overhand.json').method });
    expect(methodsOf(k).map((m) => m.name)).toEqual(['By the end', 'Twisted']);
    const edits: readonly (readonly [LayoutPlace, KnotEdit])[] = [
      [inMethod(1), { kind: 'first-method' }],
      [inMethod(0), { kind: 'remove-method' }],
      [inMethod(1), { kind: 'name-method', name: 'By twisting' }],
      [inMethod(1), { kind: 'remove-step', index: 0 }],
      [inMethod(0), { kind: 'entry', name: 'Other name', entry: k.entry }],
    ];
    const before = structuredClone(writeKnot(k));
    for (const [place, edit] of edits) {
      const next = okKnot(k, edit, place);
      expect(writeKnot(next)).withContext(edit.kind).not.toEqual(before);
      expect(writeKnot(k)).withContext(`${edit.kind} changes nothing of what it was given`).toEqual(before);
      expect(okKnot(next, { kind: 'replace', knot: k })).toBe(k);
    }
    // A method that is not changed is shared, not copied.
    expect(methodsOf(okKnot(k, { kind: 'remove-step', index: 0 }, inMethod(1)))[0]!.method).toBe(k.method);
    expect(knotByMethod(k, 1).method).toBe(k.others![0]!.method);
    expect(methodsOf(okKnot(k, edits[0]![1], edits[0]![0]))[0]!.name).toBe('Twisted');
  });
  it('refuse a name that is taken or none, the last one’s removal, and a seventh', () => {
    const no = (k: KnotDocument, edit: KnotEdit, method = 0): boolean => !change(k, inMethod(method), edit).ok;
    let k = okKnot(knot(), { kind: 'add-method', name: 'Twisted', method: knot().method });
    expect(no(k, { kind: 'add-method', name: 'twisted ', method: k.method })).toBeTrue();
    expect(no(k, { kind: 'name-method', name: ' ' }, 1)).toBeTrue();
    expect(no(k, { kind: 'name-method', name: '<b>' }, 1)).toBeTrue();
    expect(no(knot(), { kind: 'remove-method' })).toBeTrue();
    expect(no(k, { kind: 'remove-step', index: 0 }, 9)).toBeTrue();
    for (let n = 3; n <= 6; n += 1) k = okKnot(k, { kind: 'add-method', name: `Way ${n}`, method: k.method });
    expect(no(k, { kind: 'add-method', name: 'One more', method: k.method })).toBeTrue();
  });
});

describe('the left-handed edition', () => {
  it('is the mirror image in every layout, and twice it is the knot again', () => {
    for (const file of drawnFiles) {
      const { method } = openKnot(file);
      const dressed = ok(method, { kind: 'add-layout', name: 'Dressed' });
      const left = leftHanded(dressed);
      layoutsOf(left).forEach((l, i) => {
        expect(l.figure.ropes.map((r) => r.points)).toEqual(
          mirror(layoutsOf(dressed)[i]!.figure).ropes.map((r) => r.points),
        );
        expect(l.figure.ropes.map((r) => r.weave)).toEqual(layoutsOf(dressed)[i]!.figure.ropes.map((r) => r.weave));
      });
      const twice = leftHanded(left);
      expect(twice.halts).toEqual(dressed.halts);
      const compared = compareFigures(finishedFigure(twice), finishedFigure(dressed));
      expect(compared.ok && compared.value.relation)
        .withContext(file)
        .toBe('same');
    }
  });
  it('says sides and ways round for the other hand, and leaves alone what names no side', () => {
    const cases: readonly (readonly [string, string])[] = [
      ['Turn it clockwise, to the left.', 'Turn it anticlockwise, to the right.'],
      ['Anticlockwise round the spar.', 'Clockwise round the spar.'],
      ['Left over right, then right over left.', 'Right over left, then left over right.'],
      ['Hold it in the left hand; right-handed readers too.', 'Hold it in the right hand; left-handed readers too.'],
      ['The leftmost leg goes rightward.', 'The rightmost leg goes leftward.'],
      [
        'What is left is put right at right angles, right through the loop.',
        'What is left is put right at right angles, right through the loop.',
      ],
      ['Bright leftovers, copyright.', 'Bright leftovers, copyright.'],
      ['Pull from the right side up.', 'Pull from the right side up.'],
    ];
    for (const [text, other] of cases) expect(forOtherHand(text)).toBe(other);
  });
  it('keeps the length of nothing but changes only sided words', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('take', 'the', 'left', 'end', 'clockwise', 'over', 'right.'), { maxLength: 12 }),
        (words) => {
          const text = words.join(' ');
          const other = forOtherHand(text);
          expect(other.split(' ').length).toBe(text.split(' ').length);
          expect(forOtherHand(other).replace(/[.]/g, '')).toBe(text.replace(/[.]/g, ''));
        },
      ),
    );
  });
  it('has a name, an entry and a claim of its own', () => {
    const knot = openKnot('rolling-hitch.json');
    const told = okKnot(knot, { kind: 'set-text', index: 0, text: 'Go left.' });
    const left = leftHandedEdition(
      okKnot(told, { kind: 'add-method', name: 'B', method: told.method }),
      'rolling-hitch',
    );
    expect(left.name).toBe(`${knot.name}, left-handed`);
    expect(left.entry.hand).toBe('left');
    expect(left.entry.claim).toBe('rolling-hitch');
    if (knot.entry.pull) expect(left.entry.pull).not.toBe(knot.entry.pull);
    expect(methodsOf(left).length).toBe(2);
    for (const { method } of methodsOf(left)) expect(method.halts[0]!.text).toBe('Go right.');
    expect(readKnot(JSON.parse(JSON.stringify(writeKnot(left)))).ok).toBeTrue();
  });
  it('of one rope with nothing crossed is a drawing like any other', () => {
    const figure: Figure = {
      ropes: [
        rope('a', [
          [0, 0],
          [5, 1],
        ]),
      ],
      hosts: [],
    };
    expect(leftHanded(methodFor(figure)).figure.ropes[0]!.points).toEqual([
      [0, 0],
      [-5, 1],
    ]);
  });
});
