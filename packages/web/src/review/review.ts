/**
 * Review: another person goes through everything a learner will be shown, one thing at a time, and accepts it or returns it with a remark.
 * Below it, what people's lives demand before publishing, and the log of the knot.
 */
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { KnotReview, Review } from '@foxtrail/contract';
import {
  crossingsOf,
  drawFigure,
  drawStep,
  figureInView,
  finishedFigure,
  heartBox,
  inspectionMarks,
  markPoints,
  methodsOf,
  stepBox,
  type Drawing,
  type Box,
} from '@foxtrail/core';
import { Api } from '../data/api';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';
import { TroubleNote } from '../ui/trouble';

type Item = KnotReview['items'][number];

@Component({
  selector: 'ft-review',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    MarkedFigure,
    Select,
    TroubleLine,
    TroubleNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './review.html',
  styleUrl: './review.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class ReviewPage {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly api = inject(Api);
  protected readonly state = signal<KnotReview | undefined>(undefined);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly at = signal(0);
  protected readonly remark = signal('');
  protected readonly crossing = signal<number | null>(null);
  protected readonly items = computed(() => this.state()?.items ?? []);
  protected readonly item = computed(() => this.items()[this.at()]);
  protected readonly verdicts = computed(() => new Map((this.state()?.current?.verdicts ?? []).map((v) => [v.key, v])));
  /** Whether the one who looks is doing a review now. */
  protected readonly doing = computed(() => {
    const current = this.state()?.current;
    return current?.state === 'open' && current.own;
  });
  protected readonly seen = computed(() => this.items().filter((i) => this.verdicts().has(i.key)).length);
  protected readonly returned = computed(() => [...this.verdicts().values()].some((v) => v.verdict === 'returned'));
  protected readonly maySettle = computed(() => this.returned() || this.seen() === this.items().length);
  protected readonly lacking = computed(() => (this.state()?.needs ?? []).filter((n) => !n.met));
  protected readonly crossings = computed(() => {
    const method = this.methodOf(this.item());
    return method ? crossingsOf(finishedFigure(method)).map((c) => c.number) : [];
  });
  /** The picture of the item, in the revision that is on the bench. */
  protected readonly picture = computed((): { drawing: Drawing; box: Box; marks: FigureMark[] } | undefined => {
    const item = this.item();
    const method = this.methodOf(item);
    if (!item || !method) return undefined;
    const figure = finishedFigure(method);
    if (item.step !== undefined)
      return {
        drawing: drawStep(method, item.step, { ghost: true, labels: true }),
        box: stepBox(method, item.step),
        marks: [],
      };
    const mark = inspectionMarks(figure, this.store.vocabulary()).find((m) => m.id === item.mark);
    const view = item.kind === 'back' || mark?.side === 'back' ? 'back' : 'front';
    const seen = figureInView(figure, view);
    return {
      drawing: drawFigure(seen, { labels: item.kind !== 'mark' }),
      box: heartBox(seen),
      marks: mark ? markPoints(seen, mark).map((point) => ({ point, kind: 'ring' })) : [],
    };
  });

  constructor() {
    effect(() => {
      // What is saved is what is reviewed: a new revision is read anew.
      const { id, revision } = this.shelf.card() ?? {};
      if (id !== undefined && revision !== undefined) untracked(() => void this.read(id));
    });
    effect(() => {
      const verdict = this.verdicts().get(this.item()?.key ?? '');
      this.remark.set(verdict?.remark ?? '');
      this.crossing.set(verdict?.crossing ?? null);
    });
  }

  private methodOf(item: Item | undefined): ReturnType<typeof methodsOf>[number]['method'] | undefined {
    const knot = this.store.knot();
    return knot && item && methodsOf(knot)[item.method]?.method;
  }

  private async read(id: string): Promise<void> {
    await this.ask(this.api.review(id));
  }

  protected reload(): void {
    const id = this.shelf.card()?.id;
    if (id !== undefined) void this.read(id);
  }

  protected go(to: number): void {
    this.at.set(Math.min(this.items().length - 1, Math.max(0, to)));
  }

  protected async begin(): Promise<void> {
    const id = this.shelf.card()?.id;
    if (id === undefined) return;
    this.at.set(0);
    await this.ask(this.api.beginReview(id));
  }

  protected async judge(verdict: 'accepted' | 'returned'): Promise<void> {
    const id = this.shelf.card()?.id;
    const item = this.item();
    if (id === undefined || !item || !this.doing()) return;
    if (verdict === 'returned' && this.remark().trim() === '') {
      this.trouble.set('Say what is wrong: what is returned needs a remark.');
      return;
    }
    const remark = verdict === 'returned' ? this.remark().trim() : '';
    const crossing = verdict === 'returned' ? this.crossing() : null;
    const done = await this.ask(this.api.judge(id, item.key, { verdict, remark, crossing }));
    if (done) this.go(this.at() + 1);
  }

  protected async settle(): Promise<void> {
    const id = this.shelf.card()?.id;
    if (id !== undefined) await this.ask(this.api.settleReview(id));
  }

  private ask(work: ReturnType<Api['review']>): Promise<boolean> {
    return this.attempt.run(work, (state) => this.state.set(state));
  }

  protected key(event: KeyboardEvent): void {
    const field = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, button, a');
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (field && event.key !== 'ArrowRight' && event.key !== 'ArrowLeft') return;
    if (field && field.matches('input, textarea, select')) return;
    if (event.key === 'ArrowRight') this.go(this.at() + 1);
    else if (event.key === 'ArrowLeft') this.go(this.at() - 1);
    else if (event.key.toLowerCase() === 'a') void this.judge('accepted');
    else return;
    event.preventDefault();
  }

  protected remarksOf(review: Review): { title: string; remark: string; crossing: number | null }[] {
    return review.verdicts
      .filter((v) => v.verdict === 'returned')
      .map((v) => ({
        title: this.items().find((i) => i.key === v.key)?.title ?? v.key,
        remark: v.remark,
        crossing: v.crossing,
      }));
  }
}
