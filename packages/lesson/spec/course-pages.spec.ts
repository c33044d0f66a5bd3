import { readdirSync, readFileSync } from 'node:fs';
import { readKnot, type KnotDocument } from '@foxtrail/core';
import { assemblySchema } from '@foxtrail/core/assembly';
import { stepsToLay } from '@foxtrail/core/drill';
import {
  coursePage,
  courseRigPage,
  knotPage,
  layPage,
  mayBeLaid,
  mayBeTraced,
  yoursPage,
  type CourseOnPages,
} from '../src/index.js';
import { demo, elements, page } from './support.js';

const FRAME = { version: '1' };

describe('The pages of a course', () => {
  const KNOTS = ['00000000-0000-4000-8000-000000000001', '00000000-0000-4000-8000-000000000002'] as const;
  const rig = assemblySchema.parse({
    name: 'Ridge line',
    summary: 'Between two posts.',
    things: [{ id: 'p', name: 'Post', kind: 'post', acrossMm: 80, x: 100, y: 300 }],
    knots: [
      { id: 'k', role: 'First end', ref: `knot:${KNOTS[0]}`, name: 'Reef', x: 300, y: 300 },
      { id: 'l', role: 'Second end', ref: 'pattern:bowline', name: 'Bowline', x: 600, y: 300 },
    ],
    ropes: [{ name: 'Line', diameterMm: 4, stops: [{ kind: 'knot', knot: 'k', eats: 10, afterMm: 300 }] }],
  });
  const part = { goal: 'Tie it.', time: '5 min' };
  const on: CourseOnPages = {
    slug: 'first-season',
    lessons: { [KNOTS[0]]: 'reef' },
    course: {
      name: 'First season',
      summary: '',
      goals: [],
      time: '1 h',
      items: [
        { kind: 'lesson', knot: KNOTS[0], name: 'Reef', ...part },
        { kind: 'lesson', knot: KNOTS[1], name: 'Withdrawn', ...part },
        {
          kind: 'assembly',
          name: 'Ridge line',
          ...part,
          assembly: rig,
          groups: [{ title: 'First end', number: 1, items: [{ id: 'k-is', text: 'It is the reef knot.' }] }],
          patterns: {},
        },
      ],
    },
  };
  const addresses = (text: string): (string | undefined)[] =>
    elements(text).flatMap((e) => (e.name === 'a' ? [e.attributes.href] : []));

  it('lead from its contents to each part that is published, and say of the others that they are not', () => {
    const text = coursePage(on, 'Test house', FRAME);
    expect(addresses(text)).toContain('/learn/reef?course=first-season');
    expect(addresses(text)).toContain('/learn/courses/first-season/3');
    expect(text).toContain('This lesson is not published at present.');
  });

  it('lead from a lesson to what comes before and after, and keep the course from view to view', () => {
    const text = knotPage({ ...page(demo('reef')), slug: 'reef' }, {}, FRAME, on) ?? '';
    expect(text).toContain('1 of 3');
    expect(addresses(text).some((a) => a?.startsWith('?course=first-season&') === true)).toBeTrue();
    // What follows is withdrawn: the contents lead on.
    expect(addresses(text)).toContain('/learn/courses/first-season');
    const alone = knotPage({ ...page(demo('reef')), slug: 'reef' }, {}, FRAME) ?? '';
    expect(alone).not.toContain('course-bar');
    const other = knotPage({ ...page(demo('overhand')), slug: 'overhand' }, {}, FRAME, on) ?? '';
    expect(other).not.toContain('course-bar');
  });

  it('show an assembly with its knots in their order, each with its lesson, and what is looked at', () => {
    const text = courseRigPage(on, 2, FRAME) ?? '';
    expect(addresses(text)).toContain('/learn/reef?course=first-season');
    expect(elements(text).filter((e) => e.attributes.type === 'checkbox').length).toBe(2);
    expect(text).toContain('/api/public/patterns/bowline/form/front.svg');
    expect(text.indexOf('First end')).toBeLessThan(text.indexOf('Second end'));
    expect(courseRigPage(on, 0, FRAME)).toBeUndefined();
    expect(courseRigPage(on, 9, FRAME)).toBeUndefined();
  });
});

describe('The pages on which a knot is laid and shown', () => {
  const knotOf = (name: string): KnotDocument => {
    const read = readKnot(demo(name));
    if (!read.ok) throw new Error(read.reason);
    return read.value;
  };
  const shown = { method: 0, view: 'front' as const };

  it('say each move, for who has no script or lays it in rope', () => {
    const text = layPage(page(demo('reef')), knotOf('reef'), shown, FRAME);
    const moves = elements(text).filter((e) => e.name === 'li' && e.attributes['data-step'] !== undefined);
    expect(moves.length).toBe(stepsToLay(knotOf('reef').method).length);
    const left = layPage(page(demo('reef')), knotOf('reef'), { ...shown, view: 'left' }, FRAME);
    expect(elements(left).some((e) => 'data-left' in e.attributes)).toBeTrue();
  });

  it('are there for what is practised: no wrong way is, and nothing that nobody could trace', () => {
    expect(mayBeLaid(knotOf('reef'))).toBeTrue();
    expect(mayBeTraced(knotOf('reef'))).toBeTrue();
    const wrong = { ...knotOf('reef'), entry: { ...knotOf('reef').entry, wrongWayOf: 'Square knot' } };
    expect([mayBeLaid(wrong), mayBeTraced(wrong)]).toEqual([false, false]);
    expect(yoursPage(page(demo('reef')), knotOf('reef'), shown, FRAME)).toContain('nothing of them is sent');
  });
});

describe('The styles of learners’ pages', () => {
  it('name sides by the way that one reads, so that a page may be read from the right', () => {
    const folder = new URL('../styles/', import.meta.url);
    for (const file of readdirSync(folder)) {
      const text = readFileSync(new URL(file, folder), 'utf8');
      const sides = text.match(
        /\b(?:margin|padding|border)-(?:left|right)\b|text-align: (?:left|right)|^\s+(?:left|right):.*/gm,
      );
      expect(sides).withContext(file).toBeNull();
    }
  });
});
