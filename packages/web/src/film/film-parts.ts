/**
 * What of a film is played, and where each step begins in it: set at the frame that is shown, gone to with a press.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { playedOf, withCut, withFilmedStep, type Footage } from '@foxtrail/core/footage';

/** A step as it is listed: its text, and when it begins. */
interface Row {
  readonly step: number;
  readonly text: string;
  readonly at: number | undefined;
  readonly now: boolean;
}

@Component({
  selector: 'ft-film-parts',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Steps in the film</h2>
    <p class="played">
      @if (film().cut; as cut) {
        Played from {{ clock(cut[0]) }} to {{ clock(cut[1]) }}
      } @else {
        All of it is played
      }
    </p>
    @if (mayWrite()) {
      <div class="cut">
        <button mat-stroked-button type="button" (click)="begin()">Begin here</button>
        <button mat-stroked-button type="button" (click)="end()">End here</button>
        @if (film().cut) {
          <button mat-button type="button" (click)="changed.emit(whole())">All</button>
        }
      </div>
    }
    <ol>
      @for (r of rows(); track r.step) {
        <li [class.now]="r.now">
          <button
            type="button"
            class="step"
            [title]="r.text"
            [disabled]="r.at === undefined"
            [attr.aria-label]="
              'Step ' + (r.step + 1) + (r.at === undefined ? ', not in the film' : ', at ' + clock(r.at))
            "
            (click)="wanted.emit(r.at!)"
          >
            <span class="at">{{ r.at === undefined ? '–' : clock(r.at) }}</span><span class="text"
              >{{ r.step + 1 }}. {{ r.text }}</span
            >
          </button>
          @if (mayWrite()) {
            @if (r.now && r.at !== undefined && isAt(r.at)) {
              <button
                mat-icon-button
                type="button"
                aria-label="It does not begin here"
                (click)="set(r.step, undefined)"
              >
                <mat-icon svgIcon="minus" />
              </button>
            } @else {
              <button
                mat-icon-button
                type="button"
                [attr.aria-label]="'Step ' + (r.step + 1) + ' begins here'"
                [title]="'Step ' + (r.step + 1) + ' begins here'"
                (click)="set(r.step, time())"
              >
                <mat-icon svgIcon="flag" />
              </button>
            }
          }
        </li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .played {
      margin: 0;
      font-size: 15px;
    }
    .cut {
      display: flex;
      gap: 8px;
    }
    .cut button {
      flex: 1;
      min-height: 44px;
      padding: 0 8px;
      white-space: nowrap;
    }
    ol {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 2px;
      align-items: center;
      border-radius: 8px;
    }
    li.now {
      background: var(--fox-wash);
    }
    .step {
      display: grid;
      grid-template-columns: 52px minmax(0, 1fr);
      flex: 1;
      min-width: 0;
      padding: 8px;
      border: 0;
      border-radius: 8px;
      background: none;
      color: inherit;
      font: inherit;
      font-size: 15px;
      text-align: left;
      cursor: pointer;
    }
    .step:disabled {
      color: var(--ink-soft);
      cursor: default;
    }
    .at {
      font-variant-numeric: tabular-nums;
    }
    .text {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class FilmParts {
  readonly film = input.required<Footage>();
  /** The steps of the method, as they are told. */
  readonly steps = input.required<readonly string[]>();
  readonly time = input.required<number>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<Footage>();
  /** A place in the film, in seconds. */
  readonly wanted = output<number>();

  protected readonly rows = computed((): readonly Row[] => {
    const begun = this.film().steps ?? [];
    const now = begun.filter((s) => s.at <= this.time() + 1e-3).at(-1)?.step;
    return this.steps().map((text, step): Row => {
      return { step, text, at: begun.find((s) => s.step === step)?.at, now: step === now };
    });
  });

  protected clock(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;
  }

  protected isAt(at: number): boolean {
    return Math.abs(at - this.time()) < 0.05;
  }

  protected set(step: number, at: number | undefined): void {
    this.changed.emit(withFilmedStep(this.film(), step, at));
  }

  protected begin(): void {
    this.changed.emit(withCut(this.film(), this.time(), playedOf(this.film())[1]));
  }

  protected end(): void {
    this.changed.emit(withCut(this.film(), playedOf(this.film())[0], this.time()));
  }

  protected whole(): Footage {
    return withCut(this.film(), 0, this.film().duration);
  }
}
