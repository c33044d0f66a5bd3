/** What a course asks of lessons and assemblies: where they stand, what they are, the words they say, how long they take. */
import type { FigureFile } from '@foxtrail/core';
import type { LessonFacts } from '@foxtrail/core/course';
import { patternOf } from '@foxtrail/pattern-book';
import { aside } from './aside.js';
import type { LessonRead } from './aside-jobs.js';
import type { Queryable } from './database.js';
import { keptThings } from './kept-rows.js';
import { wordStock } from './words.js';

const NO_LESSON: LessonFacts = {
  ref: 'gone',
  name: '',
  state: 'gone',
  slug: null,
  pattern: null,
  words: [],
  introduces: [],
  seconds: null,
  uses: [],
};

interface Lesson {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly document: FigureFile;
  readonly archived: boolean;
  readonly slug: string | null;
}

/** A lesson is what is published of a knot; of one that is not published, what stands on the bench. */
const lessonsIn = async (db: Queryable, ids: readonly string[]): Promise<Lesson[]> =>
  (
    await db.query<Lesson>(
      `select k.id, k.name, r.number as revision, r.document, k.archived_at is not null as archived, p.slug
         from knot k left join publication p on p.knot_id = k.id
         join revision r on r.knot_id = k.id and r.number = coalesce(p.revision, k.revision)
        where k.id = any($1::uuid[])`,
      [ids],
    )
  ).rows;

/** Most lessons that are kept as they were read. */
const READ = 2000;
const idsOf = (refs: readonly string[], kind: 'knot' | 'assembly'): string[] =>
  refs.filter((r) => r.startsWith(`${kind}:`)).map((r) => r.slice(kind.length + 1));

/** Reads lessons once each, by their revision and the house's words. */
export class LessonReader {
  private readonly read = new Map<string, LessonRead>();

  async factsOf(db: Queryable, refs: readonly string[]): Promise<LessonFacts[]> {
    const wanted = [...new Set(refs)];
    const rigs = idsOf(wanted, 'assembly').length > 0 ? await keptThings(db, 'assemblies') : [];
    const own = rigs.filter((r) => wanted.includes(`assembly:${r.id}`));
    const used = idsOf(
      own.flatMap((r) => r.is.knots.map((k) => k.ref)),
      'knot',
    );
    const lessons = await lessonsIn(db, [...new Set([...idsOf(wanted, 'knot'), ...used])]);
    const known = await this.readAll(db, lessons);
    const byRef = new Map(lessons.map((l) => [`knot:${l.id}`, l]));
    const patternIn = (ref: string): string | null => {
      if (!ref.startsWith('pattern:')) return known.get(ref)?.pattern ?? null;
      const id = ref.slice('pattern:'.length);
      return patternOf(id) ? id : null;
    };
    return wanted.map((ref): LessonFacts => {
      const lesson = byRef.get(ref);
      const read = known.get(ref);
      if (lesson && read) {
        const { name, slug, archived } = lesson;
        return { ...NO_LESSON, ...read, ref, name, slug, state: archived ? 'archived' : 'there' };
      }
      const rig = own.find((r) => ref === `assembly:${r.id}`);
      if (!rig) return { ...NO_LESSON, ref };
      const uses = rig.is.knots.map((k) => ({ ref: k.ref, pattern: k.shouldBe ?? patternIn(k.ref), name: k.name }));
      return { ...NO_LESSON, ref, name: rig.is.name, state: 'there', uses };
    });
  }

  private async readAll(db: Queryable, lessons: readonly Lesson[]): Promise<Map<string, LessonRead>> {
    const { revision, glossary, choice } = await wordStock(db);
    const keyOf = (l: Lesson): string => `${l.id} ${l.revision} ${revision}`;
    const fresh = lessons.filter((l) => !this.read.has(keyOf(l)));
    if (fresh.length > 0) {
      const read = await aside('lessons', { documents: fresh.map((l) => l.document), glossary, choice });
      fresh.forEach((l, i) => this.read.set(keyOf(l), read[i]!));
    }
    const found = new Map(lessons.map((l) => [`knot:${l.id}`, this.read.get(keyOf(l))!]));
    // What was read first goes first.
    for (const key of this.read.keys()) {
      if (this.read.size <= READ) break;
      this.read.delete(key);
    }
    return found;
  }
}
