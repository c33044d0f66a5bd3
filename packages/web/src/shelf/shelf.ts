/**
 * The shelf: every knot of the house as a card, searched by any name.
 */
import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, Injector, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import { SHELF_MOST, SHELF_PAGE, type Found, type KnotCard } from '@foxtrail/contract';
import {
  catchError,
  combineLatest,
  debounceTime,
  distinctUntilChanged,
  EMPTY,
  map,
  of,
  startWith,
  Subject,
  type Subscription,
  switchMap,
  tap,
  timer,
} from 'rxjs';
import { Api, type ShelfAsked } from '../data/api';
import { inWords } from '../data/problem';
import { SessionService } from '../data/session';
import { ClassName } from '../ui/class-name';
import { InView } from '../ui/in-view';
import { Notices } from '../ui/notices';
import { SearchField } from '../ui/search-field';
import { TroubleNote } from '../ui/trouble';

/** Long enough for a word to be typed, short enough to feel immediate; in milliseconds. */
const TYPING_PAUSE = 200;
/** Cards that are in view at once, whose pictures are waited for; and how long, in milliseconds. */
const IN_VIEW = 9;
const PICTURE_PATIENCE = 600;
/** Pause before the shelf is looked at again while a knot is being examined, in milliseconds. */
const EXAMINED_PAUSE = 1500;

@Component({
  selector: 'ft-shelf',
  imports: [
    RouterLink,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatMenuModule,
    MatProgressBarModule,
    DecimalPipe,
    ClassName,
    InView,
    SearchField,
    TroubleNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shelf.html',
  styleUrl: './shelf.scss',
})
export class ShelfPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly injector = inject(Injector);
  private readonly notices = inject(Notices);
  private readonly sessions = inject(SessionService);

  /** A knot's id, from the address: only knots drawn like it are shown. */
  readonly like = input<string>();
  protected readonly search = signal('');
  protected readonly archived = signal(false);
  private readonly refresh = new Subject<boolean>();
  private asked: ShelfAsked = {};
  /** The next page, while it is asked for. */
  private further: Subscription | undefined;
  protected readonly knots = signal<readonly KnotCard[] | undefined>(undefined);
  protected readonly total = signal(0);
  /** Words that have the name that is looked for. */
  protected readonly terms = signal<Found['found']>([]);
  protected readonly loading = signal(true);
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly mayWrite = this.sessions.mayWrite;
  /** A knot on the shelf is still being examined. */
  private waiting = false;
  private readonly look = new Subject<boolean>();

  constructor() {
    const query = toObservable(this.search).pipe(debounceTime(TYPING_PAUSE), startWith(''), distinctUntilChanged());
    query
      .pipe(
        switchMap((q) =>
          q.trim() === ''
            ? of([])
            : this.api.search(q.trim().slice(0, 80)).pipe(
                map((found) => found.filter((f) => f.kind === 'word').slice(0, 5)),
                // The knots are the answer; without the words it is one all the same.
                catchError(() => of([])),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((found) => this.terms.set(found));
    combineLatest([query, toObservable(this.archived), toObservable(this.like)])
      .pipe(
        map(([q, archived, like]): ShelfAsked => ({ q: q.trim().slice(0, 80), archived, like })),
        // The same again after something was done: as many as are shown.
        switchMap((asked) =>
          this.refresh.pipe(
            startWith(false),
            map((again) => ({ asked, again })),
          ),
        ),
        tap(() => this.loading.set(!this.waiting)),
        switchMap(({ asked, again }) => {
          this.asked = asked;
          this.further?.unsubscribe();
          const shown = again ? (this.knots() ?? []) : [];
          const most = Math.min(SHELF_MOST, Math.max(SHELF_PAGE, shown.length));
          return this.api.knots({ ...asked, most }).pipe(
            switchMap(async ({ knots, total }) => {
              await pictured(knots.slice(0, IN_VIEW).map(pictureOf));
              return { knots: joined(knots, shown.slice(most)), total };
            }),
            catchError((error: unknown) => {
              this.loading.set(false);
              this.trouble.set(inWords(error));
              return EMPTY;
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ knots, total }) => {
        this.knots.set(knots);
        this.total.set(total);
        this.loading.set(false);
        this.trouble.set(undefined);
        this.waiting = knots.some((k) => !k.examined);
        this.look.next(this.waiting);
      });
    // What was saved just now is still being examined: it is looked at again.
    this.look
      .pipe(
        switchMap((again) => (again ? timer(EXAMINED_PAUSE) : EMPTY)),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.reload());
  }

  protected readonly pictureOf = pictureOf;
  protected readonly inView = IN_VIEW;

  protected reload(): void {
    this.refresh.next(true);
  }

  /** Shows the next page of what was found below what is shown. */
  protected more(): void {
    const shown = this.knots() ?? [];
    if (this.further?.closed === false || shown.length >= this.total()) return;
    this.further = this.api.knots({ ...this.asked, from: shown.length }).subscribe({
      next: ({ knots, total }) => {
        this.knots.update((before = []) => joined(before, knots));
        // What is gone meanwhile is not waited for.
        this.total.set(knots.length === 0 ? (this.knots() ?? []).length : total);
      },
      error: this.notices.trouble,
    });
  }

  protected create(): void {
    // Opened seldom, and heavy with forms: it is fetched when it is wanted.
    void import('./new-knot.dialog').then(({ openNewKnot }) =>
      openNewKnot(this.injector).subscribe((made) => {
        if (made)
          void this.router.navigate(['/knot', made.card.id, 'draft'], made.toWalk ? { queryParams: { walk: 1 } } : {});
      }),
    );
  }

  protected duplicate(card: KnotCard): void {
    this.act(card, 'duplicate', (copy) => `“${copy.name}” is on the shelf.`);
  }

  protected archive(card: KnotCard): void {
    this.act(card, 'archive', () => `“${card.name}” was archived.`, 'restore');
  }

  protected restore(card: KnotCard): void {
    this.act(card, 'restore', () => `“${card.name}” is back on the shelf.`, 'archive');
  }

  private act(
    card: KnotCard,
    action: 'duplicate' | 'archive' | 'restore',
    done: (card: KnotCard) => string,
    undo?: 'archive' | 'restore',
  ): void {
    this.api.act(card.id, action).subscribe({
      next: (after) => {
        this.reload();
        if (!undo) this.notices.say(done(after));
        else
          this.notices.done(
            done(after),
            () =>
              void this.api.act(card.id, undo).subscribe({ next: () => this.reload(), error: this.notices.trouble }),
          );
      },
      error: this.notices.trouble,
    });
  }

  /** What the drawing was found to be, when that is worth a word on the card. */
  protected verdict(card: KnotCard): { text: string; holds: boolean; fails: boolean } | undefined {
    switch (card.verdict?.state) {
      case 'holds':
        return { text: 'is what it claims', holds: true, fails: false };
      case 'mirrored':
        return { text: 'left-handed form', holds: false, fails: false };
      case 'fails':
        return { text: 'not what it claims', holds: false, fails: true };
      default:
        return undefined;
    }
  }

  protected findings(card: KnotCard): string {
    if (!card.examined) return 'being examined …';
    const parts = [
      card.errors > 0 ? `${card.errors} ${card.errors === 1 ? 'error' : 'errors'}` : '',
      card.warnings > 0 ? `${card.warnings} ${card.warnings === 1 ? 'warning' : 'warnings'}` : '',
    ];
    return parts.filter((p) => p !== '').join(', ') || 'no findings';
  }
}

/** Both lists, the first first, each knot once. */
function joined(first: readonly KnotCard[], then: readonly KnotCard[]): KnotCard[] {
  const there = new Set(first.map((k) => k.id));
  return [...first, ...then.filter((k) => !there.has(k.id))];
}

const pictureOf = ({ id, revision }: KnotCard): string => `/api/knots/${id}/thumbnail.svg?r=${revision}`;

/** Resolves when pictures can be shown, so that a card appears with its own; those that take long come later. */
const pictured = (addresses: readonly string[]): Promise<unknown> =>
  Promise.race([
    Promise.allSettled(
      addresses.map((address) => {
        const image = new Image();
        image.src = address;
        return image.decode();
      }),
    ),
    new Promise((done) => setTimeout(done, PICTURE_PATIENCE)),
  ]);
