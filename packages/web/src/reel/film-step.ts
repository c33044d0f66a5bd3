/**
 * How the step that is shown is filmed: its speed, its rest, once or twice; and what goes by too quickly, put right with a press.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSliderModule } from '@angular/material/slider';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { FILM_SPEEDS, LONGEST_HOLD, type Filmed, type Step } from '@foxtrail/core';
import { sayOutOfSight, sayTooQuick, type OutOfSight, type TooQuick } from '@foxtrail/core/reel';

const SPEEDS: readonly number[] = [FILM_SPEEDS.least, 0.5, 0.75, 1, 1.5, 2, 3, FILM_SPEEDS.most];

/** A step to be filmed so; `undefined` as its length asks for. */
export interface FilmChange {
  readonly step: number;
  readonly filmed: Filmed | undefined;
}

@Component({
  selector: 'ft-film-step',
  imports: [MatButtonModule, MatSliderModule, MatSlideToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Step {{ step().index + 1 }}</h2>
    <label>
      <span>Speed</span>
      <mat-slider [min]="0" [max]="speeds.length - 1" step="1" [disabled]="!mayWrite()">
        <input
          matSliderThumb
          [value]="place()"
          (valueChange)="speed($event)"
          [attr.aria-valuetext]="said()"
          aria-label="Speed"
        />
      </mat-slider>
      <output>{{ said() }}</output>
    </label>
    <label>
      <span>Held for</span>
      <mat-slider [min]="0" [max]="longest" step="0.5" [disabled]="!mayWrite()">
        <input
          matSliderThumb
          [value]="filmed().hold ?? 0"
          (valueChange)="change({ hold: $event || undefined })"
          aria-label="Held for, in seconds"
        />
      </mat-slider>
      <output>{{ (filmed().hold ?? 0).toFixed(1) }} s</output>
    </label>
    @if (step().does === 'lay') {
      <mat-slide-toggle
        [checked]="filmed().again === true"
        [disabled]="!mayWrite()"
        (change)="change({ again: $event.checked || undefined })"
        >Again, slower</mat-slide-toggle
      >
    }
    @for (q of quick(); track q.part + q.what) {
      <p class="quick" role="status">
        <strong>Step {{ q.part + 1 }}.</strong>
        {{ sayTooQuick(q) }}
        @if (q.mend && mayWrite()) {
          <button mat-stroked-button type="button" (click)="film.emit({ step: q.part, filmed: q.mend })">
            {{ q.what === 'reading' ? 'Hold it longer' : 'Slow it down' }}
          </button>
        } @else if (!q.mend) {
          It has too much in it: split it in Draft.
        }
      </p>
    }
    @for (u of unseen(); track u.time) {
      <p class="quick" role="status">
        <strong>Step {{ (u.step ?? 0) + 1 }}.</strong>
        {{ sayOutOfSight(u) }}
        <button mat-stroked-button type="button" (click)="goTo.emit(u.time)">Look at it</button>
        @if (mayWrite()) {
          <button mat-stroked-button type="button" (click)="whole.emit(u.step ?? 0)">
            Show the whole figure in it
          </button>
        }
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    label {
      display: grid;
      grid-template-columns: 64px minmax(0, 1fr) 56px;
      gap: 6px;
      align-items: center;
    }
    mat-slider {
      min-width: 0;
    }
    output {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
    .quick {
      display: grid;
      gap: 6px;
      justify-items: start;
      margin: 4px 0 0;
      padding: 8px 12px;
      border-left: 5px solid var(--plum);
      border-radius: 8px;
      background: var(--plum-wash);
      font-size: 15px;
      line-height: 1.35;
    }
  `,
})
export class FilmStep {
  readonly step = input.required<Step>();
  readonly quick = input.required<readonly TooQuick[]>();
  /** The crossings that are not seen when they matter. */
  readonly unseen = input<readonly OutOfSight[]>([]);
  readonly mayWrite = input.required<boolean>();
  readonly film = output<FilmChange>();
  /** The whole figure is to be shown in a step, by its index. */
  readonly whole = output<number>();
  /** A time of the demonstration, in seconds. */
  readonly goTo = output<number>();
  protected readonly sayTooQuick = sayTooQuick;
  protected readonly sayOutOfSight = sayOutOfSight;
  protected readonly speeds = SPEEDS;
  protected readonly longest = LONGEST_HOLD;
  protected readonly filmed = computed((): Filmed => this.step().telling.filmed ?? {});
  /** The speed among those that are offered; one that was worked out lies nearest to one of them. */
  protected readonly place = computed(() => {
    const speed = this.filmed().speed ?? 1;
    return SPEEDS.reduce((best, s, i) => (Math.abs(s - speed) < Math.abs(SPEEDS[best]! - speed) ? i : best), 0);
  });
  protected readonly said = computed(() => `× ${this.filmed().speed ?? 1}`);

  protected speed(place: number): void {
    if (place === this.place()) return;
    const speed = SPEEDS[place] ?? 1;
    this.change({ speed: speed === 1 ? undefined : speed });
  }

  protected change(some: Filmed): void {
    const all: Record<string, unknown> = { ...this.filmed(), ...some };
    const next: Filmed = Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
    this.film.emit({ step: this.step().index, filmed: Object.keys(next).length > 0 ? next : undefined });
  }
}
