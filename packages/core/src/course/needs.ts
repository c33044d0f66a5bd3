/**
 * What must come before what in a course, by computation: a knot before the assembly that uses it, a knot before what is derived from it, a word
 * before the text that uses it; and the order that keeps to it with as little moved as can be.
 */
import type { KinKind } from '../kin/kinds.js';
import { sayKin } from '../kin/relations.js';
import { theKnot } from '../words/vocabulary.js';
import type { Course, LessonFacts, LessonFactsOf } from './course.js';

/** One item must come before another. The weightier kinds are kept where not all can be. */
export interface Need {
  /** Indices of the items: the one that must come first, and the one that needs it. */
  readonly first: number;
  readonly then: number;
  readonly kind: 'uses' | 'derived' | 'word';
  /** In a sentence. */
  readonly why: string;
}

/** A stated or proved kinship, its sides as `knot:` or `pattern:` and an id. */
export interface KinOf {
  readonly from: string;
  readonly to: string;
  readonly kind: KinKind;
  readonly turns?: number;
}

/** Kinships by which one knot is made of another: it is learned after it. */
const MADE_OF: ReadonlySet<KinKind> = new Set([
  'one more turn',
  'slipped',
  'doubled on the bight',
  'followed',
  'finished with',
  'made into',
  'backed up with',
]);

export interface NeedsHouse {
  readonly facts: LessonFactsOf;
  readonly kin: readonly KinOf[];
  /** What the house calls a concept, and the pattern that a concept is of. */
  readonly wordOf: (concept: string) => string;
  readonly patternOfConcept: (concept: string) => string | undefined;
}

const isOf = (facts: LessonFacts | undefined, ref: string): boolean =>
  facts !== undefined && (facts.ref === ref || (facts.pattern !== null && ref === `pattern:${facts.pattern}`));

/** Everything that must come before something else, in the order of the items that need it. */
export function needsOf(course: Course, { facts, kin, wordOf, patternOfConcept }: NeedsHouse): Need[] {
  const known = course.items.map((i) => facts(i.ref));
  const needs: Need[] = [];
  const put = (need: Need): void => {
    if (need.first === need.then) return;
    // Told once, by its weightiest reason.
    if (!needs.some((n) => n.first === need.first && n.then === need.then)) needs.push(need);
  };
  /** The first item that is what is wanted. */
  const itemOf = (ref: string): number => known.findIndex((f) => isOf(f, ref));
  known.forEach((own, then) => {
    for (const used of own?.uses ?? []) {
      const first = [used.ref, `pattern:${used.pattern ?? ''}`].map(itemOf).find((i) => i >= 0);
      if (first !== undefined)
        put({ first, then, kind: 'uses', why: `${own!.name} is tied with ${theKnot(used.name)}.` });
    }
    for (const { from, to, kind, turns } of kin) {
      if (!MADE_OF.has(kind) || !isOf(own, to)) continue;
      const first = itemOf(from);
      if (first >= 0) put({ first, then, kind: 'derived', why: sayKin(kind, known[first]!.name, own!.name, turns) });
    }
    for (const word of own?.words ?? []) {
      if (own!.introduces.includes(word) || course.known.includes(word)) continue;
      const pattern = patternOfConcept(word);
      const ofKnot = pattern === undefined ? -1 : itemOf(`pattern:${pattern}`);
      const first = ofKnot >= 0 ? ofKnot : known.findIndex((f) => f?.introduces.includes(word) === true);
      if (first >= 0) put({ first, then, kind: 'word', why: `The lesson of ${own!.name} says “${wordOf(word)}”.` });
    }
  });
  return needs;
}

const WEIGHTS: Readonly<Record<Need['kind'], number>> = { uses: 3, derived: 2, word: 1 };

export interface Ordered {
  /** Indices of the items in the order that is proposed. */
  readonly order: readonly number[];
  /** Needs that go round in a circle, each of which nothing can keep as a whole; the least weighty of each is not kept. */
  readonly circles: readonly (readonly Need[])[];
}

/** The order nearest to the one that stands in which every need is kept; circles are opened at the least weighty of their needs. */
export function orderedBy(count: number, needs: readonly Need[]): Ordered {
  const kept = [...needs];
  const circles: (readonly Need[])[] = [];
  for (let circle = circleIn(count, kept); circle; circle = circleIn(count, kept)) {
    circles.push(circle);
    const least = circle.reduce((a, b) => (WEIGHTS[b.kind] < WEIGHTS[a.kind] ? b : a));
    kept.splice(kept.indexOf(least), 1);
  }
  const order: number[] = [];
  const done = new Set<number>();
  // Each item as soon as it is its turn, what it needs right before it.
  const lay = (item: number): void => {
    if (done.has(item)) return;
    done.add(item);
    for (const { first } of kept.filter((n) => n.then === item).sort((a, b) => a.first - b.first)) lay(first);
    order.push(item);
  };
  for (let i = 0; i < count; i += 1) lay(i);
  return { order, circles };
}

/** Needs that lead from an item round to it again; none where there is no circle. */
function circleIn(count: number, needs: readonly Need[]): readonly Need[] | undefined {
  const state = new Array<0 | 1 | 2>(count).fill(0);
  const way: Need[] = [];
  const visit = (item: number): readonly Need[] | undefined => {
    state[item] = 1;
    for (const need of needs) {
      if (need.then !== item) continue;
      if (state[need.first] === 2) continue;
      way.push(need);
      if (state[need.first] === 1) return way.slice(way.findIndex((n) => n.then === need.first));
      const found = visit(need.first);
      if (found) return found;
      way.pop();
    }
    state[item] = 2;
    return undefined;
  };
  for (let i = 0; i < count; i += 1) {
    if (state[i] !== 0) continue;
    const found = visit(i);
    if (found) return found;
  }
  return undefined;
}

/** The words that are new in each item: those that nothing before it used, and that learners do not bring. */
export function newWords(course: Course, facts: LessonFactsOf, isKnown: (concept: string) => boolean): string[][] {
  const met = new Set(course.known);
  return course.items.map(({ ref }) => {
    const own = facts(ref);
    const fresh = [...new Set([...(own?.introduces ?? []), ...(own?.words ?? [])])].filter(
      (w) => !met.has(w) && !isKnown(w),
    );
    fresh.forEach((w) => met.add(w));
    return fresh;
  });
}
