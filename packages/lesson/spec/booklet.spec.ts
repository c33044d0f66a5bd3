import { readKnot, stepsOf } from '@foxtrail/core';
import { bookletPages, picturesOf, type Booklet, type BookletLesson, type BookletRig } from '../src/booklet.js';
import { EPUB_TYPE, epubFiles, xhtmlPath } from '../src/epub.js';
import { demo, elements, page } from './support.js';

const lesson = (file: string, name: string): BookletLesson => ({
  kind: 'lesson',
  name,
  goal: `Tie the ${name}.`,
  time: '2 min',
  knot: page(demo(file), { slug: file }),
});
const rig: BookletRig = {
  kind: 'assembly',
  name: 'Ridge <line>',
  goal: '',
  time: '10 min',
  summary: '',
  useGrade: 'people depend on it',
  cautions: ['A line at the height of a neck.'],
  board: '<svg viewBox="0 0 1 1"></svg>',
  groups: [{ title: 'Anchor', number: 1, items: [{ text: 'It is the bowline.' }] }],
};
const booklet: Booklet = {
  name: 'First season',
  house: 'Test house',
  summary: 'Two mornings.',
  goals: ['Tie what holds a kite.'],
  made: '1 May 2026',
  time: '1 h',
  entries: [lesson('figure-eight', 'Figure eight'), lesson('bowline', 'Bowline'), rig],
  words: [{ word: 'bight', definition: 'Rope doubled back.', entries: [0, 1] }],
  ropes: [{ name: 'Line', length: '6 m', copies: 2 }],
};

describe('A booklet', () => {
  const pages = [...bookletPages(booklet)];
  const all = new Set([...pages.map((p) => p.path), 'style.css']);

  it('has a cover, a page for each entry, words and cards, all well-formed', () => {
    expect(pages.map((p) => p.path)).toEqual([
      'index.html',
      '01-figure-eight.html',
      '02-bowline.html',
      '03-ridge-line.html',
      'words.html',
      'cards.html',
    ]);
    for (const { text } of pages) expect(elements(text).filter((e) => e.name === 'h1').length).toBe(1);
  });

  it('stands by itself: no script, and no address that is not in it', () => {
    const pictures = new Set(
      booklet.entries.flatMap((e) => (e.kind === 'lesson' ? picturesOf(e) : [])).map((p) => p.path),
    );
    for (const { path, text } of pages) {
      const met = elements(text);
      expect(met.some((e) => e.name === 'script'))
        .withContext(path)
        .toBeFalse();
      for (const { name, attributes } of met) {
        const address = attributes.src ?? (name === 'a' || name === 'link' ? attributes.href : undefined);
        // Views and steps of a page are on it, or are not shown.
        if (address === undefined || /^[#?]/.test(address)) continue;
        expect(all.has(address) || pictures.has(address))
          .withContext(`${path}: ${address}`)
          .toBeTrue();
      }
    }
  });

  it('shows every step of a lesson, and its finishing steps in the hand', () => {
    const read = readKnot(demo('bowline'));
    if (!read.ok) throw new Error(read.reason);
    const steps = stepsOf(read.value.method);
    const { text } = pages[2]!;
    const met = elements(text);
    const shown = met.filter((e) => e.name === 'a' && e.attributes['data-step'] !== undefined).length;
    expect(shown).toBe(steps.length);
    const set = steps.filter((s) => s.does !== 'lay').length;
    expect(set).toBeGreaterThan(0);
    expect(picturesOf(booklet.entries[1] as BookletLesson).filter((p) => p.path.includes('step-')).length).toBe(set);
  });

  it('escapes what is written, shows the cautions of the grade, and has a box for everything that is looked at', () => {
    const { text } = pages[3]!;
    expect(text).toContain('Ridge &lt;line&gt;');
    expect(text).toContain('learn this from a qualified instructor');
    expect(text).toContain('A line at the height of a neck.');
    expect(text).toContain('<li>It is the bowline.</li>');
    expect(pages[5]!.text).toContain('It is the bowline.');
    expect(pages[4]!.text).toContain('Rope doubled back.');
  });
});

describe('A booklet as an e-book', () => {
  const pages = [...bookletPages({ ...booklet, name: 'Knots & lines' })].map((p) => ({
    ...p,
    path: xhtmlPath(p.path),
  }));
  const files = epubFiles({
    booklet: { ...booklet, name: 'Knots & lines' },
    pages,
    files: ['style.css', 'fonts/a.woff2', 'pictures/bowline/step-4.svg'],
    id: '00000000-0000-4000-8000-000000000001',
    modified: '2026-05-01T10:00:00Z',
  });
  const textOf = (path: string): string => files.find((f) => f.path === path)!.text;

  it('lists every file once with its type, its pages in the order of the booklet, and its contents', () => {
    const met = elements(textOf('book.opf'));
    const items = met.filter((e) => e.name === 'item');
    const hrefs = items.map((e) => e.attributes.href!);
    expect(new Set(hrefs).size).toBe(hrefs.length);
    for (const path of [...pages.map((p) => p.path), 'nav.xhtml', 'style.css', 'fonts/a.woff2'])
      expect(hrefs).toContain(path);
    expect(items.every((e) => e.attributes['media-type'] !== 'application/octet-stream')).toBeTrue();
    const drawn = items.filter((e) => e.attributes.properties === 'svg').map((e) => e.attributes.href!);
    expect(drawn).toEqual(pages.filter((p) => p.text.includes('<svg')).map((p) => p.path));
    expect(drawn).not.toContain('words.xhtml');
    const byId = new Map(items.map((e) => [e.attributes.id, e.attributes.href]));
    const read = met.filter((e) => e.name === 'itemref').map((e) => byId.get(e.attributes.idref));
    expect(read).toEqual(pages.map((p) => p.path));
    expect(textOf('book.opf')).toContain('<dc:title>Knots &amp; lines</dc:title>');
    const links = elements(textOf('nav.xhtml')).filter((e) => e.name === 'a');
    expect(links.map((e) => e.attributes.href)).toEqual(pages.map((p) => p.path));
    expect(textOf('nav.xhtml')).toContain('>Bowline</a>');
  });

  it('says where its list is, and is told by its type', () => {
    expect(elements(textOf('META-INF/container.xml')).find((e) => e.name === 'rootfile')?.attributes['full-path']).toBe(
      'book.opf',
    );
    expect(EPUB_TYPE).toBe('application/epub+zip');
  });
});
