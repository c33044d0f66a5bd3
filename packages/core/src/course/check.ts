/** What is wrong or doubtful in a course, and what puts it right. */
import type { Course } from './course.js';
import { needsOf, newWords, orderedBy, type Need, type NeedsHouse } from './needs.js';

export interface CourseFinding {
  readonly code:
    'before-its-lesson' | 'circular' | 'not-taught' | 'many-new-words' | 'not-there' | 'not-published' | 'twice';
  readonly severity: 'error' | 'warning';
  /** The item that it is about, by its index. */
  readonly item?: number | undefined;
  readonly title: string;
  readonly why: string;
  readonly remedy: string;
  readonly mend?: { readonly label: string; readonly to: (c: Course) => Course } | undefined;
}

/** More words than these are not learned in one lesson. A custom in a round figure. */
export const MOST_NEW_WORDS = 10;

export interface CourseHouse extends NeedsHouse {
  /** Words that everybody is taken to know. */
  readonly isKnown: (concept: string) => boolean;
}

/** A course with an item moved to right before another. */
export function movedBefore(course: Course, item: number, before: number): Course {
  const items = [...course.items];
  const [moved] = items.splice(item, 1);
  if (moved) items.splice(item < before ? before - 1 : before, 0, moved);
  return { ...course, items };
}

/** A course in another order. */
export const inOrder = (course: Course, order: readonly number[]): Course => ({
  ...course,
  items: order.flatMap((i) => course.items[i] ?? []),
});

/** All that is found, in the order of the items. */
export function courseFindings(course: Course, house: CourseHouse): CourseFinding[] {
  const { items } = course;
  const needs = needsOf(course, house);
  const { circles } = orderedBy(items.length, needs);
  const inCircle = new Set(circles.flat());
  const fresh = newWords(course, house.facts, house.isKnown);
  const name = (i: number): string => items[i]?.name ?? '';
  return [
    ...items.flatMap((item, i): CourseFinding[] => [
      ...standing(course, i, house),
      ...needs.filter((n) => n.then === i && n.first > i && !inCircle.has(n)).map((n) => tooEarly(n, name)),
      ...notTaught(course, i, house),
      ...(fresh[i]!.length > MOST_NEW_WORDS
        ? [
            {
              code: 'many-new-words' as const,
              severity: 'warning' as const,
              item: i,
              title: `${item.name} brings ${fresh[i]!.length} new words`,
              why: `Nobody keeps more than about ${MOST_NEW_WORDS} at once: ${fresh[i]!.map(house.wordOf).join(', ')}.`,
              remedy: 'Put a lesson before it that explains some of them, or say which words learners bring.',
            },
          ]
        : []),
    ]),
    ...circles.map((circle): CourseFinding => ({
      code: 'circular',
      severity: circle.some((n) => n.kind === 'word') ? 'warning' : 'error',
      title: `${[...new Set(circle.flatMap((n) => [n.then, n.first]))].map(name).join(' and ')} need each other`,
      why: circle.map((n) => n.why).join(' '),
      remedy: 'No order keeps all of it: explain the word where it is first used, or take one of them out.',
    })),
  ];
}

const tooEarly = ({ first, then, why }: Need, name: (i: number) => string): CourseFinding => ({
  code: 'before-its-lesson',
  severity: 'error',
  item: then,
  title: `${name(then)} comes before ${name(first)}`,
  why: `${why} That is learned later.`,
  remedy: `Put ${name(first)} before it.`,
  mend: { label: `Put ${name(first)} before it`, to: (c) => movedBefore(c, first, then) },
});

function standing(course: Course, i: number, { facts }: NeedsHouse): CourseFinding[] {
  const item = course.items[i]!;
  const known = facts(item.ref);
  const found: CourseFinding[] = [];
  const out = { label: 'Take it out', to: (c: Course): Course => ({ ...c, items: c.items.filter((_, k) => k !== i) }) };
  if (known && known.state !== 'there')
    found.push({
      code: 'not-there',
      severity: 'error',
      item: i,
      title: known.state === 'gone' ? `${item.name} is not there any more` : `${item.name} is archived`,
      why: 'Learners cannot open it.',
      remedy:
        known.state === 'gone'
          ? 'Take it out, or put another in its place.'
          : 'Bring it back to the shelf, or take it out.',
      mend: out,
    });
  else if (known?.slug === null && item.ref.startsWith('knot:'))
    found.push({
      code: 'not-published',
      severity: 'warning',
      item: i,
      title: `${item.name} is not published`,
      why: 'Learners do not see it, and it is left out of the booklet.',
      remedy: 'Publish it on its sheet.',
    });
  if (item.ref !== 'gone' && course.items.findIndex((o) => o.ref === item.ref) < i)
    found.push({
      code: 'twice',
      severity: 'warning',
      item: i,
      title: `${item.name} comes twice`,
      why: 'A lesson that is meant to be repeated is better practised.',
      remedy: 'Take one of them out.',
      mend: out,
    });
  return found;
}

/** Knots of an assembly that no lesson of the course teaches. */
function notTaught(course: Course, i: number, { facts }: NeedsHouse): CourseFinding[] {
  const known = course.items.map((item) => facts(item.ref));
  const own = known[i];
  const missing = (own?.uses ?? []).filter(
    (u) => !known.some((f) => f && (f.ref === u.ref || (u.pattern !== null && f.pattern === u.pattern))),
  );
  const names = [...new Set(missing.map((u) => u.name))];
  if (!own || names.length === 0) return [];
  return [
    {
      code: 'not-taught',
      severity: 'warning',
      item: i,
      title: `${own.name} uses what no lesson of the course teaches`,
      why: `${names.join(', ')}.`,
      remedy: 'Put lessons on them before it.',
    },
  ];
}
