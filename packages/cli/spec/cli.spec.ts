import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { crossingsOf, finishedFigure, readKnot } from '@foxtrail/core';
import { measureForm, readForm } from '@foxtrail/core/form';
import { run, type Terminal } from '../src/cli.js';

const demo = (name: string): string => fileURLToPath(new URL(`../../../demo/${name}.json`, import.meta.url));

interface Ran {
  readonly code: number;
  readonly said: string;
  readonly complained: string;
  readonly files: Record<string, string>;
}

/** Runs the command with files of its own beside the real ones. */
async function foxtrail(argv: string[], own: Record<string, string> = {}): Promise<Ran> {
  const said: string[] = [];
  const complained: string[] = [];
  const files: Record<string, string> = {};
  const io: Terminal = {
    read: (file) => Promise.resolve(own[file] ?? readFileSync(file, 'utf8')),
    write: (file, content) => {
      files[file] = typeof content === 'string' ? content : Buffer.from(content).toString('latin1');
      return Promise.resolve();
    },
    say: (text) => void said.push(text),
    complain: (text) => void complained.push(text),
  };
  const code = await run(argv, io);
  return { code, said: said.join('\n'), complained: complained.join('\n'), files };
}

describe('foxtrail check', () => {
  it('ends with 0 on clean files, 1 on findings, 2 on bad input', async () => {
    expect((await foxtrail(['check', demo('reef'), demo('granny'), '--tail', '8'])).code).toBe(0);
    const found = await foxtrail(['check', demo('reef'), '--tail', '20']);
    expect(found.code).toBe(1);
    expect(found.said).toContain('error: The tail is');
    const bad = await foxtrail(['check', demo('reef'), 'bad.json', '--tail', '20'], { 'bad.json': '{' });
    expect(bad.code).toBe(2);
    expect(bad.complained).toContain('bad.json: the file: It is not JSON');
  });
  it('holds the texts against the words of a school, which is no finding', async () => {
    const workshop = await foxtrail(['check', demo('reef'), '--tail', '8']);
    expect([workshop.code, workshop.said]).toEqual([0, `${demo('reef')}: Reef knot: no findings`]);
    const camp = await foxtrail(['check', demo('bowline'), '--tail', '8', '--words', 'camp']);
    expect(camp.code).toBe(0);
    expect(camp.said).toMatch(/word: step 5, “standing part”: .*Here it is called “standing line”/);
    expect((await foxtrail(['render', demo('clove-hitch'), '--step', '1', '--words', 'camp'])).said).toContain('pole');
    expect((await foxtrail(['check', demo('reef'), '--words', 'navy'])).complained).toContain('no school “navy”');
  });
  it('names file, place and reason of a bad weave, and of a file that is not there', async () => {
    const file = JSON.parse(readFileSync(demo('overhand'), 'utf8')) as { ropes: { weave: string }[] };
    file.ropes[0]!.weave = 'UUUUUU';
    expect((await foxtrail(['check', '-'], { '-': JSON.stringify(file) })).complained).toMatch(
      /^-: rope a at .* and rope a at .*: Both passages/,
    );
    expect((await foxtrail(['check', '/no/such/file.json'])).complained).toContain('It cannot be read');
  });
  it('answers in JSON', async () => {
    const { said } = await foxtrail(['check', demo('overhand'), '--json', '--tail', '30']);
    expect(JSON.parse(said)).toEqual([
      jasmine.objectContaining({ name: 'Overhand knot', findings: [jasmine.objectContaining({ code: 'tail-short' })] }),
    ]);
  });
});

describe('foxtrail identify, atlas and compare', () => {
  /** The reef as it is laid open, without its steps. */
  const reef = (): { name: string; ropes: { weave: string }[] } => {
    const file = JSON.parse(readFileSync(demo('reef'), 'utf8')) as { name: string; ropes: { weave: string }[] };
    return { ...file, ...{ method: undefined } };
  };
  /** A reef with one crossing the wrong way: the first of the pale rope, which is the dark rope's fourth. */
  const slipped = (): string => {
    const file = reef();
    const turn = (w: string, i: number): string => w.slice(0, i) + (w[i] === 'O' ? 'U' : 'O') + w.slice(i + 1);
    const [a, b] = file.ropes;
    for (let i = 0; i < 6; i += 1) {
      const tried = {
        ...file,
        ropes: [
          { ...a, weave: turn(a!.weave, 0) },
          { ...b, weave: turn(b!.weave, i) },
        ],
      };
      if (readKnot(tried).ok) return JSON.stringify(tried);
    }
    throw new Error('no slip of the first crossing');
  };
  it('name the demo by its figures, and answer 1 for what is in no book', async () => {
    const found = await foxtrail(['identify', demo('reef'), demo('granny'), demo('clove-hitch')]);
    expect(found.code).toBe(0);
    expect(found.said).toMatch(/reef.json: It is the reef knot.[^]*granny.json: It is the granny knot/);
    const unknown = await foxtrail(['identify', '-', '--json'], { '-': JSON.stringify(readTwoLoops()) });
    expect(unknown.code).toBe(1);
    expect(JSON.parse(unknown.said)).toEqual([jasmine.objectContaining({ matches: [] })]);
  });
  it('hold a file to its claim: one wrong crossing is an error, and the repair names it', async () => {
    const own = { 'slip.json': slipped() };
    const checked = await foxtrail(['check', 'slip.json', '--tail', '8'], own);
    expect(checked.code).toBe(1);
    expect(checked.said).toContain('It is not the reef knot: it is the half knot');
    const atlas = await foxtrail(['atlas', 'slip.json'], own);
    expect(atlas.said).toContain('To make it Reef knot: swap crossing 1.');
  });
  it('list what every wrong crossing makes of a knot', async () => {
    const { said, code } = await foxtrail(['atlas', demo('reef'), '--json']);
    const { mistakes } = JSON.parse(said) as { mistakes: { becomes: { id: string }[] }[] };
    expect(code).toBe(0);
    expect(mistakes.map((m) => m.becomes[0]?.id)).toEqual(Array(6).fill('half-knot'));
  });
  it('compare two files', async () => {
    const differs = await foxtrail(['compare', demo('reef'), demo('granny')]);
    expect(differs.code).toBe(1);
    expect(differs.said).toMatch(/^different\. The signature differs from that of Granny knot/);
    expect((await foxtrail(['compare', demo('reef'), demo('reef')])).code).toBe(0);
    expect((await foxtrail(['compare', demo('reef')])).code).toBe(2);
  });
});

/** Two ropes hooked into each other twice over: in no book. */
function readTwoLoops(): object {
  return {
    format: 'foxtrail-figure/1',
    ropes: [
      {
        id: 'a',
        points: [
          [-20, 0],
          [-2, 0],
          [2, 4],
          [-2, 8],
          [-20, 8],
        ],
        weave: 'OU',
      },
      {
        id: 'b',
        points: [
          [20, 2],
          [0, 2],
          [0, 6],
          [20, 6.4],
        ],
        weave: 'UO',
        curve: 'straight',
      },
    ],
  };
}

describe('foxtrail invariants', () => {
  it('gives the Jones polynomial of a figure and, from its own PD code, the same again', async () => {
    for (const name of ['overhand', 'figure-eight', 'reef', 'granny']) {
      const figure = JSON.parse((await foxtrail(['invariants', demo(name), '--json'])).said) as {
        closure: { pd: number[][]; jones: string; writhe: number };
      };
      const again = JSON.parse(
        (await foxtrail(['invariants', '--pd', JSON.stringify(figure.closure.pd), '--json'])).said,
      ) as { jones: string; writhe: number };
      expect(again.jones).withContext(name).toBe(figure.closure.jones);
      expect(again.writhe).withContext(name).toBe(figure.closure.writhe);
    }
  });
  it('knows the left-handed trefoil by its PD code', async () => {
    expect((await foxtrail(['invariants', '--pd', '[[1,4,2,5],[3,6,4,1],[5,2,6,3]]'])).said).toContain(
      'jones: −t⁻⁴ + t⁻³ + t⁻¹',
    );
  });
  it('says that the clove winds twice, and refuses a broken PD code', async () => {
    expect((await foxtrail(['invariants', demo('clove-hitch')])).said).toContain('"turns":-2.5');
    for (const pd of ['nonsense', '{}', '[[1,2,3]]', '[[1,2,3,4]]'])
      expect((await foxtrail(['invariants', '--pd', pd])).code)
        .withContext(pd)
        .toBe(2);
  });
});

describe('foxtrail render', () => {
  it('draws a step in a view, with its words', async () => {
    const { code, files } = await foxtrail(['render', demo('reef'), '--step', '2', '--view', 'back', '-o', 'out.svg']);
    expect(code).toBe(0);
    expect(files['out.svg']).toContain('Reef knot, step 2 of 7</title>');
    expect(files['out.svg']).toContain('up through the bight');
  });
  it('refuses a step and a view that there is not', async () => {
    expect((await foxtrail(['render', demo('reef'), '--step', '9'])).complained).toContain('from 1 to 7');
    expect((await foxtrail(['render', demo('reef'), '--view', 'top'])).complained).toContain('front, back and left');
  });
});

describe('foxtrail', () => {
  it('says how it is used', async () => {
    expect((await foxtrail(['help'])).code).toBe(0);
    expect((await foxtrail([])).code).toBe(2);
    expect((await foxtrail(['tie'])).complained).toContain('no command “tie”');
    expect((await foxtrail(['check', '--nonsense'])).code).toBe(2);
  });
  it('runs from the checkout as a command of its own', () => {
    const bin = fileURLToPath(new URL('../bin/foxtrail.mjs', import.meta.url));
    const done = spawnSync(process.execPath, [bin, 'check', '-', '--tail', '8'], {
      input: readFileSync(demo('overhand')),
      encoding: 'utf8',
    });
    expect(done.stdout).toBe('-: Overhand knot: no findings\n');
    expect(done.status).toBe(0);
  });
});

describe('foxtrail tell', () => {
  it('tells a method by its moves, and proposes halts for a rope that has none', async () => {
    const told = await foxtrail(['tell', demo('clove-hitch')]);
    expect(told.code).toBe(0);
    expect(told.said).toContain('1. Take the working end over the spar and round behind it.');
    expect(told.said).not.toContain('proposed');
    const file = JSON.parse(readFileSync(demo('bowline'), 'utf8')) as {
      method: { halts: unknown[]; relaid?: unknown; reels?: unknown };
    };
    file.method.halts = [];
    // A reel shows steps, and there are none left.
    delete file.method.reels;
    const proposed = await foxtrail(['tell', '-', '--json', '--words', 'marine'], { '-': JSON.stringify(file) });
    const [{ steps }] = JSON.parse(proposed.said) as [
      {
        steps: { text: string; proposed?: boolean; moves: { kind: string; passes: string }[] }[];
      },
    ];
    const laid = steps.filter((s) => s.proposed);
    expect(laid.map((s) => s.moves.map((m) => m.kind).join())).toEqual(['loop', 'through', 'round', 'through']);
    expect(laid.map((s) => s.moves.map((m) => m.passes).join(''))).toEqual(['O', 'UO', 'UO', 'OU']);
    expect(laid[3]!.text).toMatch(/^Bring the running end back down through the loop\b/);
  });
});

describe('foxtrail read', () => {
  const read = (step: number, text: string): Promise<Ran> =>
    foxtrail(['read', demo('reef'), '--step', String(step), '--text', text, '--json']);
  interface Told {
    readonly agrees: boolean;
    readonly contradictions: { readonly words: string; readonly leads?: string }[];
  }
  it('agrees with a true sentence, and of an untrue one says which knot it leads to', async () => {
    const right = await read(4, 'Bring it back down through the bight.');
    expect([right.code, (JSON.parse(right.said) as Told[])[0]!.agrees]).toEqual([0, true]);
    const wrong = await read(4, 'Bring it up through the bight.');
    const [told] = JSON.parse(wrong.said) as Told[];
    expect([wrong.code, told!.agrees]).toEqual([1, false]);
    expect(told!.contradictions[0]!.words).toBe('up through');
    expect(told!.contradictions[0]!.leads).toMatch(/^Tied as it is told, it would /);
    const part = await foxtrail([
      'read',
      demo('reef'),
      '--step',
      '4',
      '--text',
      'Bring it down through the bight, whistling.',
    ]);
    expect(part.said).toContain('It claims: over the bight; under the bight.');
    expect(part.said).toContain('Not understood, from here on: “whistling.”');
    expect((await foxtrail(['read', demo('reef')])).complained).toContain('No sentence is given');
    expect((await foxtrail(['read', demo('reef'), '--text', 'x', '--step', '99'])).code).toBe(2);
  });
});

describe('foxtrail footage', () => {
  /** The overhand knot from in front: three crossings of one strand with itself, marked as they are drawn. */
  const seen = (change: (mark: Record<string, unknown>) => object = (m) => m): Record<string, string> => {
    const read = readKnot(JSON.parse(readFileSync(demo('overhand'), 'utf8')));
    if (!read.ok) throw new Error(read.reason);
    const marks = crossingsOf(finishedFigure(read.value.method)).map(({ number, over, first, point, turn }) => {
      // The second strand crosses straight: to the left of the first as seen on the screen, or to the right.
      const [x, y] = point;
      return change({
        crossing: number,
        over: over === first ? 'first' : 'second',
        point,
        first: [x + 1, y],
        second: [x, y - turn],
      });
    });
    return { 'marks.json': JSON.stringify({ format: 'foxtrail-marks/1', frames: [{ at: 2, marks }] }) };
  };
  const other = { first: 'second', second: 'first' } as const;

  it('tells a film of the knot, one of its mirror image, and one with a wrong crossing', async () => {
    const right = await foxtrail(['footage', demo('overhand'), 'marks.json'], seen());
    expect([right.code, right.said]).toEqual([
      0,
      jasmine.stringContaining('It shows the overhand knot, seen from the tying side.'),
    ]);
    const mirrored = seen(({ second, point, ...m }) => {
      const [x, y] = point as [number, number];
      return { ...m, point, second: [x, 2 * y - (second as [number, number])[1]] };
    });
    const turned = await foxtrail(['footage', demo('overhand'), 'marks.json'], mirrored);
    expect([turned.code, turned.said]).toEqual([1, jasmine.stringContaining('It is mirrored')]);
    let at = 0;
    const wrong = seen((m) => (++at === 2 ? { ...m, over: other[m.over as 'first' | 'second'] } : m));
    const ran = await foxtrail(['footage', demo('overhand'), 'marks.json', '--json'], wrong);
    const verdict = JSON.parse(ran.said) as { state: string; becomes: string; frames: { wrong: number[][] }[] };
    expect([verdict.state, verdict.becomes, verdict.frames[0]?.wrong]).toEqual(['differs', 'Falls apart', [[2]]]);
  });
  it('asks for the mark that would decide', async () => {
    const { 'marks.json': text } = seen();
    const file = JSON.parse(text!) as { frames: { marks: object[] }[] };
    file.frames[0]!.marks.pop();
    const few = await foxtrail(['footage', demo('overhand'), 'marks.json'], { 'marks.json': JSON.stringify(file) });
    expect([few.code, few.said]).toEqual([1, jasmine.stringContaining('Mark one crossing more.')]);
  });
  it('refuses marks that cannot be read, or are of no crossing', async () => {
    const refused = async (marks: string): Promise<string> => {
      const ran = await foxtrail(['footage', demo('overhand'), 'marks.json'], { 'marks.json': marks });
      expect(ran.code).toBe(2);
      return ran.complained;
    };
    expect(await refused('{')).toContain('It is not JSON');
    expect(await refused('{}')).toContain('Give "format": "foxtrail-marks/1"');
    expect(await refused(seen((m) => ({ ...m, crossing: 9 }))['marks.json']!)).toContain('There is no crossing 9');
    expect(await refused(seen((m) => ({ ...m, crossing: 1 }))['marks.json']!)).toContain('marked twice');
    expect((await foxtrail(['footage', demo('overhand')])).complained).toContain('No marks are named');
    expect((await foxtrail(['footage', demo('overhand'), '/nowhere'])).complained).toContain('cannot be read');
  });
});

describe('foxtrail set', () => {
  it('sets a figure, measures it, and draws it from a side', async () => {
    const ran = await foxtrail(['set', demo('overhand'), '--view', 'back', '-o', 'back.svg']);
    expect(ran.code).toBe(0);
    expect(ran.said).toContain('proved to be the same knot (read from 3 sides');
    expect(ran.said).toMatch(/rope a eaten: 1\d\.\d d/);
    expect(ran.said).toContain('seen from the back:');
    expect(ran.files['back.svg']).toContain('<title>Overhand knot</title>');
    expect((await foxtrail(['set', demo('overhand'), '--view', 'above'])).complained).toContain('no side “above”');
  });
  it('writes the form as JSON, which is read back as it was', async () => {
    const ran = await foxtrail(['set', demo('reef'), '-o', 'form.json', '--json']);
    const told = JSON.parse(ran.said) as { proof: { sides: number }; strands: { eaten: number }[] };
    expect([told.proof.sides, told.strands.length]).toEqual([3, 2]);
    const read = readForm(JSON.parse(ran.files['form.json']!));
    if (!read.ok) throw new Error(read.reason);
    expect(measureForm(read.value).strands[0]!.eaten).toBeCloseTo(told.strands[0]!.eaten, 1);
    expect(readForm({ format: 'foxtrail-form/1' }).ok).toBeFalse();
  });
  it('writes the surfaces as glTF, a node for each rope by its name', async () => {
    const text = (await foxtrail(['set', demo('reef'), '-o', 'reef.gltf'])).files['reef.gltf']!;
    const { asset, nodes } = JSON.parse(text) as { asset: { version: string }; nodes: { name: string }[] };
    expect(asset.version).toBe('2.0');
    expect(nodes.map((n) => n.name)).toEqual(['the pale rope', 'the dark rope']);
    expect((await foxtrail(['set', demo('reef'), '-o', 'reef.glb'])).files['reef.glb']!.slice(0, 4)).toBe('glTF');
  });
  it('sets a knot in the way that is called right, or in one that is named, and says what is not dressed', async () => {
    const file = JSON.parse(readFileSync(demo('bowline'), 'utf8')) as {
      ropes: { points: unknown[] }[];
      method: { dressings?: object[] };
    };
    const last = file.ropes[0]!.points.length - 1;
    const pull = (at: number, pulled: string): object => ({ place: { strand: 'a', at }, pulled });
    file.method.dressings = [
      { name: 'Plain' },
      {
        name: 'Tail first',
        inTurn: true,
        pulls: [pull(last, 'by hand'), pull(last / 2, 'loaded'), pull(0, 'loaded')],
      },
    ];
    const own = { 'own.json': JSON.stringify(file) };
    const plain = await foxtrail(['set', 'own.json'], own);
    expect(plain.said).toMatch(/presses hardest: a .* of the pull/);
    expect(plain.said).not.toContain('not dressed');
    expect((await foxtrail(['set', 'own.json', '--dressing', 'Tail first'], own)).said).toContain(
      'once more than drawn',
    );
    expect((await foxtrail(['set', 'own.json', '--dressing', 'Backwards'], own)).complained).toContain(
      'There is “Plain”, “Tail first”',
    );
  });
});
