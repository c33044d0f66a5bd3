/**
 * Texts of the library that are not in the words they are to be written in: looked through some knots at a time, stopped at once.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { RemarkedKnots } from '@foxtrail/contract';
import { EMPTY, expand, Subject, takeUntil } from 'rxjs';
import { inWords } from '../data/problem';
import { WordsService } from '../data/words';
import { TroubleLine } from '../ui/trouble';

@Component({
  selector: 'ft-texts',
  imports: [RouterLink, MatButtonModule, MatProgressBarModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bar">
      <p role="status">
        @if (running()) {
          Looked through {{ read() }} of {{ total() }} knots …
        } @else if (stopped()) {
          Stopped after {{ read() }} of {{ total() }} knots.
        } @else {
          {{ knots().length === 0 ? 'Every text' : count() + ' texts in ' + knots().length + ' knots are not' }}
          {{ knots().length === 0 ? 'is in its words' : 'in their words' }}; {{ read() }} knots were looked through.
        }
      </p>
      @if (running()) {
        <button mat-stroked-button type="button" (click)="stop()">Stop</button>
      } @else {
        <button mat-stroked-button type="button" (click)="look()">Look again</button>
      }
    </div>
    @if (running()) {
      <mat-progress-bar
        mode="determinate"
        [value]="total() === 0 ? 0 : (100 * read()) / total()"
        aria-label="Texts looked through"
      />
    }
    <ft-trouble [text]="trouble()" />
    <ul>
      @for (k of knots(); track k.id) {
        <li class="card">
          <header>
            <h2>{{ k.name }}</h2>
            <a mat-stroked-button [routerLink]="['/knot', k.id, 'draft']" [queryParams]="{ words: 1 }">Put right …</a>
          </header>
          @for (t of k.texts; track $index) {
            <div class="text">
              <h3>{{ t.place }}</h3>
              <p>{{ t.text }}</p>
              @for (r of t.remarks; track $index) {
                <p class="remark">
                  <strong>“{{ r.words }}”</strong> {{ r.says }}
                </p>
              }
            </div>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      max-width: 980px;
      margin: 0 auto;
      padding: 8px 24px 40px;
    }
    .bar {
      display: flex;
      gap: 16px;
      align-items: center;
      justify-content: space-between;
      min-height: 56px;
    }
    /* Fox orange on the bench is a little too light to read. */
    .bar button {
      background: var(--card);
    }
    .bar p {
      margin: 0;
    }
    ul {
      display: grid;
      gap: 14px;
      margin: 10px 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      padding: 14px 18px;
    }
    header {
      display: flex;
      gap: 12px;
      align-items: center;
      justify-content: space-between;
    }
    .text {
      display: grid;
      grid-template-columns: 150px minmax(0, 1fr);
      gap: 2px 16px;
      margin-top: 10px;
      padding-top: 10px;
      border-top: 1px solid var(--line);
    }
    .text h3 {
      color: var(--ink-soft);
      font:
        500 15px/1.5 'Atkinson Hyperlegible Next Variable',
        sans-serif;
    }
    .text p {
      grid-column: 2;
      margin: 0;
    }
    .remark {
      padding-left: 10px;
      border-left: 4px solid var(--fox);
      font-size: 15px;
    }
  `,
})
export class TextsPage {
  private readonly words = inject(WordsService);
  private readonly stops = new Subject<void>();
  protected readonly knots = signal<RemarkedKnots['knots']>([]);
  protected readonly read = signal(0);
  protected readonly total = signal(0);
  protected readonly running = signal(false);
  protected readonly stopped = signal(false);
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly count = computed(() => this.knots().reduce((n, k) => n + k.texts.length, 0));
  private readonly untilGone = takeUntilDestroyed<RemarkedKnots>();

  constructor() {
    this.look();
  }

  protected look(): void {
    this.knots.set([]);
    this.read.set(0);
    this.trouble.set(undefined);
    this.stopped.set(false);
    this.running.set(true);
    this.words
      .remarked()
      .pipe(
        expand(({ next }) => (next === null ? EMPTY : this.words.remarked(next))),
        takeUntil(this.stops),
        this.untilGone,
      )
      .subscribe({
        next: ({ knots, read, total }) => {
          this.knots.update((all) => [...all, ...knots]);
          this.read.update((n) => n + read);
          this.total.set(total);
        },
        error: (error: unknown) => {
          this.running.set(false);
          this.trouble.set(inWords(error));
        },
        complete: () => this.running.set(false),
      });
  }

  protected stop(): void {
    this.stopped.set(true);
    this.stops.next();
  }
}
