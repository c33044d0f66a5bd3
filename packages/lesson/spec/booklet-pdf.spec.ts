import { readKnot, stepsOf, stepText } from '@foxtrail/core';
import { assemblySchema, assemblySvg } from '@foxtrail/core/assembly';
import { pictureFolder, type Booklet, type BookletLesson } from '../src/booklet.js';
import { boardOnPaper, bookletOnPaper, cardsOnPaper, PAPER_SIZES, type OnPaper } from '../src/booklet-pdf.js';
import { demo, page } from './support.js';
import { SaxesParser } from 'saxes';

const lesson = (file: string, name: string): BookletLesson => ({
  kind: 'lesson',
  name,
  goal: 'Tie it.',
  time: '2 min',
  knot: page(demo(file), { slug: file }),
});
const rig = assemblySchema.parse({
  name: 'Guy',
  things: [{ id: 'p', name: 'Post', kind: 'post', acrossMm: 80, x: 200, y: 300 }],
  knots: [
    { id: 'k', role: 'Upper end', ref: 'pattern:bowline', name: 'Bowline', x: 300, y: 300 },
    { id: 'l', role: 'Lower end', ref: 'pattern:bowline', name: 'Bowline', x: 600, y: 300 },
  ],
});
const many = Array.from({ length: 20 }, (_, i) => ({ text: `Look at ${i + 1}.` }));
const booklet: Booklet = {
  name: 'First season',
  house: 'Test house',
  summary: '',
  goals: ['Tie what holds a kite.'],
  made: '1 May 2026',
  time: '1 h',
  entries: [
    lesson('reef', 'Reef knot'),
    lesson('bowline', 'Bowline'),
    {
      kind: 'assembly',
      name: 'Guy',
      goal: '',
      time: '10 min',
      summary: '',
      useGrade: 'load-bearing',
      cautions: [],
      board: assemblySvg(rig, (ref) => ref),
      groups: [{ title: 'Upper end', number: 1, items: many }],
    },
  ],
  words: [{ word: 'bight', definition: 'Rope doubled back.', entries: [0] }],
  ropes: [],
};
const PICTURE =
  '<svg viewBox="0 0 4 4"><defs><clipPath id="c"><path d="M0 0H4"/></clipPath></defs><g clip-path="url(#c)"/></svg>';
const on = (size: OnPaper['size'], picture: OnPaper['picture'] = () => undefined): OnPaper => ({ size, picture });

/** Everything of a document that has a key: its texts, its pictures. */
function found(value: unknown, key: string): unknown[] {
  if (Array.isArray(value)) return (value as unknown[]).flatMap((v) => found(v, key));
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value as Record<string, unknown>).flatMap(([k, v]) =>
    k === key ? [v, ...found(v, key)] : found(v, key),
  );
}
const saying = (value: unknown): string => JSON.stringify(found(value, 'text'));
function wellFormed(svg: string): string[] {
  const ids: string[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', (tag) => {
    if (typeof tag.attributes.id === 'string') ids.push(tag.attributes.id);
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(svg).close();
  return ids;
}

describe('A booklet on paper', () => {
  it('has a part for each lesson and assembly in its contents, and a page reference for each name', () => {
    for (const size of PAPER_SIZES) {
      const made = bookletOnPaper(booklet, on(size));
      expect(made.pageSize).toBe(size);
      expect(found(made.content, 'tocItem').length).toBe(booklet.entries.length + 2);
      const ids = found(made.content, 'id');
      for (const to of found(made.content, 'pageReference')) expect(ids).toContain(to);
    }
  });

  it('says every step with its picture, in lines and in the colours of paper', () => {
    const made = bookletOnPaper(booklet, on('A4'));
    const said = saying(made.content);
    const drawn = found(made.content, 'svg') as string[];
    for (const entry of booklet.entries) {
      if (entry.kind !== 'lesson') continue;
      const read = readKnot(entry.knot.document);
      if (!read.ok) throw new Error(read.reason);
      for (const { index } of stepsOf(read.value.method))
        expect(said).toContain(JSON.stringify(stepText(read.value.method, index, entry.knot.vocabulary)).slice(1, -1));
      expect(said).toContain('Leave a tail of at least');
    }
    expect(drawn.length).toBeGreaterThan(10);
    for (const svg of drawn) {
      expect(() => wellFormed(svg)).not.toThrow();
      // A style sheet reaches no picture on paper.
      expect(svg).not.toContain('var(--');
    }
  });

  it('shows the knot in the hand where its picture is there', () => {
    const [first] = booklet.entries as [BookletLesson];
    const path = `${pictureFolder(first.knot)}/form/front.svg`;
    const made = bookletOnPaper(
      booklet,
      on('A4', (p) => (p === path ? PICTURE : undefined)),
    );
    expect(found(made.content, 'svg')).toContain(PICTURE);
    expect(saying(made.content)).toContain('As tied');
    expect(saying(bookletOnPaper(booklet, on('A4')).content)).not.toContain('As tied');
  });

  it('has the pictures of a board in the board itself, each with ids of its own', () => {
    const board = boardOnPaper(
      assemblySvg(rig, (ref) => ref),
      () => PICTURE,
    );
    const ids = wellFormed(board);
    expect(ids.length).toBe(2);
    expect(new Set(ids).size).toBe(2);
    for (const id of ids) expect(board).toContain(`url(#${id})`);
    expect(board).not.toContain('<image');
    // Without its picture a knot is a disc with its number.
    expect(
      boardOnPaper(
        assemblySvg(rig, (ref) => ref),
        () => undefined,
      ),
    ).not.toContain('<image');
  });
});

describe('Pocket cards', () => {
  it('say all that is looked at, on so many cards as it needs, four to a page', () => {
    const { content } = cardsOnPaper(booklet, on('LETTER'));
    const said = saying(content);
    for (const { text } of many) expect(said).toContain(text);
    const pages = found(content, 'body') as unknown[][];
    for (const rows of pages) expect(rows.length).toBeLessThanOrEqual(4);
    // Two knots, and twenty lines in parts of at most eight.
    expect(pages.flat().length).toBeGreaterThanOrEqual(5);
    expect(said).toContain('Guy (1 of');
  });
});
