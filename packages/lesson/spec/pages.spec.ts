import {
  DARK_LOOK,
  figureFileSchema,
  finishedLayout,
  KeyBook,
  PAPER_LOOK,
  readKnot,
  stepsOf,
  WORKSHOP_WORDS,
} from '@foxtrail/core';
import { questionsOf } from '@foxtrail/core/drill';
import type { PublicKnot } from '@foxtrail/contract';
import { html, knotPage, listPage, lookStyle, missingPage, pageStyle, PAGE_LOOK, practicePage } from '../src/index.js';
import { VIEW_NAMES } from '../browser/views.js';
import { demo, elements, page, type Met } from './support.js';

const FRAME = { version: '1' };
const written = (p: PublicKnot, asked: Parameters<typeof knotPage>[1] = {}): string => knotPage(p, asked, FRAME)!;

const FILES = ['overhand', 'figure-eight', 'bowline', 'reef', 'clove-hitch', 'water-knot', 'taut-line-hitch'];

describe('The page of a published knot', () => {
  it('is well-formed, and no id stands twice', () => {
    for (const file of FILES)
      for (const view of VIEW_NAMES) {
        const ids = elements(written(page(demo(file)), { view })).flatMap((e) => e.attributes.id ?? []);
        expect(new Set(ids).size).withContext(`${file} ${view}`).toBe(ids.length);
        expect(ids).toContain('player');
      }
  });

  it('can be read without a script: cautions first, every step with its picture in words, the tail', () => {
    for (const file of FILES) {
      const read = readKnot(demo(file));
      if (!read.ok) throw new Error(read.reason);
      const count = stepsOf(read.value.method).length;
      const text = written(page(demo(file)));
      const labels = elements(text).flatMap((e) =>
        e.name === 'svg'
          ? [e.attributes['aria-label'] ?? '']
          : e.attributes.class === 'formed'
            ? [e.attributes.alt ?? '']
            : [],
      );
      expect(labels.filter((l) => l.startsWith('Step ') && l.includes('Front view')).length).toBe(count);
      expect(labels).not.toContain('');
      expect(text.indexOf('class="cautions"')).toBeLessThan(text.indexOf('class="player"'));
      expect(text).toContain('Leave a tail of at least');
      expect(text).toContain(`<title>${read.value.name} · Fox Trail</title>`);
      expect(text).toContain('<meta name="description"');
    }
  });

  it('shows the knot in the hand at each step that finishes it, by the file of that step', () => {
    for (const file of FILES) {
      const read = readKnot(demo(file));
      if (!read.ok) throw new Error(read.reason);
      const finishing = stepsOf(read.value.method).flatMap((s) => (s.does === 'lay' ? [] : [s.index + 1]));
      const sources = elements(written(page(demo(file)))).flatMap((e) =>
        e.attributes.class === 'formed' ? [e.attributes.src ?? ''] : [],
      );
      // Once large, once among all steps.
      expect(sources).toEqual(
        [...finishing, ...finishing].map((k) => `/api/public/knots/a-knot/steps/${k}.svg?method=1&view=front`),
      );
    }
  });
  it('shows one step large where scripts are, and its controls only then', () => {
    const all = elements(written(page(demo('bowline'))));
    const slides = all.filter((e) => e.attributes.class === 'slide');
    expect(slides.filter((e) => e.attributes.hidden === undefined).length).toBe(1);
    for (const button of all.filter((e) => e.name === 'button')) expect(button.attributes.hidden).toBe('');
  });

  it('leads to every view, and says which one is shown', () => {
    for (const view of VIEW_NAMES) {
      const links = elements(written(page(demo('reef')), { view })).filter((e) => e.attributes['data-view']);
      expect(links.map((l) => l.attributes['data-view'])).toEqual([...VIEW_NAMES]);
      expect(
        links.filter((l) => l.attributes['aria-current'] === 'true').map((l) => l.attributes['data-view']),
      ).toEqual([view]);
    }
    expect(written(page(demo('reef')), { view: 'back' })).toContain('Seen from behind');
    expect(written(page(demo('reef')), { view: 'left' })).toContain('Left-handed</span>');
  });

  it('has what goes with it: words that it explains, the clip with its captions, wrong ways, files of every step', () => {
    const text = written(
      page(demo('overhand'), {
        clips: [0],
        terms: [{ id: 'bight', word: 'kite bend', definition: 'Rope doubled back.', figure: demo('reef') }],
        wrongWays: [{ name: 'False one', slug: 'false-one' }],
        otherSchools: ['The sea does it otherwise.'],
      }),
    );
    const all = elements(text);
    const hrefs = all.flatMap((e) => (e.name === 'a' ? [e.attributes.href] : []));
    expect(hrefs).toContain('/learn/false-one');
    for (const f of ['sheet.svg', 'steps/1.svg', 'steps/2.svg', 'figure.json', 'captions.vtt', 'clip.webm'])
      expect(hrefs).toContain(`/api/public/knots/a-knot/${f}`);
    expect(all.flatMap((e) => (e.name === 'track' ? [[e.attributes.kind, e.attributes.src]] : []))).toEqual([
      ['captions', '/api/public/knots/a-knot/captions.vtt'],
      ['chapters', '/api/public/knots/a-knot/chapters.vtt'],
      ['descriptions', '/api/public/knots/a-knot/descriptions.vtt'],
    ]);
    expect(text.indexOf('kite bend')).toBeLessThan(text.indexOf('class="player"'));
    expect(text).toContain('The sea does it otherwise.');
  });

  it('writes what authors wrote as text, never as markup', () => {
    const evil = '"><script>alert(1)</script><img src=x onerror=alert(2)>';
    const text = written(
      page(demo('overhand'), {
        terms: [{ id: 'x', word: evil, definition: evil, figure: null }],
        otherSchools: [evil],
        wrongWays: [{ name: evil, slug: 'x' }],
      }),
    );
    const all = elements(text);
    expect(all.filter((e) => e.name === 'script').map((e) => e.attributes.src)).toEqual(['/learn.js?v=1']);
    expect(all.some((e) => 'onerror' in e.attributes)).toBeFalse();
    expect(html`<p title="${evil}">${evil}</p>`.text).not.toContain('<script');
    // The content policy lets one style element through, and no style attribute.
    expect(all.filter((e) => e.name === 'style').length).toBe(1);
    expect(text).toContain(`<style>${pageStyle()}</style>`);
    expect(all.some((e) => 'style' in e.attributes)).toBeFalse();
  });

  it('plays films the way round that shows the knot, for the left hand the other way', () => {
    const film = { film: 'f'.repeat(64), name: 'First & last', duration: 4, turned: true, frames: [] };
    const { method, ...overhand } = demo('overhand');
    // It is finished in the layout in which it is laid anew.
    const relaid = method?.relaid?.map((l) => ({ ...l, footage: [film] }));
    const filmed = figureFileSchema.parse({ ...overhand, method: { ...method, relaid } });
    const sections = (view: 'front' | 'left'): Met[] =>
      elements(written(page(filmed), { view })).filter((e) => /^film( turned)?$/.test(e.attributes.class ?? ''));
    expect(sections('front').map((e) => e.attributes.class)).toEqual(['film turned']);
    expect(sections('left').map((e) => e.attributes.class)).toEqual(['film']);
    const text = written(page(filmed));
    expect(text).toContain('First &amp; last');
    expect(elements(text).find((e) => e.name === 'video')?.attributes.src).toBe(
      `/api/public/knots/a-knot/films/${film.film}`,
    );
    expect(elements(text).some((e) => e.name === 'track')).toBeFalse();
  });
  it('has what is said in a film beneath it and with it, for the hand that is shown', () => {
    const captions = [{ start: 0, end: 2, text: 'Lead it to the left & through.' }];
    const film = { film: 'f'.repeat(64), name: 'Take', duration: 4, turned: true, frames: [], captions };
    const { method, ...overhand } = demo('overhand');
    const relaid = method?.relaid?.map((l) => ({ ...l, footage: [film] }));
    const filmed = figureFileSchema.parse({ ...overhand, method: { ...method, relaid } });
    for (const [view, side, hand] of [
      ['front', 'left', 'right'],
      ['left', 'right', 'left'],
    ] as const) {
      const text = written(page(filmed), { view });
      expect(text).toContain(`Lead it to the ${side} &amp; through.`);
      const track = elements(text).find((e) => e.name === 'track');
      // What the browser draws would be turned with the film.
      expect('default' in (track?.attributes ?? {})).toBe(view === 'left');
      expect(track?.attributes.src).toBe(
        `/api/public/knots/a-knot/films/${film.film}/captions.vtt?hand=${hand}&method=1`,
      );
    }
  });

  it('plays of a film what is left of it, with the steps that begin in it', () => {
    const film = {
      film: 'f'.repeat(64),
      name: 'Take',
      duration: 40,
      frames: [],
      cut: [2.5, 31.25] as [number, number],
      steps: [{ step: 0, at: 3 }],
    };
    const { method, ...overhand } = demo('overhand');
    const relaid = method?.relaid?.map((l) => ({ ...l, footage: [film] }));
    const all = elements(written(page(figureFileSchema.parse({ ...overhand, method: { ...method, relaid } }))));
    const base = `/api/public/knots/a-knot/films/${film.film}`;
    expect(all.find((e) => e.name === 'video')?.attributes.src).toBe(`${base}#t=2.5,31.25`);
    expect(all.filter((e) => e.name === 'track').map((e) => [e.attributes.kind, e.attributes.src])).toEqual([
      ['chapters', `${base}/chapters.vtt?hand=right&method=1`],
    ]);
  });

  it('has what is laid over a film with it, and says it in words to whoever does not see it; without any, nothing', () => {
    const film = {
      film: 'f'.repeat(64),
      name: 'Take',
      duration: 40,
      frames: [],
      steps: [{ step: 1, at: 3 }],
      callouts: [{ kind: 'label', text: 'A “turn” & <its> end', keys: [{ at: 2, place: [0.25, 0.5] }], until: 4 }],
      passages: [{ from: 5, to: 8, speed: 0.5, hidden: true }],
    };
    const { method, ...overhand } = demo('overhand');
    const filmed = (f: object): ReturnType<typeof figureFileSchema.parse> => {
      const relaid = method?.relaid?.map((l) => ({ ...l, footage: [f] }));
      return figureFileSchema.parse({ ...overhand, method: { ...method, relaid } });
    };
    const { callouts, passages, steps, ...bare } = film;
    const said = { ...film, callouts: [{ ...callouts[0]!, text: 'A “turn” & its end' }] };
    const section = (f: object): Met => elements(written(page(filmed(f)))).find((e) => e.attributes.class === 'film')!;
    expect(JSON.parse(section(said).attributes['data-over']!)).toEqual({ steps, callouts: said.callouts, passages });
    expect(section(said).attributes['data-steps']).toBe(
      '/api/public/knots/a-knot/steps/{step}.svg?method=1&view=front',
    );
    expect(written(page(filmed(said)))).toContain('2.0 s: A “turn” &amp; its end');
    expect(section(bare).attributes['data-over']).toBeUndefined();
  });

  it('has every method: its own steps, files and clip, the first by default', () => {
    const [reef, overhand] = [demo('reef'), demo('overhand')];
    const two = figureFileSchema.parse({
      ...reef,
      method: { ...reef.method, name: 'By hand' },
      others: [{ ropes: overhand.ropes, hosts: [], method: { ...overhand.method, name: 'Round a spar' } }],
    });
    const of = (asked: Parameters<typeof knotPage>[1]): { text: string; hrefs: (string | undefined)[] } => {
      const text = written(page(two, { clips: [1] }), asked);
      return { text, hrefs: elements(text).flatMap((e) => (e.name === 'a' ? [e.attributes.href] : [])) };
    };
    const [first, second] = [of({}), of({ method: 1 })];
    const ways = (text: string): Met[] =>
      elements(text).filter((e) => e.attributes['data-method'] !== undefined && e.attributes['data-view'] === 'front');
    expect(
      ways(first.text)
        .slice(0, 2)
        .map((e) => e.attributes.href),
    ).toEqual(['?view=front', '?method=2&view=front']);
    for (const name of ['By hand', 'Round a spar']) expect(first.text).toContain(name);
    expect(first.text).toContain('legs of the bight');
    expect(second.text).not.toContain('legs of the bight');
    expect(first.hrefs).toContain('/api/public/knots/a-knot/steps/1.svg');
    expect(second.hrefs).toContain('/api/public/knots/a-knot/steps/1.svg?method=2');
    // Only the second has been filmed.
    expect(elements(first.text).some((e) => e.name === 'video')).toBeFalse();
    expect(elements(second.text).find((e) => e.name === 'video')?.attributes.src).toBe(
      '/api/public/knots/a-knot/clip.webm?method=2',
    );
  });

  it('shows a method there is when one is asked for that there is not', () => {
    expect(written(page(demo('overhand')), { method: 7 })).toBe(written(page(demo('overhand'))));
  });
});

describe('The other public pages', () => {
  it('list what is published, or say that nothing is', () => {
    const knots = [{ name: 'Reef & co', slug: 'reef', summary: 'Binds.' }];
    const courses = [{ name: 'First season', slug: 'first-season', summary: '', count: 3 }];
    const text = listPage({ house: 'Test house', knots, courses }, FRAME);
    const addresses = elements(text).flatMap((e) => e.attributes.href ?? []);
    expect(addresses).toContain('/learn/reef');
    expect(addresses).toContain('/learn/courses/first-season');
    expect(text).toContain('Reef &amp; co');
    expect(text).toContain('Published by Test house');
    expect(listPage({ house: 'Test house', knots: [], courses: [] }, FRAME)).toContain('Nothing is published yet.');
  });
  it('say when there is no such page', () => {
    const text = missingPage('This page is not published', 'It may have been withdrawn.', FRAME);
    expect(elements(text).some((e) => e.attributes.role === 'alert')).toBeTrue();
  });
});

describe('The colours of figures', () => {
  it('are all named in the page, with a light and a dark one each, and “no band” stays none', () => {
    const style = lookStyle();
    const names = JSON.stringify(PAGE_LOOK).match(/var\([^)]*\)/g) ?? [];
    for (const name of names) expect(style).toContain(`${name.slice(4, -1)}:light-dark(`);
    expect(PAGE_LOOK.ropes.map((r) => r.tick === 'none')).toEqual(PAPER_LOOK.ropes.map((r) => r.tick === 'none'));
    for (const colour of [PAPER_LOOK.ink, DARK_LOOK.ink, DARK_LOOK.ropes[1]!.body]) expect(style).toContain(colour);
  });
});

describe('The page on which a knot is practised', () => {
  const read = readKnot(demo('bowline'));
  if (!read.ok) throw new Error(read.reason);
  const knot = read.value;
  const { figure } = finishedLayout(knot.method);
  const found = questionsOf({
    name: knot.name,
    figure,
    words: WORKSHOP_WORDS,
    book: new KeyBook([]),
    lookalikes: [{ pattern: 'granny', name: 'Granny', figure, set: true }],
  });
  if (!found.ok) throw new Error(found.reason);
  const questions = found.value;
  const text = practicePage(page(demo('bowline')), knot, questions, FRAME);

  it('is well-formed, has every question with its answer, and reads without a script', () => {
    const met = elements(text);
    const asked = met.filter((e) => e.attributes['data-question'] !== undefined);
    expect(asked.map((e) => e.attributes['data-question'])).toEqual(questions.map((q) => q.id));
    expect(met.filter((e) => e.name === 'details').length).toBe(questions.length);
    const ids = met.flatMap((e) => e.attributes.id ?? []);
    expect(new Set(ids).size).toBe(ids.length);
    expect(
      met.some((e) => e.name === 'img' && e.attributes.src?.endsWith('/patterns/granny/form/front.svg')),
    ).toBeTrue();
    expect(text).toContain('data-revision="3"');
  });

  it('does not give away by its picture whether a knot is right: as much room, as many numbers, no name', () => {
    const boxes = questions.flatMap((q) => {
      const at = text.indexOf(`data-question="${q.id}"`);
      const part = text.slice(at, text.indexOf('<details>', at));
      if (q.kind !== 'judge' || q.id === 'judge:back' || part.includes('<img')) return [];
      return [[/viewBox="[^"]*"/.exec(part)?.[0], part.match(/class="number"/g)?.length]];
    });
    expect(boxes.length).toBeGreaterThan(5);
    for (const box of boxes) expect(box).toEqual(boxes[0]!);
    for (const [, label] of text.matchAll(/<svg[^>]*aria-label="([^"]*)"/g)) expect(label).not.toMatch(/bowline/i);
  });

  it('is led to from the lesson of a knot that can be asked about, and not from that of a wrong way', () => {
    expect(written(page(demo('bowline')))).toContain('href="/learn/a-knot/practice"');
    expect(written(page(demo('granny')))).not.toContain('/practice');
  });
});
