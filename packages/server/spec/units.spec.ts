import { processorTime } from '../src/processor-time.js';
import { PART_OF_A_PAGE } from '../src/security.js';
import { ROUTES } from '@foxtrail/contract/routes';
import {
  cautionsFor,
  crossingsOf,
  finishedLayout,
  methodFor,
  placeOfCrossing,
  readKnot,
  stepsOf,
  stepText,
  WORKSHOP_WORDS,
  type KnotDocument,
  type View,
} from '@foxtrail/core';
import { hashPassword, passwordMatches } from '../src/accounts.js';
import { Kept } from '../src/kept.js';
import { openApi } from '../src/openapi.js';
import { captions, describe as inWords, sheetSvg, stepSvg, thumbnail } from '../src/pictures.js';
import { slugOf } from '../src/publications.js';
import { demoDocument } from './server.js';

const knot = (file: string): KnotDocument => {
  const read = readKnot(demoDocument(file));
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};

describe('a readable address', () => {
  it('is made of plain letters, digits and hyphens', () => {
    for (const [name, slug] of [
      ['Clove hitch on a spar', 'clove-hitch-on-a-spar'],
      ['  Prusik (3 wraps) ', 'prusik-3-wraps'],
      ['Nœud d’été', 'n-ud-d-ete'],
      ['結び目', 'knot'],
      ['--', 'knot'],
    ] as const) {
      expect(slugOf(name)).toBe(slug);
      expect(slugOf(name)).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/);
    }
  });
});

describe('passwords', () => {
  it('match their hash and no other, however often the same one is hashed', async () => {
    const [one, two] = await Promise.all([hashPassword('tide table'), hashPassword('tide table')]);
    expect(one).not.toBe(two);
    expect(await passwordMatches('tide table', one)).toBeTrue();
    expect(await passwordMatches('tide table', two)).toBeTrue();
    expect(await passwordMatches('tide tables', one)).toBeFalse();
    expect(await passwordMatches('', one)).toBeFalse();
    // The same letters, composed or not, are the same password.
    expect(await passwordMatches('e\u0301te\u0301', await hashPassword('été'))).toBeTrue();
  });
});

describe('pictures', () => {
  it('of a step say in words what they show, in each view', () => {
    const reef = knot('reef.json');
    for (const [view, name] of [
      ['front', 'front view'],
      ['back', 'back view'],
      ['left', 'left-handed view'],
    ] as const) {
      const svg = stepSvg(reef.name, reef.method, 2, view, WORKSHOP_WORDS);
      expect(svg).toContain(`Reef knot, step 3 of 7, ${name}</title>`);
      expect(svg).toContain('round behind both legs of the bight');
    }
  });
  it('of a step with the author’s own text keep the composed one beside it', () => {
    const { name, method } = knot('overhand.json');
    const svg = stepSvg(name, method, 2, 'front', WORKSHOP_WORDS);
    expect(svg).toContain('dress the loop round and even');
    expect(svg).toContain('Lead the working end away and leave the tail.');
  });
  it('differ between front and back, and share no clip between the steps of a sheet', () => {
    const eight = knot('figure-eight.json');
    const body = (svg: string): string => svg.slice(svg.indexOf('<defs>'));
    const step = (view: View): string => body(stepSvg(eight.name, eight.method, 3, view, WORKSHOP_WORDS));
    expect(step('front')).not.toBe(step('back'));
    const ids = [...sheetSvg(eight, WORKSHOP_WORDS).matchAll(/ id="([^"]+)"/g)].map((m) => m[1]);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.filter((id) => /^step-\d$/.test(id ?? ''))).toEqual(['step-1', 'step-2', 'step-3', 'step-4', 'step-5']);
  });
  it('of a sheet hold every word of every step', () => {
    const reef = knot('reef.json');
    const text = sheetSvg(reef, WORKSHOP_WORDS)
      .replace(/<[^>]+>/g, ' ')
      .replace(/\s+/g, ' ');
    stepsOf(reef.method).forEach((_, i) => {
      for (const word of stepText(reef.method, i, WORKSHOP_WORDS).split(/\s+/)) expect(text).toContain(word);
    });
  });
  it('of a sheet end with what to look for and what goes wrong, numbered and ringed', () => {
    const bowline = knot('bowline.json');
    const svg = sheetSvg(bowline, WORKSHOP_WORDS);
    const group = (id: string): string =>
      svg.slice(svg.indexOf(`<g id="${id}">`)).split(/<g id="(?:mark|wrong)-\d+">/)[1] ?? '';
    expect(svg).toContain('<g id="inspect-front">');
    expect(svg).toContain('<g id="inspect-back">');
    const count = finishedLayout(bowline.method).marks!.length;
    for (let n = 1; n <= count; n += 1) expect(svg).toContain(`>${n}. `);
    expect(group('wrong-1')).toContain('fill="none" stroke="#7c2752"');
    expect(svg.replace(/<[^>]+>/g, ' ')).toContain('False bowline.');
    const { relaid: _dressed, ...method } = bowline.method;
    expect(sheetSvg({ ...bowline, method }, WORKSHOP_WORDS)).not.toMatch(/id="(inspect|wrong)/);
  });
  it('of a sheet begin with the cautions, before the first step', () => {
    const bowline = knot('bowline.json');
    const svg = sheetSvg(bowline, WORKSHOP_WORDS);
    const words = (text: string): string => text.replace(/<[^>]+>/g, ' ').replace(/\s+/g, ' ');
    const before = words(svg.slice(svg.indexOf('id="cautions"'), svg.indexOf('id="step-1"')));
    for (const caution of cautionsFor(bowline.entry.useGrade, bowline.entry.cautions))
      for (const word of caution.split(' ')) expect(before).toContain(word);
  });
  it('of a knot without steps are the figure alone', () => {
    const bare: KnotDocument = { ...knot('overhand.json'), method: methodFor(knot('overhand.json').method.figure) };
    expect(thumbnail(bare, WORKSHOP_WORDS)).toContain('<svg');
    expect(inWords(bare, WORKSHOP_WORDS)).toContain('without steps');
  });
  it('never let an author’s text become markup', () => {
    const { method } = knot('overhand.json');
    const sly: KnotDocument = {
      ...knot('overhand.json'),
      method: {
        ...method,
        exhibits: [
          {
            crossings: crossingsOf(method.figure).slice(0, 1).map(placeOfCrossing),
            becomes: '<script>',
            tell: '</text><script>x</script>',
          },
        ],
        halts: method.halts.map((h) => ({ ...h, text: '</desc><script>x</script>' })),
      },
    };
    for (const svg of [
      stepSvg(sly.name, sly.method, 0, 'front', WORKSHOP_WORDS),
      sheetSvg(sly, WORKSHOP_WORDS),
      thumbnail(sly, WORKSHOP_WORDS),
    ])
      expect(svg).not.toContain('<script');
    expect(
      captions(sly, sly.method, WORKSHOP_WORDS, { pace: 'normal', warned: false, reel: undefined }, 42),
    ).not.toContain('<script');
  });
});

describe('Pictures that are kept', () => {
  it('are drawn once for all who ask, again when they failed, and the one longest not asked for goes first', async () => {
    const drawn: string[] = [];
    const kept = new Kept<string>(2);
    const ask = (key: string, fails = false): Promise<string> =>
      kept.of(key, () => {
        drawn.push(key);
        return fails ? Promise.reject(new Error('no')) : Promise.resolve(key.toUpperCase());
      });
    expect(await Promise.all([ask('a'), ask('a'), ask('b')])).toEqual(['A', 'A', 'B']);
    expect(drawn.join('')).toBe('ab');
    await ask('a');
    await ask('c');
    await ask('a');
    expect(drawn.join('')).toBe('abc');
    await ask('b');
    expect(drawn.join('')).toBe('abcb');
    await expectAsync(ask('d', true)).toBeRejected();
    expect(await ask('d')).toBe('D');
  });
});

describe('a sheet', () => {
  const withTwo = (): KnotDocument => {
    const reef = knot('reef.json');
    return { ...reef, methodName: 'By hand', others: [{ name: 'Round a spar', method: knot('overhand.json').method }] };
  };
  it('has every step of every method, each with a picture of its own, under the method’s name', () => {
    const two = withTwo();
    const svg = sheetSvg(two, WORKSHOP_WORDS);
    for (const [prefix, { method }] of [['', two] as const, ['method-2-', two.others![0]!] as const])
      for (const { index } of stepsOf(method)) expect(svg).toContain(`<g id="${prefix}step-${index + 1}">`);
    expect(svg.indexOf('>By hand<')).toBeLessThan(svg.indexOf('>Round a spar<'));
    // With one method there is nothing to tell it from.
    expect(sheetSvg(knot('reef.json'), WORKSHOP_WORDS)).not.toContain('Method 1');
  });
});

describe('captions', () => {
  it('last longer at a slower pace', () => {
    const reef = knot('reef.json');
    const last = (pace: 'slow' | 'brisk'): string =>
      [
        ...captions(reef, reef.method, WORKSHOP_WORDS, { pace, warned: false, reel: undefined }, 42).matchAll(
          /--> (\S+)/g,
        ),
      ].at(-1)?.[1] ?? '';
    expect(last('slow') > last('brisk')).toBeTrue();
  });
  it('of a clip that shows a reel are the reel’s', () => {
    const reef = knot('reef.json');
    const reel = { name: 'Card', scenes: [{ kind: 'card', text: 'Only this.' } as const] };
    const method = { ...reef.method, reels: [reel] };
    const filming = { pace: 'normal', warned: false, reel: 0 } as const;
    expect(captions(reef, method, WORKSHOP_WORDS, filming, 42)).toMatch(/\n\nscene-1\n\S+ --> \S+\nOnly this\.\n$/);
    expect(captions(reef, method, WORKSHOP_WORDS, { ...filming, reel: undefined }, 42)).not.toContain('Only this');
  });
});

describe('the OpenAPI document', () => {
  const document = openApi() as {
    paths: Record<
      string,
      Record<string, { parameters: { name: string; in: string }[]; security: object[]; responses: object }>
    >;
  };
  it('names every parameter in a path', () => {
    for (const [path, methods] of Object.entries(document.paths)) {
      const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
      for (const m of Object.values(methods))
        expect(m.parameters.filter((p) => p.in === 'path').map((p) => p.name))
          .withContext(path)
          .toEqual(names as string[]);
    }
  });
  it('asks for a session everywhere but on public routes', () => {
    for (const r of ROUTES)
      expect(document.paths[r.path]?.[r.method]?.security.length)
        .withContext(r.path)
        .toBe(r.access === 'anyone' ? 0 : 1);
  });
});

describe('the content policy', () => {
  it('is carried by pages, workers and answers, and not by what is only part of a page', () => {
    for (const part of ['/chunk-AB12CD34.js', '/styles-AB12CD34.css', '/media/font-AB12CD34.woff2', '/favicon.svg'])
      expect(PART_OF_A_PAGE.test(part)).withContext(part).toBeTrue();
    for (const whole of ['/', '/learn/reef-knot', '/worker-AB12CD34.js', '/api/session', '/api/knots/1/thumbnail.svg'])
      expect(PART_OF_A_PAGE.test(whole)).withContext(whole).toBeFalse();
  });
});

describe('Processor time', () => {
  it('counts what a process works, not what it waits', async () => {
    const before = processorTime(process.pid)!;
    await new Promise((done) => setTimeout(done, 300));
    const waited = processorTime(process.pid)!;
    const until = process.cpuUsage().user + 400_000;
    while (process.cpuUsage().user < until);
    const worked = processorTime(process.pid)!;
    expect(worked - waited).toBeGreaterThan(300);
    expect(waited - before).toBeLessThan(worked - waited);
  });
  it('is not known of a process that is not there', () => {
    expect(processorTime(undefined)).toBeUndefined();
    expect(processorTime(2 ** 30)).toBeUndefined();
  });
});
