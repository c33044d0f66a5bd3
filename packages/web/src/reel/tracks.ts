/**
 * The demonstration as tracks over time: what is filmed, what is read, and where it goes by too quickly. A press goes to the place.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { chaptersOf, cuesOf, type Scene, type Timeline, type TooQuick } from '@foxtrail/core/reel';

/** What each kind of scene is called. */
const NAMES: Readonly<Record<Scene['shot']['kind'], string>> = {
  lay: 'laid',
  tighten: 'drawn tight',
  hold: 'held',
  turn: 'turned over',
};

const nameOf = ({ shot }: Scene): string =>
  shot.kind === 'lay' && shot.again ? 'again, slower' : shot.kind === 'hold' ? `${shot.side} held` : NAMES[shot.kind];

interface Block {
  readonly key: string;
  readonly left: number;
  readonly width: number;
  readonly start: number;
  readonly text: string;
  readonly says: string;
  readonly kind: string;
  /** Share of it in which something moves. */
  readonly moves: number;
  readonly now: boolean;
}

@Component({
  selector: 'ft-reel-tracks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="rows">
      <ol class="row scenes" aria-label="Scenes">
        @for (b of scenes(); track b.key) {
          <li [style.left.%]="b.left" [style.width.%]="b.width">
            <button
              type="button"
              [class]="b.kind"
              [class.now]="b.now"
              [attr.aria-label]="b.says"
              [title]="b.says"
              (click)="goTo.emit(b.start)"
            >
              <span class="moves" [style.width.%]="100 * b.moves"></span><span class="text">{{ b.text }}</span>
            </button>
          </li>
        }
      </ol>
      <ol class="row cues" aria-label="Captions in time">
        @for (b of cues(); track b.key) {
          <li [style.left.%]="b.left" [style.width.%]="b.width">
            <button
              type="button"
              tabindex="-1"
              [class.now]="b.now"
              [class.quick]="b.kind === 'quick'"
              [title]="b.says"
              (click)="goTo.emit(b.start)"
            >
              <span class="text">{{ b.text }}</span>
            </button>
          </li>
        }
      </ol>
      <span class="head" aria-hidden="true" [style.left.%]="at()"></span>
    </div>
  `,
  styleUrl: './tracks.scss',
})
export class ReelTracks {
  readonly timeline = input.required<Timeline>();
  readonly time = input.required<number>();
  readonly perLine = input.required<number>();
  readonly quick = input.required<readonly TooQuick[]>();
  /** A place in the demonstration, in seconds. */
  readonly goTo = output<number>();

  private share(seconds: number): number {
    const { duration } = this.timeline();
    return duration > 0 ? (100 * seconds) / duration : 0;
  }

  private block(
    { start, end }: { readonly start: number; readonly end: number },
    rest: Omit<Block, 'left' | 'width' | 'start' | 'now'>,
  ): Block {
    const time = this.time();
    return {
      ...rest,
      start,
      left: this.share(start),
      width: this.share(end - start),
      now: time >= start && time < end,
    };
  }

  protected readonly at = computed(() => Math.min(100, this.share(this.time())));
  protected readonly scenes = computed(() => {
    const timeline = this.timeline();
    const { cautions, scenes } = timeline;
    const isFirst = (s: Scene, i: number): boolean => scenes[i - 1]?.step !== s.step;
    return [
      ...(cautions
        ? [
            this.block(
              { start: 0, end: cautions.end },
              { key: 'cautions', text: '!', says: 'Cautions, read before the first step', kind: 'cautions', moves: 0 },
            ),
          ]
        : []),
      ...scenes.map((s, i) =>
        this.block(s, {
          key: `scene ${i}`,
          text: isFirst(s, i) ? String(s.step + 1) : '',
          says: `Step ${s.step + 1}, ${nameOf(s)}, ${(s.end - s.start).toFixed(1)} seconds`,
          kind: s.shot.kind === 'lay' && s.shot.again ? 'again' : s.shot.kind,
          moves: s.end > s.start ? (s.laid - s.start) / (s.end - s.start) : 0,
        }),
      ),
    ];
  });
  protected readonly cues = computed(() => {
    const timeline = this.timeline();
    const slow = new Set(this.quick().flatMap((q) => (q.what === 'reading' ? [q.step] : [])));
    const chapters = chaptersOf(timeline);
    return cuesOf(timeline, this.perLine()).map((c) => {
      const step = chapters.find((ch) => c.start >= ch.start - 1e-6 && c.start < ch.end)?.step;
      return this.block(c, {
        key: c.id,
        text: c.lines.join(' '),
        says: c.lines.join(' '),
        kind: step !== undefined && slow.has(step) ? 'quick' : '',
        moves: 0,
      });
    });
  });
}
