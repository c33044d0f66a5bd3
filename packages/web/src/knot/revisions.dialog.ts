/**
 * Revisions: what was saved of the knot, beside what is on the bench; the crossings that differ are lit. Any can be named, and put
 * back on the bench, which one undo takes back.
 */
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { RevisionInfo } from '@foxtrail/contract';
import {
  crossingsOf,
  drawFigure,
  nameSchema,
  orDecline,
  pairCrossings,
  readKnot,
  type Figure,
  type KnotDocument,
} from '@foxtrail/core';
import { Api } from '../data/api';
import { sayTrouble, troubleOf } from '../data/problem';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import type { BenchStore } from './bench-store';

@Component({
  selector: 'ft-revisions',
  imports: [
    DatePipe,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MarkedFigure,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Revisions of {{ now().name }}</h2>
    <mat-dialog-content>
      <div class="columns">
        <div class="list" role="listbox" aria-label="Revisions, the latest first">
          @for (r of revisions(); track r.number) {
            <button
              type="button"
              role="option"
              [attr.aria-selected]="r.number === chosen()?.number"
              (click)="choose(r)"
            >
              <strong>{{ r.name ?? 'Revision ' + r.number }}</strong>
              <span class="soft">{{ r.savedAt | date: 'd MMM, HH:mm' }} · {{ r.savedBy }}</span>
            </button>
          } @empty {
            @if (!trouble()) {
              <mat-progress-bar mode="indeterminate" aria-label="Fetching the revisions" />
            }
          }
          @if (total() > revisions().length) {
            <p class="soft">{{ total() - revisions().length }} older ones without a name are not listed.</p>
          }
        </div>
        <div class="beside">
          <div class="pair">
            <figure>
              <div class="paper">
                @if (then(); as t) {
                  <ft-marked-figure [drawing]="t.drawing" [marks]="t.marks" label="The revision" />
                }
              </div>
              <figcaption>{{ chosen()?.name ?? 'Revision ' + (chosen()?.number ?? '') }}</figcaption>
            </figure>
            <figure>
              <div class="paper">
                <ft-marked-figure [drawing]="mine().drawing" [marks]="mine().marks" label="On the bench" />
              </div>
              <figcaption>On the bench</figcaption>
            </figure>
          </div>
          <p class="says" role="status">{{ difference() }}</p>
          @if (chosen(); as c) {
            @if (store.mayWrite()) {
              <form class="name" (submit)="name($event, field.value)">
                <mat-form-field appearance="outline" subscriptSizing="dynamic">
                  <mat-label>Name of this revision</mat-label>
                  <input matInput #field [value]="c.name ?? ''" maxlength="80" autocomplete="off" />
                </mat-form-field>
                <button mat-stroked-button type="submit">Name it</button>
              </form>
            }
          }
          @if (trouble(); as text) {
            <p class="trouble" role="alert">{{ text }}</p>
          }
        </div>
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Close</button>
      @if (store.mayWrite()) {
        <button mat-flat-button type="button" [disabled]="!document()" (click)="restore()">
          Put it back on the bench
        </button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 230px minmax(0, 1fr);
      gap: 20px;
      min-height: 400px;
    }
    .list {
      display: flex;
      flex-direction: column;
      gap: 4px;
      max-height: 440px;
      overflow-y: auto;
    }
    .list button {
      display: flex;
      flex-direction: column;
      padding: 8px 12px;
      border: 1px solid transparent;
      border-radius: 10px;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    .list button:hover {
      background: var(--fox-wash);
    }
    .list button[aria-selected='true'] {
      border-color: var(--fox-strong);
      background: var(--fox-wash);
    }
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px;
    }
    figure {
      margin: 0;
    }
    .paper {
      height: 270px;
      padding: 8px;
    }
    ft-marked-figure {
      height: 100%;
    }
    figcaption {
      margin-top: 6px;
    }
    .says {
      min-height: 24px;
      margin: 10px 0;
    }
    .name {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    .name mat-form-field {
      flex: 1;
    }
    .trouble {
      color: var(--plum);
    }
  `,
})
export class RevisionsDialog {
  protected readonly store = inject<BenchStore>(MAT_DIALOG_DATA);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialogRef);
  private readonly id = this.store.card()?.id ?? '';
  protected readonly now = computed<KnotDocument>(() => this.store.knot() as KnotDocument);
  protected readonly revisions = signal<readonly RevisionInfo[]>([]);
  protected readonly total = signal(0);
  protected readonly chosen = signal<RevisionInfo | undefined>(undefined);
  protected readonly document = signal<KnotDocument | undefined>(undefined);
  protected readonly trouble = signal<string | undefined>(undefined);

  /** Crossings that differ, by number on either side; nothing when the figures are not drawn with the same lines. */
  private readonly differing = computed(() => {
    const then = this.document();
    if (!then) return undefined;
    const paired = orDecline(() => pairCrossings(then.method.figure, this.now().method.figure));
    if (!paired.ok || !paired.value) return undefined;
    return paired.value.pairs.filter((p) => !p.agrees);
  });
  protected readonly then = computed(() => {
    const figure = this.document()?.method.figure;
    return figure && lit(figure, this.differing()?.map((p) => p.a) ?? []);
  });
  protected readonly mine = computed(() => lit(this.now().method.figure, this.differing()?.map((p) => p.b) ?? []));
  protected readonly difference = computed(() => {
    const then = this.document();
    if (!then) return '';
    const differing = this.differing();
    if (!differing) return 'They are drawn with different lines, so their crossings cannot be set one against one.';
    if (differing.length > 0)
      return `${differing.length === 1 ? 'One crossing differs' : `${differing.length} crossings differ`}: ${differing.map((p) => p.b).join(', ')} on the bench.`;
    const steps = JSON.stringify(then.method.halts) !== JSON.stringify(this.now().method.halts);
    return steps ? 'Every crossing is the same; the steps differ.' : 'Every crossing is the same.';
  });

  constructor() {
    this.api.revisions(this.id).subscribe({
      next: ({ revisions, total }) => {
        this.revisions.set(revisions);
        this.total.set(total);
        const before = revisions[1] ?? revisions[0];
        if (before) this.choose(before);
      },
      error: (e: unknown) => this.trouble.set(sayTrouble(troubleOf(e))),
    });
  }

  protected choose(r: RevisionInfo): void {
    this.chosen.set(r);
    this.trouble.set(undefined);
    this.api.revision(this.id, r.number).subscribe({
      next: (data) => {
        if (this.chosen()?.number !== r.number) return;
        const read = readKnot(data);
        this.document.set(read.ok ? read.value : undefined);
        if (!read.ok) this.trouble.set(`${read.place}: ${read.reason} ${read.remedy}`);
      },
      error: (e: unknown) => this.trouble.set(sayTrouble(troubleOf(e))),
    });
  }

  protected name(event: Event, value: string): void {
    event.preventDefault();
    const r = this.chosen();
    if (!r) return;
    const name = value.trim() === '' ? null : nameSchema.safeParse(value);
    if (name !== null && !name.success) {
      this.trouble.set(`The name cannot be used: ${name.error.issues[0]?.message ?? ''}.`);
      return;
    }
    const given = name === null ? null : name.data;
    this.api.nameRevision(this.id, r.number, given).subscribe({
      next: () => {
        const renamed = { ...r, name: given };
        this.trouble.set(undefined);
        this.revisions.update((list) => list.map((x) => (x.number === r.number ? renamed : x)));
        this.chosen.set(renamed);
      },
      error: (e: unknown) => this.trouble.set(sayTrouble(troubleOf(e))),
    });
  }

  protected restore(): void {
    const then = this.document();
    if (!then) return;
    const done = this.store.edit({ kind: 'restore', method: then.method });
    if (done.ok) this.dialog.close(this.chosen()?.name ?? `Revision ${this.chosen()?.number ?? ''}`);
    else this.trouble.set(`${done.reason} ${done.remedy}`);
  }
}

/** A figure with rings round some of its crossings. */
function lit(
  figure: Figure,
  numbers: readonly number[],
): { drawing: ReturnType<typeof drawFigure>; marks: FigureMark[] } {
  return {
    drawing: drawFigure(figure, { labels: true }),
    marks: crossingsOf(figure)
      .filter((c) => numbers.includes(c.number))
      .map((c): FigureMark => ({ point: c.point, kind: 'differs' })),
  };
}
