/**
 * Revisions: what was saved of the knot, beside what is on the bench; the crossings that differ are lit. Any can be named, and put
 * back on the bench, which one undo takes back.
 */
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { RevisionInfo } from '@foxtrail/contract';
import {
  methodsOf,
  finishedFigure,
  layoutsOf,
  crossingsOf,
  drawFigure,
  nameSchema,
  orDecline,
  pairCrossings,
  readKnot,
  type CrossingPair,
  type Figure,
  type KnotDocument,
} from '@foxtrail/core';
import { Api } from '../data/api';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import { BenchStore } from './bench-store';
import { ShelfFacts } from './shelf-facts';
import { foldedRevisions } from './sittings';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

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
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Revisions of {{ now().name }}</h2>
    <mat-dialog-content>
      <div class="columns">
        <div class="list" role="listbox" aria-label="Revisions, the latest first">
          @for (row of rows(); track $index) {
            @if (row.kind === 'revision') {
              @let r = row.revision;
              <button
                type="button"
                role="option"
                [attr.aria-selected]="r.number === chosen()?.number"
                (click)="choose(r)"
              >
                <strong>{{ r.name ?? 'Revision ' + r.number }}</strong>
                <span class="soft">{{ r.savedAt | date: 'd MMM, HH:mm' }} · {{ r.savedBy }}</span>
              </button>
            } @else {
              <button type="button" role="option" aria-selected="false" (click)="unfold(row.from)">
                <span class="soft">{{ row.count === 1 ? 'One more' : row.count + ' more' }} between them …</span>
              </button>
            }
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
          <ft-trouble [text]="trouble()" />
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
  `,
})
export class RevisionsDialog {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialogRef);
  private readonly id = this.shelf.card()?.id ?? '';
  protected readonly now = computed<KnotDocument>(() => this.store.knot() as KnotDocument);
  protected readonly revisions = signal<readonly RevisionInfo[]>([]);
  /** Sittings that are shown whole, by their first revision. */
  private readonly open = signal<ReadonlySet<number>>(new Set());
  protected readonly rows = computed(() => foldedRevisions(this.revisions(), this.chosen()?.number, this.open()));
  protected readonly total = signal(0);
  protected readonly chosen = signal<RevisionInfo | undefined>(undefined);
  protected readonly document = signal<KnotDocument | undefined>(undefined);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;

  /** What is set side by side: the first layout in which the two differ, else how they are finished. */
  private readonly beside = computed(() => {
    const then = this.document();
    if (!then) return undefined;
    const [before, now] = [layoutsOf(then.method), layoutsOf(this.now().method)];
    const pairs = now.flatMap((layout, i) => {
      const was = before[i];
      return was
        ? [{ name: layout.name, was: was.figure, now: layout.figure, ...differ(was.figure, layout.figure) }]
        : [];
    });
    return pairs.find((p) => !p.paired || p.pairs.length > 0) ?? pairs.at(-1);
  });
  protected readonly then = computed(() => {
    const b = this.beside();
    return (
      b &&
      lit(
        b.was,
        b.pairs.map((p) => p.a),
      )
    );
  });
  protected readonly mine = computed(() => {
    const b = this.beside();
    return b
      ? lit(
          b.now,
          b.pairs.map((p) => p.b),
        )
      : lit(finishedFigure(this.now().method), []);
  });
  protected readonly difference = computed(() => {
    const then = this.document();
    if (!then) return '';
    const b = this.beside();
    if (!b?.paired) return 'They are drawn with different lines, so their crossings cannot be set one against one.';
    const where = layoutsOf(this.now().method).length > 1 && b.name !== undefined ? ` (${b.name})` : '';
    if (b.pairs.length > 0)
      return `${b.pairs.length === 1 ? 'One crossing differs' : `${b.pairs.length} crossings differ`}: ${b.pairs.map((p) => p.b).join(', ')} on the bench${where}.`;
    const steps = JSON.stringify(methodsOf(then)) !== JSON.stringify(methodsOf(this.now()));
    return steps ? 'Every crossing is the same; the steps differ.' : 'Every crossing is the same.';
  });

  constructor() {
    void this.attempt.run(this.api.revisions(this.id), ({ revisions, total }) => {
      this.revisions.set(revisions);
      this.total.set(total);
      const before = revisions[1] ?? revisions[0];
      if (before) this.choose(before);
    });
  }

  protected unfold(from: number): void {
    this.open.update((open) => new Set([...open, from]));
  }

  protected choose(r: RevisionInfo): void {
    this.chosen.set(r);
    void this.attempt.run(this.api.revision(this.id, r.number), (data) => {
      if (this.chosen()?.number !== r.number) return;
      const read = readKnot(data);
      this.document.set(read.ok ? read.value : undefined);
      if (!read.ok) this.trouble.set(`${read.place}: ${read.reason} ${read.remedy}`);
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
    void this.attempt.run(this.api.nameRevision(this.id, r.number, given), () => {
      const renamed = { ...r, name: given };
      this.revisions.update((list) => list.map((x) => (x.number === r.number ? renamed : x)));
      this.chosen.set(renamed);
    });
  }

  protected restore(): void {
    const then = this.document();
    if (!then) return;
    const { name, entry, extra } = this.now();
    const done = this.store.edit({ kind: 'replace', knot: { ...then, name, entry, extra } });
    if (done.ok) this.dialog.close(this.chosen()?.name ?? `Revision ${this.chosen()?.number ?? ''}`);
    else this.trouble.set(`${done.reason} ${done.remedy}`);
  }
}

/** Crossings that differ, by number on either side; not paired when the figures are not drawn with the same lines. */
function differ(was: Figure, now: Figure): { readonly paired: boolean; readonly pairs: readonly CrossingPair[] } {
  const found = orDecline(() => pairCrossings(was, now));
  const pairing = found.ok ? found.value : undefined;
  return { paired: pairing !== undefined, pairs: pairing?.pairs.filter((p) => !p.agrees) ?? [] };
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
