/**
 * Steps: their order, what they show and call out, what they repeat, and how the knot is finished.
 */
import fc from 'fast-check';
import {
  acrossBight,
  againTrouble,
  changeMethod,
  boxesMeet,
  CLOSE_UPS,
  composeStep,
  crossingsOf,
  curveOf,
  DEFAULT_TAIL_RULE,
  distance,
  drawStep,
  extentsAt,
  figureAtStep,
  haltPlace,
  findingsOf,
  finishedFigure,
  hiddenByWords,
  methodFor,
  mirror,
  nearestOn,
  pictureBox,
  pointAt,
  readWeave,
  lastAt,
  leaderEnd,
  liesIn,
  ropeOf,
  stepsOf,
  stepText,
  stretchesOf,
  weaveFigure,
  WORKSHOP_WORDS,
  type BightLeader,
  type Callout,
  type Edit,
  type Figure,
  type Finding,
  type Halt,
  type Method,
  type LayoutEdit,
} from '../../src/index.js';
import { edited as ok, anyFigure, drawnFiles, drawnKnot, openKnot, rope } from '../support/figures.js';

const refused = (method: Method, edit: LayoutEdit): string => {
  const done = changeMethod(method, 0, edit);
  return done.ok ? '' : done.reason;
};
const rules = { tail: DEFAULT_TAIL_RULE, cordMm: 10, words: WORKSHOP_WORDS };
const codes = (method: Method): string[] => findingsOf(method, rules).map((f) => f.code);
const reef = (): Method => openKnot('reef.json').method;
const eight = (): Method => openKnot('figure-eight.json').method;
describe('the order of steps', () => {
  it('may let two ends move by turns: every step stays a valid figure, the last one the whole', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(4), fc.boolean()), { maxLength: 12 }), (moves) => {
        let method = reef();
        for (const [index, later] of moves) {
          const done = changeMethod(method, 0, { kind: 'move-step', index, by: later ? 1 : -1 });
          if (done.ok) method = done.value;
        }
        for (const leader of [0, 1]) {
          const own = method.halts.filter((h) => h.leader === leader).map((h) => h.at);
          expect(own).toEqual([...own].sort((a, b) => a - b));
        }
        const count = method.halts.length;
        for (let k = 0; k < count; k += 1)
          expect(readWeave(JSON.parse(JSON.stringify(figureAtStep(method, k))) as Figure).ok).toBeTrue();
        expect(crossingsOf(figureAtStep(method, count - 1)).length).toBe(crossingsOf(method.figure).length);
        // No step takes back what an earlier one has laid.
        for (let k = 1; k < count; k += 1) {
          const [before, now] = [k - 1, k].map((i) => extentsAt(method, i, method.halts[i]!.at));
          for (const r of method.figure.ropes)
            expect(now!.get(r.id)?.to ?? Infinity).toBeGreaterThanOrEqual((before!.get(r.id)?.to ?? 0) - 1e-9);
        }
      }),
      { numRuns: 40 },
    );
  });
  it('keeps each end on its own trail, and what finishes a knot after what lays it', () => {
    const method = eight();
    expect(refused(method, { kind: 'move-step', index: 0, by: 1 })).toContain('the same end');
    expect(refused(method, { kind: 'move-step', index: 0, by: -1 })).toContain('first');
    expect(refused(method, { kind: 'move-step', index: method.halts.length, by: -1 })).toContain('after it is laid');
  });
  it('does not let a bight be drawn from rope that is not laid yet', () => {
    const figure: Figure = {
      ropes: [
        rope('a', [
          [0, 0],
          [6, 0],
          [12, 0],
          [18, 0],
          [24, 0],
        ]),
      ],
      hosts: [],
    };
    let method = ok(methodFor(figure), { kind: 'bight', rope: 'a', at: 2, points: [[12, 6]], pass: 'O' });
    const bight = method.leaders.findIndex((l) => l.kind === 'bight');
    const { to } = method.leaders[bight] as { to: number };
    method = ok(method, { kind: 'place-halt', leader: 0, at: to - 1 });
    method = ok(method, { kind: 'place-halt', leader: 0, at: Infinity });
    method = ok(method, { kind: 'place-halt', leader: bight, at: Infinity });
    expect(refused(method, { kind: 'move-step', index: 2, by: -1 })).toContain('not laid by then');
  });
  it('puts a halt after what its own end has laid, wherever that stands among the others', () => {
    const start = reef();
    const halts = start.halts.filter((h) => h.leader === 0);
    const method = ok(start, { kind: 'place-halt', leader: 0, at: halts[0]!.at - 1 });
    expect(method.halts[0]!.at).toBe(halts[0]!.at - 1);
    expect(method.halts.length).toBe(start.halts.length + 1);
  });
  it('is the order of laying: an end that goes on after another has moved moves last', () => {
    const line = (id: string, y: number, to: number) =>
      rope(
        id,
        Array.from({ length: to + 1 }, (_, i) => [4 * i, y]),
      );
    let method = methodFor({ ropes: [line('a', 0, 3)], hosts: [] });
    method = ok(method, { kind: 'place-halt', ...haltPlace(method, 'a')! });
    method = ok(method, { kind: 'add-rope', rope: line('b', 6, 3) });
    method = ok(method, { kind: 'place-halt', ...haltPlace(method, 'b')! });
    // Across the other rope, under it and over it again.
    method = ok(method, {
      kind: 'lay',
      rope: 'a',
      points: [
        [10, 3],
        [8, 9],
        [4, 9],
        [4, -3],
      ],
      pass: 'UUOO',
    });
    expect(codes(method)).toContain('rope-after-last-halt');
    method = ok(method, { kind: 'place-halt', ...haltPlace(method, 'a')! });
    expect(method.halts.map((h) => method.leaders[h.leader]!.rope)).toEqual(['a', 'b', 'a']);
    expect([0, 1, 2].map((k) => crossingsOf(figureAtStep(method, k)).length)).toEqual([0, 0, 3]);
    // What the other rope is crossed by is told of the step in which it is crossed, and of no other.
    expect([0, 1].map((k) => composeStep(method, k, WORKSHOP_WORDS).crossings)).toEqual([[], []]);
    expect(composeStep(method, 2, WORKSHOP_WORDS).crossings.length).toBe(3);
    expect(composeStep(method, 2, WORKSHOP_WORDS).text).toContain('dark rope');
  });
  it('has a halt on a bight where a bight is asked about, and on the end of the rope when the bight has its own', () => {
    let method = ok(
      methodFor({
        ropes: [
          rope(
            'a',
            Array.from({ length: 6 }, (_, i) => [6 * i, 0]),
          ),
        ],
        hosts: [],
      }),
      {
        kind: 'bight',
        rope: 'a',
        at: 2.5,
        points: [[15, 12]],
        pass: 'O',
      },
    );
    const bight = method.leaders[1] as BightLeader;
    const title = (): string[] =>
      findingsOf(method, rules).flatMap((f) => (f.code === 'rope-after-last-halt' ? [f.title] : []));
    const open = (): void => {
      const place = haltPlace(method, 'a')!;
      method = ok(method, { kind: 'place-halt', ...place });
    };
    open();
    expect(method.halts.map((h) => h.leader)).toEqual([1]);
    expect(title()).toEqual(['The end of the rope belongs to no step']);
    open();
    expect(method.halts.map((h) => h.leader)).toEqual([0, 1]);
    expect(title()).toEqual([]);
    // On the second leg as on the first: one place of the bight, told by the first.
    const middle = leaderEnd(method, 1);
    const [near, far] = [
      (bight.from + middle) / 2,
      acrossBight(method.figure.ropes[0]!, bight, (bight.from + middle) / 2),
    ];
    expect(haltPlace(method, 'a', near)).toEqual({ leader: 1, at: near });
    expect(haltPlace(method, 'a', far)!.at).toBeCloseTo(near, 6);
    expect(haltPlace(method, 'a', bight.from - 0.5)!.leader).toBe(0);
    expect(haltPlace(method, 'b')).toBeUndefined();
  });
});

describe('splitting and joining', () => {
  it('undo each other, and a split goes halfway among what is passed', () => {
    for (const file of drawnFiles) {
      const { method } = openKnot(file);
      stretchesOf(method).forEach(({ index }) => {
        const passed = composeStep(method, index, WORKSHOP_WORDS).crossings.length;
        const split = ok(method, { kind: 'split-step', index });
        expect(split.halts.length).toBe(method.halts.length + 1);
        const parts = [index, index + 1].map((k) => composeStep(split, k, WORKSHOP_WORDS).crossings.length);
        expect(parts[0]! + parts[1]!)
          .withContext(`${file} ${index}`)
          .toBe(passed);
        expect(Math.abs(parts[0]! - parts[1]!)).toBeLessThanOrEqual(passed > 1 ? 2 : 1);
        const joined = ok(split, { kind: 'join-step', index, text: method.halts[index]!.text });
        expect(joined.halts).toEqual(method.halts.map((h) => ({ ...h })));
      });
    }
  });
  it('divide an own text by its sentences, and keep what is lit and called out', () => {
    const callouts: Callout[] = [{ strand: 'a', at: 1, text: 'here' }];
    let method = ok(eight(), { kind: 'set-text', index: 1, text: 'Go on. Pass it under.' });
    method = ok(method, { kind: 'tell', index: 1, telling: { callouts } });
    const split = ok(method, { kind: 'split-step', index: 1 });
    expect(split.halts[1]!.text).toBe('Go on.');
    expect(split.halts[2]!.text).toBe('Pass it under.');
    expect(split.halts[2]!.callouts).toEqual(callouts);
  });
  it('refuses to join the steps of two ends', () => {
    const method = reef();
    const last = method.halts.map((h) => h.leader).lastIndexOf(0);
    expect(refused(method, { kind: 'join-step', index: last })).toContain('different ends');
    expect(refused(method, { kind: 'split-step', index: method.halts.length })).toContain('lays nothing');
  });
});

describe('a step that repeats', () => {
  const two = (): Method => {
    // Twice over and under the same spar.
    const figure: Figure = {
      ropes: [
        rope(
          'a',
          [
            [-12, -6],
            [-8, 6],
            [-4, -6],
            [0, 6],
            [4, -6],
            [8, 6],
          ],
          { weave: 'OUOUO' },
        ),
      ],
      hosts: [
        {
          id: 's',
          kind: 'spar',
          points: [
            [-40, 0.2],
            [40, 0.1],
          ],
        },
      ],
    };
    let method = methodFor(figure);
    for (const at of [1.9, 3.9, 5]) method = ok(method, { kind: 'place-halt', leader: 0, at });
    return method;
  };
  it('says so, and is held to it', () => {
    const method = ok(two(), { kind: 'set-again', index: 1, again: { of: 0, way: 'once more' } });
    expect(stepText(method, 1, WORKSHOP_WORDS)).toMatch(/^As in step 1, once more: take /);
    expect(againTrouble(method, 1, WORKSHOP_WORDS)).toBeUndefined();
    const other = ok(method, { kind: 'swap', where: crossingsOf(method.figure)[3]!.over });
    expect(againTrouble(other, 1, WORKSHOP_WORDS)?.of).toBe(0);
    const finding = findingsOf(other, rules).find((f) => f.code === 'again-differs')!;
    expect(codes(ok(other, finding.fix!.edit))).not.toContain('again-differs');
  });
  it('is found by its new number when steps are put in, taken out and joined', () => {
    const method = ok(two(), { kind: 'set-again', index: 1, again: { of: 0, way: 'once more' } });
    const more = ok(method, { kind: 'place-halt', leader: 0, at: 1 });
    expect(more.halts[2]!.again!.of).toBe(1);
    expect(ok(more, { kind: 'remove-step', index: 0 }).halts[1]!.again!.of).toBe(0);
    expect(ok(more, { kind: 'remove-step', index: 1 }).halts[1]!.again).toBeUndefined();
    expect(refused(method, { kind: 'set-again', index: 0, again: { of: 1, way: 'once more' } })).toContain('earlier');
  });
});

describe('what a step shows', () => {
  it('follows every edit of the figure: a callout stays on its place, a lit stretch on its strand', () => {
    fc.assert(
      fc.property(anyFigure, fc.double({ min: 0.3, max: 2.7, noNaN: true }), fc.nat(2), (figure, at, where) => {
        let method = methodFor(figure);
        method = ok(method, { kind: 'place-halt', leader: 0, at: Infinity });
        method = ok(method, {
          kind: 'tell',
          index: 0,
          telling: {
            callouts: [{ strand: 'a', at, text: 'x' }],
            lit: [{ strand: 'a', from: at / 2, to: at }],
          },
        });
        const place = (m: Method): readonly [number, number] =>
          pointAt(curveOf(ropeOf(m.figure, 'a')!), m.halts[0]!.callouts![0]!.at);
        // Neither edit changes the line itself, so every place stays where it is on the board.
        const edits: Edit[] = [
          { kind: 'reverse', rope: 'a' },
          ...(figure.ropes[0]!.curve === 'straight'
            ? [{ kind: 'insert-point' as const, strand: 'a', at: where + 0.5 }]
            : []),
        ];
        for (const edit of edits) {
          const halts = [{ ...method.halts[0]!, at: lastAt(figure.ropes[0]!) / 2 + 1.5 }];
          const after = ok({ ...method, halts }, edit);
          expect(distance(place(after), place(method))).toBeLessThan(1e-6);
          const lit = after.halts[0]!.lit![0]!;
          expect([lit.from, lit.to].map((x) => x.toFixed(6))).toContain(after.halts[0]!.callouts![0]!.at.toFixed(6));
          expect(lit.to).toBeGreaterThan(lit.from);
        }
      }),
      { numRuns: 60 },
    );
  });
  it('is gone with the place it points at', () => {
    let method = ok(reef(), {
      kind: 'tell',
      index: 0,
      telling: { callouts: [{ strand: 'b', at: 2, text: 'dark' }], lit: [{ strand: 'b', from: 1, to: 2 }] },
    });
    method = ok(method, { kind: 'remove-rope', rope: 'b' });
    expect(method.halts[0]!.callouts).toEqual([]);
    expect(method.halts[0]!.lit).toEqual([]);
  });
  it('draws callouts beside the knot, clear of its crossings and of each other', () => {
    for (const file of drawnFiles) {
      const { method } = openKnot(file);
      const last = method.halts.length - 1;
      const callouts = crossingsOf(method.figure)
        .slice(0, 3)
        .map((c, i): Callout => ({ strand: c.over.strand, at: c.over.at, text: ['first', 'over it', 'third'][i]! }));
      const told = ok(method, { kind: 'tell', index: last, telling: { callouts } });
      const { notes, box } = drawStep(told, last);
      expect(notes.length).toBe(callouts.length);
      expect(hiddenByWords(told, last)).withContext(file).toEqual([]);
      notes.forEach((n, i) => {
        expect(notes.slice(i + 1).some((m) => boxesMeet(n.box, m.box)))
          .withContext(file)
          .toBeFalse();
        expect(n.box[0] >= box[0] && n.box[1] >= box[1] && n.box[2] <= box[2] && n.box[3] <= box[3]).toBeTrue();
      });
    }
  });
  it('does not call out what is not laid yet', () => {
    const { method } = openKnot('figure-eight.json');
    const far: Callout = { strand: 'a', at: method.halts.at(-1)!.at, text: 'the end' };
    const told = ok(method, { kind: 'tell', index: 0, telling: { callouts: [far], numbers: true } });
    expect(drawStep(told, 0).notes).toEqual([]);
    expect(drawStep(told, 0).labels.length).toBe(crossingsOf(figureAtStep(told, 0)).length);
  });
  it('finds a callout that lies on a crossing because there is no room beside', () => {
    // A net of two ropes that go to and fro: no callout finds clear paper near its middle.
    const turns = [-20, -16, -12, -8, -4, 0, 4, 8, 12, 16, 20];
    const toAndFro = turns.flatMap((x, i): [number, number][] =>
      i % 2 === 0
        ? [
            [x, -26],
            [x, 26],
          ]
        : [
            [x, 26],
            [x, -26],
          ],
    );
    const figure: Figure = {
      ropes: [
        rope('a', toAndFro, { curve: 'straight' }),
        rope(
          'b',
          toAndFro.map(([x, y]): [number, number] => [y * 0.99, x + 0.3]),
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    };
    const woven = weaveFigure(figure, (_, i) => i % 2 === 0);
    let method = ok(methodFor(woven), { kind: 'place-halt', leader: 1, at: Infinity });
    const text = 'a long callout that needs much more paper than there is anywhere'.slice(0, 60);
    method = ok(method, { kind: 'tell', index: 0, telling: { callouts: [{ strand: 'a', at: 10.5, text }] } });
    expect(hiddenByWords(method, 0).length).toBeGreaterThan(0);
    expect(codes(method)).toContain('step-hides-crossing');
  });
  it('is found where a close-up leaves out what it passes, and shown less near by one press', () => {
    let found = 0;
    const leaves = (method: Method, step: number): Finding | undefined =>
      findingsOf(method, rules).find((f) => f.code === 'step-leaves-picture' && f.step === step);
    for (const file of ['figure-eight.json', 'clove-hitch.json', 'sheet-bend.json']) {
      const { method } = openKnot(file);
      for (const { index, stretch } of stepsOf(method)) {
        const near = ok(method, { kind: 'tell', index, telling: { closeUp: CLOSE_UPS.most } });
        const finding = leaves(near, index);
        const [l, t, r, b] = pictureBox(near, index);
        const passed = crossingsOf(near.figure).filter((c) =>
          [c.over, c.under].some((p) => stretch?.rope === p.strand && liesIn(stretch, p.at)),
        );
        const outside = passed.filter(({ point: [x, y] }) => x < l || x > r || y < t || y > b).map((c) => c.number);
        if (outside.length > 0) expect(finding?.crossings).toEqual(outside);
        if (!finding) continue;
        found += 1;
        expect(leaves(ok(near, finding.fix!.edit), index)).toBeUndefined();
      }
      expect(codes(method)).not.toContain('step-leaves-picture');
    }
    expect(found).toBeGreaterThan(3);
  });
  it('is seen from the face and as near as it asks', () => {
    const { method } = openKnot('figure-eight.json');
    const behind = ok(method, { kind: 'tell', index: 1, telling: { view: 'back', closeUp: 2 } });
    const xs = (m: Method, k: number): number => drawStep(m, k).tips[0]!.point[0];
    expect(xs(behind, 1)).toBeCloseTo(-xs(method, 1), 6);
    expect(drawStep(behind, 1, { exact: true }).tips[0]!.point[0]).toBeCloseTo(xs(method, 1), 6);
    const [whole, near] = [pictureBox(method, 1), pictureBox(behind, 1)];
    expect((whole[2] - whole[0]) / (near[2] - near[0])).toBeCloseTo(2, 6);
    // What the step passes is in the picture.
    const tip = drawStep(behind, 1).tips[0]!.point;
    expect(tip[0] > near[0] && tip[0] < near[2]).toBeTrue();
    const back = ok(behind, { kind: 'tell', index: 1, telling: { view: undefined, closeUp: undefined } });
    expect(back.halts).toEqual(method.halts);
    expect(refused(method, { kind: 'tell', index: 1, telling: { closeUp: 9 } })).toContain('close-up');
  });
});

describe('the composer', () => {
  const spar = {
    id: 's',
    kind: 'spar' as const,
    points: [
      [-40, 0],
      [40, 0],
    ] as [number, number][],
  };
  /** A rope whose end comes from the upper left, wrapped round a spar. */
  const wrapped = (turns: number, direction: 'on' | 'back'): Method => {
    const figure: Figure = {
      ropes: [
        rope('a', [
          [-20, 10],
          [-14, 4],
        ]),
      ],
      hosts: [spar],
    };
    const method = ok(methodFor(figure), {
      kind: 'wrap',
      rope: 'a',
      about: [{ strand: 's', at: 0.4 }],
      turns,
      direction,
      first: 'O',
      spacing: 1.6,
      riding: false,
    });
    return ok(method, { kind: 'place-halt', leader: 0, at: Infinity });
  };
  const times: Record<number, string> = {
    2: 'a round turn',
    3: 'three times',
    4: 'four times',
    5: 'five times',
    8: 'eight times',
    10: 'ten times',
  };

  it('counts turns as they were laid, and the reader takes it at its word and no other number', () => {
    for (const turns of [2, 3, 4, 5, 8, 10]) {
      const halted = wrapped(turns, 'on');
      const { text, moves } = composeStep(halted, 0, WORKSHOP_WORDS);
      expect(moves.map((m) => m.kind))
        .withContext(text)
        .toContain('turns');
      const said = times[turns]!;
      expect(text).toContain(turns === 2 ? `${said} on the spar` : `${said} round the spar, first over it`);
      const wrong = ok(halted, {
        kind: 'set-text',
        index: 0,
        text: text.replace(said, turns === 5 ? 'a round turn' : 'seven turns'),
      });
      expect(codes(wrong)).toContain('text-contradicts');
      expect(codes(ok(halted, { kind: 'set-text', index: 0, text }))).not.toContain('text-contradicts');
    }
  });

  it('counts what was laid as turns and not what leads on across; three that were laid are told and read as three', () => {
    for (const turns of [1, 2, 3, 4]) {
      const on = ok(wrapped(turns, 'on'), { kind: 'lay', rope: 'a', points: [[18, -8]], pass: 'O' });
      const method = ok(ok(on, { kind: 'remove-step', index: 0 }), { kind: 'place-halt', leader: 0, at: Infinity });
      const { text } = composeStep(method, 0, WORKSHOP_WORDS);
      const said = [
        'over the spar and round behind it',
        'a round turn on the spar',
        'three times round the spar',
        'four times round the spar',
      ];
      expect(text).toContain(said[turns - 1]!);
      for (const [n, word] of ['one', 'two', 'three', 'four', 'five', 'six'].entries()) {
        const told = ok(method, { kind: 'set-text', index: 0, text: `Make ${word} turns and lead the end away.` });
        const refused = codes(told).includes('text-contradicts');
        // One more is seen from the front where the end leads on over the spar.
        expect(refused)
          .withContext(`${turns} laid, ${word} said`)
          .toBe(n + 1 < turns || n + 1 > turns + 1);
      }
    }
  });

  it('says to which side turns go where the standing part does not meet what they go round', () => {
    for (const turns of [2, 3, 4]) {
      const told = (m: Method): string => composeStep(m, 0, WORKSHOP_WORDS).text;
      const right = wrapped(turns, 'on');
      const places = crossingsOf(right.figure)
        .filter((c) => c.second.strand === 's')
        .sort((p, q) => p.first.at - q.first.at)
        .map((c) => c.point[0]);
      expect(places.at(-1)!).toBeGreaterThan(places[0]!);
      expect(told(right)).toContain('working to the right.');
      // In the mirror image right is left, and the halts stay where they are.
      expect(told({ ...right, figure: mirror(right.figure) })).toContain('working to the left.');
      // Laid back on itself it goes to neither side of where it came from.
      expect(told(wrapped(turns, 'back'))).not.toContain('working to');
    }
  });
});

describe('finishing', () => {
  const bare = (): Method => {
    const { finish: _finish, ...method } = reef();
    return { ...method, halts: method.halts.map(({ text: _text, ...h }): Halt => h) };
  };
  it('is asked for, and one press adds it in its order', () => {
    const method = bare();
    const finding = findingsOf(method, rules).find((f) => f.code === 'not-finished')!;
    expect(finding.title).toBe('The knot is never dressed, set or checked');
    const finished = ok(method, finding.fix!.edit);
    expect(
      stepsOf(finished)
        .map((s) => s.does)
        .slice(-3),
    ).toEqual(['dress', 'set', 'check']);
    expect(codes(finished)).not.toContain('not-finished');
    const partly = ok(method, { kind: 'add-finish', finish: ['check', 'dress'] });
    expect(partly.finish!.map((f) => f.kind)).toEqual(['dress', 'check']);
    expect(findingsOf(partly, rules).find((f) => f.code === 'not-finished')!.title).toBe('The knot is never set');
  });
  it('may be said in the author’s own words instead', () => {
    const method = bare();
    const said = ok(method, {
      kind: 'set-text',
      index: method.halts.length - 1,
      text: 'Lead it away. Dress it flat, draw it tight, and check both faces.',
    });
    expect(codes(said)).not.toContain('not-finished');
  });
  it('shows the whole knot and has a text of its own', () => {
    const { method } = openKnot('clove-hitch.json');
    const steps = stepsOf(method);
    steps.slice(method.halts.length).forEach((s) => {
      expect(figureAtStep(method, s.index)).toBe(finishedFigure(method));
      expect(stepText(method, s.index, WORKSHOP_WORDS).length).toBeGreaterThan(10);
    });
    const texts = ['set', 'check'].map(
      (kind) => composeStep(method, steps.find((s) => s.does === kind)!.index, WORKSHOP_WORDS).text,
    );
    expect(texts[0]).toMatch(/^Set the knot: draw the tail snug, then load the standing part\.$/);
    expect(texts[1]).toContain('tail');
  });
});

describe('a finishing step', () => {
  const knots = drawnFiles.map((file) => drawnKnot(file));
  it('has a picture of its own: dressed, what lies side by side; set, the ends to pull; checked, the marks of the card', () => {
    for (const { name, method } of knots) {
      const finishing = stepsOf(method).filter((s) => s.does !== 'lay');
      const ropes = finishedFigure(method).ropes.filter((r) => !r.closed);
      for (const { index, does, of } of finishing) {
        const [front, back] = [drawStep(method, index), drawStep(method, index, { view: 'back', exact: true })];
        expect(front.pulls.length)
          .withContext(`${name}, ${does}`)
          .toBe(does === 'set' ? 2 * ropes.length : 0);
        // Every mark of the card is numbered on its face, at each of its places.
        const numbers = new Set([...front.marks, ...back.marks].map((m) => m.label));
        const wanted = does === 'check' ? (of.marks ?? []).map((_, i) => String(i + 1)) : [];
        expect([...numbers].sort())
          .withContext(`${name}, ${does}`)
          .toEqual(wanted.sort());
        expect(does === 'dress' || front.lit.length === 0).toBeTrue();
      }
      const pictures = finishing.map(({ index }) => {
        const { lit, pulls, marks } = drawStep(method, index);
        return JSON.stringify({ lit, pulls, marks });
      });
      if ((finishing.at(-1)?.of.marks ?? []).length > 0) expect(new Set(pictures).size).toBe(pictures.length);
    }
  });
  it('pulls every end outward, along the rope, and no end that is trimmed', () => {
    const { method } = openKnot('overhand.json');
    const set = ok(method, { kind: 'add-finish', finish: ['set'] });
    const index = stepsOf(set).findIndex((s) => s.does === 'set');
    const { pulls, box } = drawStep(set, index);
    expect(pulls.length).toBe(2);
    for (const { point, direction } of pulls) {
      // Half a rope farther on there is no rope any more, and the picture has room for the arrow.
      const beyond: readonly [number, number] = [point[0] + 2 * direction[0], point[1] + 2 * direction[1]];
      expect(distance(beyond, point)).toBeCloseTo(2, 6);
      expect(nearestOn(curveOf(set.figure.ropes[0]!), beyond).away).toBeGreaterThan(1.5);
      expect(beyond[0] > box[0] && beyond[0] < box[2] && beyond[1] > box[1] && beyond[1] < box[3]).toBeTrue();
    }
    const trimmed = ok(set, { kind: 'set-ends', rope: 'a', ends: ['standing', 'tail'], trimmed: [false, true] });
    expect(drawStep(trimmed, index).pulls.length).toBe(1);
  });
});
