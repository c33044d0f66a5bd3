/**
 * One knot: its name, its screens (Draft, Proof, Kin, Reel, Review, Sheet) and the state of its saving.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
  ViewContainerRef,
} from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Notices } from '../ui/notices';
import { Router, RouterLink, RouterOutlet } from '@angular/router';
import type { KnotCard } from '@foxtrail/contract';
import { placeInWords, type KnotDocument } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { ClassName } from '../ui/class-name';
import { BENCH } from './bench';
import { Attempt } from '../data/attempt';
import type { Draft } from '../data/outbox';
import { BenchStore } from './bench-store';
import { Insight } from './insight';
import { ShelfFacts } from './shelf-facts';
import { Saving } from './saving';
import { Opening } from './opening';
import { ConflictDialog } from './conflict.dialog';
import { ExportDialog } from './export.dialog';
import { EntryDialog, type NamedEntry } from './entry.dialog';
import { GoneDialog } from './gone.dialog';
import { RevisionsDialog } from './revisions.dialog';
import { SignInAgainDialog } from './sign-in-again.dialog';
import { TabLinks } from '../ui/tab-links';
import { TroubleNote } from '../ui/trouble';

/** Heights of the two heads together, and of a bar below them, in pixels. */
const HEAD = 105;
const BAR = 36;

@Component({
  selector: 'ft-knot',
  imports: [
    RouterOutlet,
    RouterLink,
    TabLinks,
    TroubleNote,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    MatTooltipModule,
    DatePipe,
    ClassName,
  ],
  providers: BENCH,
  // What is above the board: the bar, the head, and the line of an edition.
  host: { '[style.--above]': 'above()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      @if (store.knot(); as knot) {
        <h1 [class.long]="knot.name.length > 20">{{ knot.name }}</h1>
        <span class="chip">{{ knot.entry.class | className }}</span>
        @if (store.mayWrite()) {
          <button
            mat-icon-button
            type="button"
            (click)="editEntry()"
            aria-label="Edit the entry: names, class, cord, cautions"
          >
            <mat-icon svgIcon="edit" />
          </button>
        }
        @if (store.mayWrite()) {
          <button
            mat-icon-button
            type="button"
            (click)="lessonWords()"
            aria-label="The words of this lesson"
            matTooltip="Words of this lesson"
          >
            <mat-icon svgIcon="words" />
          </button>
        }
        <button mat-icon-button type="button" (click)="revisions()" aria-label="Revisions" matTooltip="Revisions">
          <mat-icon svgIcon="history" />
        </button>
        <button mat-icon-button type="button" (click)="exportFile()" aria-label="Export the figure" matTooltip="Export">
          <mat-icon svgIcon="download" />
        </button>
        @if (verdict(); as v) {
          <span class="chip" [class.holds]="v.holds" [class.fails]="!v.holds">{{ v.text }}</span>
        }
        @if (store.methods().length > 1) {
          <span class="chip method" matTooltip="The method in hand; Draft has the others">{{
            store.methods()[store.inHand()]?.name
          }}</span>
        }
        <ft-tab-links label="This knot" [tabs]="tabs" />
        <span class="save" role="status">
          @switch (saving.state().kind) {
            @case ('saved') {
              Saved {{ savedAt() | date: 'HH:mm' }}
            }
            @case ('saving') {
              Saving …
            }
            @case ('unsaved') {
              Not saved yet
            }
            @case ('reading-only') {
              You may read, not change
            }
            @case ('kept-here') {
              <span class="warn"
                >{{ noAnswer() }}
                {{ saving.nowhere() ? '' : 'Your work is kept in this browser; trying again …' }}</span
              >
            }
            @case ('signed-out') {
              <button mat-stroked-button type="button" (click)="signInAgain()">Sign in to save</button>
            }
            @case ('conflict') {
              <button mat-stroked-button type="button" (click)="settleConflict()">Two versions: choose</button>
            }
            @case ('archived') {
              <button mat-stroked-button type="button" (click)="settleGone()">It was archived: choose</button>
            }
            @case ('refused') {
              <span class="warn">{{ refusal() }}</span>
            }
          }
        </span>
      }
    </div>
    @if (saving.nowhere()) {
      <p class="edition lost" role="alert">
        It is kept nowhere: this browser’s store does not take it, and it is not on the server.
        <button mat-button type="button" (click)="exportFile()">Save it to a file</button>
      </p>
    }
    @for (draft of saving.drafts(); track draft.key) {
      <p class="edition" role="note">
        Another unsaved version of this knot, of {{ draft.at | date: 'd MMM HH:mm' }}, is kept in this browser.
        <button mat-button type="button" (click)="keepDraft(draft)">Keep it as a knot of its own</button>
        <button mat-button type="button" (click)="dropDraft(draft)">Let it go</button>
      </p>
    }
    @if (shelf.card()?.leftHandOf; as of) {
      <p class="edition" role="note">
        The left-handed edition of <a [routerLink]="['/knot', of.id, 'draft']">{{ of.name }}</a>{{
          of.follows
            ? ', kept in step with it until something is changed here.'
            : '. It was changed here and goes its own way.'
        }}
      </p>
    }
    @if (opening.trouble(); as t) {
      <ft-trouble-note title="This knot cannot be opened" [text]="t.reason + ' ' + t.remedy" (again)="reload()">
        <a mat-button routerLink="/shelf">Back to the shelf</a>
      </ft-trouble-note>
    } @else if (store.knot()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Opening" />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .head {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 56px;
      padding: 4px 20px;
      background: var(--card);
      border-bottom: 1px solid var(--line);
    }
    h1 {
      display: -webkit-box;
      flex: 0 1 auto;
      min-width: 6ch;
      padding-bottom: 3px;
      overflow: hidden;
      -webkit-box-orient: vertical;
      -webkit-line-clamp: 2;
    }
    h1.long {
      font-size: 21px;
      line-height: 1.12;
    }
    .method {
      flex: 0 1 auto;
      min-width: 4ch;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .edition {
      margin: 0;
      height: 36px;
      padding: 6px 20px;
      background: var(--fox-wash);
      font-size: 15px;
    }
    .lost {
      background: var(--plum-wash);
      color: var(--plum);
    }
    .edition button {
      height: 26px;
      margin: -2px 0;
    }
    .save {
      flex: none;
      max-width: 260px;
      margin-left: auto;
      color: var(--ink-soft);
      text-align: right;
    }
    .warn {
      color: var(--plum);
      font-size: 14px;
      line-height: 1.25;
    }
    /* The name keeps its room: what is said elsewhere too gives way first. */
    @media (max-width: 1100px) {
      .head {
        gap: 4px;
        padding: 4px 12px;
      }
      .head > .chip:not(.holds, .fails) {
        display: none;
      }
      .head ft-tab-links {
        --tab-padding: 9px 10px;
      }
      h1.long {
        font-size: 18px;
      }
    }
    @media (max-width: 760px) {
      .head {
        flex-wrap: wrap;
      }
      .head ft-tab-links {
        order: 1;
        width: 100%;
        overflow-x: auto;
      }
      h1 {
        flex: 1 0 60%;
      }
    }
    @media print {
      .head {
        display: none;
      }
    }
  `,
})
export class KnotPage {
  readonly id = input.required<string>();
  /** Asked for by the address: open the words of the lesson. */
  readonly words = input<string>();
  readonly store = inject(BenchStore);
  private readonly insight = inject(Insight);
  protected readonly shelf = inject(ShelfFacts);
  readonly saving = inject(Saving);
  protected readonly opening = inject(Opening);
  private readonly wordsService = inject(WordsService);
  private readonly dialog = inject(MatDialog);
  /** Dialogs opened from here work with this bench. */
  private readonly here = inject(ViewContainerRef);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);

  /** What stands above the bench: the head, and a bar for everything that is said below it. */
  protected readonly above = computed(() => {
    const bars =
      (this.shelf.card()?.leftHandOf ? 1 : 0) + (this.saving.nowhere() ? 1 : 0) + this.saving.drafts().length;
    return `${HEAD + BAR * bars}px`;
  });

  private readonly attempt = new Attempt();

  protected readonly tabs = [
    { path: 'draft', name: 'Draft' },
    { path: 'proof', name: 'Proof' },
    { path: 'kin', name: 'Kin' },
    { path: 'reel', name: 'Reel' },
    { path: 'review', name: 'Review' },
    { path: 'sheet', name: 'Sheet' },
  ];
  protected readonly savedAt = computed(() => {
    const s = this.saving.state();
    return s.kind === 'saved' ? s.at : '';
  });
  protected readonly noAnswer = computed(() => {
    const s = this.saving.state();
    return s.kind === 'kept-here' ? s.trouble.reason : '';
  });
  protected readonly refusal = computed(() => {
    const s = this.saving.state();
    if (s.kind !== 'refused') return '';
    const { place, reason, remedy } = s.trouble;
    const ropes = this.store.method()?.figure.ropes ?? [];
    return `Not saved: ${placeInWords(place, ropes, this.store.vocabulary())}: ${reason} ${remedy}`;
  });
  protected readonly verdict = computed(() => {
    if (!this.insight.analysis()) return undefined;
    const findings = this.insight.findings();
    const errors = findings.filter((f) => f.severity === 'error').length;
    if (errors > 0) return { holds: false, text: errors === 1 ? '1 error' : `${errors} errors` };
    return findings.length === 0
      ? { holds: true, text: 'no findings' }
      : { holds: false, text: findings.length === 1 ? '1 warning' : `${findings.length} warnings` };
  });

  constructor() {
    effect(() => {
      const trouble = this.attempt.trouble();
      if (trouble !== undefined) this.notices.say(trouble);
    });
    effect(() => {
      const id = this.id();
      untracked(() => void this.opening.open(id));
    });
    effect(() => {
      const kind = this.saving.state().kind;
      untracked(() => {
        if (kind === 'signed-out') this.signInAgain();
        if (kind === 'conflict') this.settleConflict();
        if (kind === 'archived') this.settleGone();
      });
    });
    const asked = effect(() => {
      if (this.words() !== '1' || !this.store.knot() || !this.wordsService.words()) return;
      untracked(() => this.lessonWords());
      asked.destroy();
    });
    effect(() => {
      if (this.saving.recovered())
        this.notices.say('Work from an earlier visit that was not saved has been taken up again.');
    });
  }

  protected reload(): void {
    void this.opening.open(this.id());
  }

  protected keepDraft(draft: Draft): void {
    void this.attempt.run(this.saving.keepDraft(draft), (copy) =>
      this.notices.say(`It is on the shelf as ${copy.name}.`),
    );
  }

  protected dropDraft(draft: Draft): void {
    void this.attempt.run(this.saving.dropDraft(draft));
  }

  protected revisions(): void {
    this.dialog
      .open<RevisionsDialog, never, string>(RevisionsDialog, {
        viewContainerRef: this.here,
        width: '1000px',
        maxWidth: '94vw',
      })
      .afterClosed()
      .subscribe((name) => {
        if (name !== undefined) this.notices.done(`${name} is back on the bench.`, () => this.store.undo());
      });
  }

  protected exportFile(): void {
    const knot = this.store.knot();
    if (knot) this.dialog.open(ExportDialog, { data: { knot, words: this.store.vocabulary() } });
  }

  protected editEntry(): void {
    const knot = this.store.knot();
    if (!knot) return;
    this.dialog
      .open<EntryDialog, NamedEntry, NamedEntry>(EntryDialog, {
        data: { name: knot.name, entry: knot.entry },
        width: '640px',
      })
      .afterClosed()
      .subscribe((after) => {
        if (after) this.store.edit({ kind: 'entry', ...after });
      });
  }

  /** Opened seldom, so it is fetched when it is wanted. */
  protected lessonWords(): void {
    const knot = this.store.knot();
    if (!knot) return;
    void import('../words/lesson-words.dialog').then(({ LessonWordsDialog }) =>
      this.dialog
        .open<InstanceType<typeof LessonWordsDialog>, KnotDocument, KnotDocument>(LessonWordsDialog, {
          data: knot,
          width: '760px',
          maxWidth: '94vw',
        })
        .afterClosed()
        .subscribe((after) => {
          if (after) this.store.edit({ kind: 'replace', knot: after });
        }),
    );
  }

  protected signInAgain(): void {
    if (this.dialog.openDialogs.some((d) => d.componentInstance instanceof SignInAgainDialog)) return;
    this.dialog
      .open(SignInAgainDialog, { width: '440px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.saving.retry();
      });
  }

  protected settleConflict(): void {
    if (this.dialog.openDialogs.some((d) => d.componentInstance instanceof ConflictDialog)) return;
    this.openCopy(
      this.dialog.open<ConflictDialog, never, KnotCard>(ConflictDialog, {
        viewContainerRef: this.here,
        width: '760px',
      }),
    );
  }

  protected settleGone(): void {
    if (this.dialog.openDialogs.some((d) => d.componentInstance instanceof GoneDialog)) return;
    this.openCopy(
      this.dialog.open<GoneDialog, never, KnotCard>(GoneDialog, { viewContainerRef: this.here, width: '520px' }),
    );
  }

  private openCopy(dialog: {
    afterClosed(): { subscribe(next: (copy: KnotCard | undefined) => void): unknown };
  }): void {
    dialog.afterClosed().subscribe((copy) => {
      if (copy) void this.router.navigate(['/knot', copy.id, 'draft']);
    });
  }
}
