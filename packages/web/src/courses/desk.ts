/**
 * The desk of a course: its lessons and assemblies in an order, what each brings that is new and how long it takes, what comes too early, the ropes
 * of all of it, and its booklet.
 */
import { CdkDrag, CdkDragHandle, CdkDropList, moveItemInArray, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import type { CoursePublication } from '@foxtrail/contract/courses';
import type { Kept } from '@foxtrail/contract/ropes';
import { sameName } from '@foxtrail/core';
import { asPlanRope } from '@foxtrail/core/assembly';
import {
  COURSE_LIMITS,
  courseFindings,
  courseItemSchema,
  courseTime,
  inOrder,
  needsOf,
  newWords,
  orderedBy,
  sayMinutes,
  timeOf,
  type Course,
  type CourseFinding,
  type CourseItem,
} from '@foxtrail/core/course';
import { planned, planSchema, PLAN_LIMITS } from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { CoursesService } from '../data/courses';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { CutList } from '../ropes/cut-list';
import { KeptDraft } from '../ropes/kept-draft';
import { KeptTrouble } from '../ropes/kept-trouble';
import { lengthsSaid } from '../ropes/lengths-said';
import { Notices } from '../ui/notices';
import { fileName, saveFile } from '../ui/save-file';
import { CourseClasses } from './classes';
import { BookletMaker, endingOf, type BookletKind } from './make-booklet';

/** Most names that are offered. */
const OFFERED = 40;

@Component({
  selector: 'ft-course-desk',
  imports: [
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    MatAutocompleteModule,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    MatProgressBarModule,
    RouterLink,
    CourseClasses,
    CutList,
    KeptTrouble,
  ],
  providers: [BookletMaker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './desk.html',
  styleUrl: './desk.scss',
})
export class CourseDesk {
  /** The course’s id, from the address. */
  readonly course = input.required<string>();
  private readonly kept = inject(RopesService);
  private readonly known = inject(CoursesService);
  private readonly kin = inject(KinService);
  private readonly words = inject(WordsService);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly booklet = inject(BookletMaker);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly asking = new Attempt();
  protected readonly making = new Attempt();
  protected readonly publishing = new Attempt();
  /** How it is published; null: it is not, undefined: it is not known yet. */
  protected readonly publication = signal<CoursePublication | null | undefined>(undefined);
  private readonly sayMm = lengthsSaid();
  protected readonly say = sayMinutes;
  protected readonly most = COURSE_LIMITS.minutes;
  /** What it is handed out as, by what that is called. */
  protected readonly kinds: Readonly<Record<BookletKind, string>> = {
    'web pages': 'Web pages (ZIP)',
    'e-book': 'E-book (EPUB)',
    'booklet A4': 'Booklet, A4 (PDF)',
    'booklet LETTER': 'Booklet, Letter (PDF)',
    'cards A4': 'Pocket cards, A4 (PDF)',
    'cards LETTER': 'Pocket cards, Letter (PDF)',
  };
  protected readonly kindList = Object.keys(this.kinds) as BookletKind[];

  protected readonly there = computed(() => this.kept.courses.find(this.course()));
  protected readonly written = new KeptDraft(this.kept.courses, 'courses', this.attempt, this.notices);
  protected readonly draft = this.written.draft;
  protected readonly unsaved = this.written.unsaved;
  protected readonly steps = this.written.steps;
  protected readonly asked = signal('');

  private readonly refs = computed(() => this.draft()?.items.map((i) => i.ref) ?? []);
  protected readonly findings = computed((): readonly CourseFinding[] => {
    const draft = this.draft();
    return draft ? courseFindings(draft, this.known.house()) : [];
  });
  protected readonly reading = computed(() => this.refs().some((r) => this.known.facts()(r) === undefined));

  protected readonly rows = computed(() => {
    const draft = this.draft();
    if (!draft) return [];
    const house = this.known.house();
    const fresh = newWords(draft, house.facts, house.isKnown);
    const needs = needsOf(draft, house);
    return draft.items.map((item, i) => {
      const facts = house.facts(item.ref);
      const { showing } = timeOf(item, facts);
      const found = this.findings().filter((f) => f.item === i);
      return {
        item,
        isRig: item.ref.startsWith('assembly:'),
        name: facts?.name === undefined || facts.name === '' ? item.name : facts.name,
        words: fresh[i]!.map(this.named),
        after: [...new Set(needs.filter((n) => n.then === i).map((n) => draft.items[n.first]!.name))],
        film: facts?.seconds == null ? undefined : sayMinutes(facts.seconds / 60),
        shown: showing === undefined ? '' : String(Math.round(10 * showing) / 10),
        bad: found.some((f) => f.severity === 'error'),
        link: item.ref.startsWith('knot:')
          ? ['/knot', item.ref.slice('knot:'.length), 'sheet']
          : ['/assemblies', item.ref.slice('assembly:'.length)],
      };
    });
  });

  private readonly named = (id: string): { id: string; name: string } => ({ id, name: this.words.wordFor(id) });
  protected readonly brought = computed(() => (this.draft()?.known ?? []).map(this.named));
  protected bring(word: string): void {
    this.change({ known: [...(this.draft()?.known ?? []), word] });
  }
  protected unbring(word: string): void {
    this.change({ known: (this.draft()?.known ?? []).filter((k) => k !== word) });
  }

  /** The order in which everything is explained before it is used, where it is another than this. */
  protected readonly proposed = computed(() => {
    const draft = this.draft();
    if (!draft || this.reading()) return undefined;
    const { order } = orderedBy(draft.items.length, needsOf(draft, this.known.house()));
    return order.every((k, i) => k === i) ? undefined : order;
  });
  protected readonly time = computed(() => {
    const draft = this.draft();
    return draft ? courseTime(draft, this.known.facts()) : { minutes: 0, unknown: 0 };
  });

  /** The ropes of all assemblies, for all learners. */
  private readonly allRopes = computed(() => {
    const draft = this.draft();
    return (draft?.items ?? []).flatMap(({ ref }) => {
      const is = ref.startsWith('assembly:') ? this.kept.assemblies.find(ref.slice('assembly:'.length))?.is : undefined;
      return (is?.ropes ?? []).map((r) => {
        const rope = asPlanRope(is!, r);
        const name = `${rope.name}, ${is!.name}`.slice(0, 80);
        return { ...rope, name, copies: Math.min(PLAN_LIMITS.copies, rope.copies * (draft?.learners ?? 1)) };
      });
    });
  });
  /** Ropes beyond what one plan holds. */
  protected readonly untold = computed(() => Math.max(0, this.allRopes().length - PLAN_LIMITS.ropes));
  private readonly plan = computed(() =>
    planSchema.parse({ name: 'Ropes', ropes: this.allRopes().slice(0, PLAN_LIMITS.ropes) }),
  );
  /** Whether anything is cut from the stock: lengths alone stand among the ropes. */
  protected readonly isCut = computed(() => this.planned().cuts.some((c) => c.stock && c.demands.length > 0));
  protected readonly keepMm = computed(() => this.plan().keepMm);
  protected readonly planned = computed(() => {
    return planned(this.plan(), this.kept.forPlanner(), this.kept.tiesOf());
  });
  protected readonly ropes = computed(() =>
    this.planned().ropes.map((r) => ({
      name: r.rope.name,
      says: `${this.sayMm(r.cutMm)}${r.rope.copies > 1 ? `, ${r.rope.copies} of them` : ''}`,
    })),
  );
  protected readonly found = computed(() => {
    const wanted = sameName(this.asked());
    const lessons = this.kin
      .nodes()
      .filter((n) => !n.ofBook && !n.wrongWay)
      .map((n) => ({ ref: n.ref, name: n.name, kind: 'lesson' }));
    const rigs = this.kept.assemblies
      .list()
      .map((a) => ({ ref: `assembly:${a.id}`, name: a.is.name, kind: 'assembly' }));
    return [...lessons, ...rigs].filter((x) => sameName(x.name).includes(wanted)).slice(0, OFFERED);
  });

  private laid: string | undefined;

  constructor() {
    effect(() => {
      const there = this.there();
      untracked(() => {
        if (there?.id !== this.laid) this.steps.clear();
        if (there && there.id !== this.laid) {
          this.publication.set(undefined);
          void this.publishing.run(this.known.publication(there.id), (found) => this.publication.set(found));
        }
        this.laid = there?.id;
        this.written.take(there);
      });
    });
    effect(() => {
      const refs = this.refs();
      untracked(() => {
        const asked = this.known.ask(refs);
        if (asked) void this.asking.run(asked);
      });
    });
    inject(DestroyRef).onDestroy(() => {
      this.booklet.stop();
      void this.flush();
    });
  }

  protected write(is: Course): void {
    if (this.mayWrite()) this.written.write(is);
  }
  protected change(more: Partial<Course>): void {
    const draft = this.draft();
    if (draft) this.write({ ...draft, ...more });
  }
  protected undo(): void {
    this.written.undo();
  }

  protected changeItem(at: number, more: Partial<CourseItem>): void {
    this.change({ items: this.draft()!.items.map((i, k) => (k === at ? { ...i, ...more } : i)) });
  }
  /** Minutes as they are written; nothing where none are. */
  protected minutesIn(text: string): number | null {
    const minutes = Number(text.replace(',', '.'));
    return text.trim() === '' || !Number.isFinite(minutes) ? null : Math.min(this.most, Math.max(0, minutes));
  }
  protected setGoals(text: string): void {
    const goals = text
      .split('\n')
      .map((g) => g.trim().slice(0, 200))
      .filter((g) => g !== '')
      .slice(0, COURSE_LIMITS.goals);
    this.change({ goals });
  }
  protected setLearners(field: HTMLInputElement): void {
    const learners = Math.min(60, Math.max(1, Math.round(Number(field.value)) || 1));
    field.value = String(learners);
    this.change({ learners });
  }
  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }
  protected move(from: number, to: number): void {
    if (from === to) return;
    const items = [...this.draft()!.items];
    moveItemInArray(items, from, to);
    this.change({ items });
  }
  protected removeItem(at: number): void {
    const items = this.draft()!.items;
    this.change({ items: items.filter((_, i) => i !== at) });
    this.notices.done(`“${items[at]?.name ?? ''}” is taken out.`, () => this.undo());
  }
  protected add(ref: string): void {
    const draft = this.draft();
    const chosen = this.found().find((f) => f.ref === ref);
    if (draft && chosen && draft.items.length < COURSE_LIMITS.items)
      this.write({ ...draft, items: [...draft.items, courseItemSchema.parse({ ref, name: chosen.name })] });
  }
  protected order(order: readonly number[]): void {
    const draft = this.draft();
    if (!draft) return;
    this.write(inOrder(draft, order));
    this.notices.done('They are in the proposed order.', () => this.undo());
  }
  protected mend({ mend }: CourseFinding): void {
    const draft = this.draft();
    if (!draft || !mend) return;
    this.write(mend.to(draft));
    this.notices.done('Done.', () => this.undo());
  }

  /** Publishes the course as it stands on the desk. */
  protected async publish(): Promise<void> {
    await this.flush();
    const kept = this.there();
    if (!kept || this.unsaved()) return;
    await this.publishing.run(this.known.publish(kept.id, kept.revision), (made) => {
      this.publication.set(made);
      this.notices.say(`“${kept.is.name}” is published.`);
    });
  }
  protected async withdraw(kept: Kept<Course>): Promise<void> {
    await this.publishing.run(this.known.withdraw(kept.id), () => {
      this.publication.set(null);
      this.notices.say(`“${kept.is.name}” is withdrawn; its lessons stay published.`);
    });
  }

  protected async makeBooklet(as: BookletKind): Promise<void> {
    const draft = this.draft();
    if (!draft) return;
    await this.making.run(this.booklet.make(draft, this.planned(), this.sayMm, as), (made) => {
      if (!made) return;
      saveFile(made, `${fileName(draft.name)}${endingOf(as)}`);
      this.notices.say(
        as === 'web pages' ? 'The booklet is made: unpack it, and open index.html.' : `${this.kinds[as]}: made.`,
      );
    });
  }

  protected async remove(kept: Kept<Course>): Promise<void> {
    this.written.drop(kept.id);
    const { is } = kept;
    if (!(await this.attempt.run(this.kept.courses.remove(kept.id)))) return;
    void this.router.navigate(['/courses']);
    this.notices.done(`“${is.name}” is removed.`, () => void this.attempt.run(this.kept.courses.add(is)));
  }
  protected flush(): Promise<void> {
    return this.written.flush();
  }
}
