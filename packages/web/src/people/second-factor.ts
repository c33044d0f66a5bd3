/**
 * A second factor for one’s own account: set up with an authenticator, shown to work by a code, and taken away again.
 */
import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { HOUSE_ROUTES, type SecondFactorBegun } from '@foxtrail/contract';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { TroubleLine } from '../ui/trouble';

/** The dark squares of a picture, row by row, as one path of squares with sides of one. */
export const squaresPath = (rows: readonly string[]): string =>
  rows.flatMap((row, y) => Array.from(row, (dark, x) => (dark === '1' ? `M${x} ${y}h1v1h-1z` : ''))).join('');

@Component({
  selector: 'ft-second-factor',
  imports: [MatButtonModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>A second factor</h2>
    @if (spare(); as codes) {
      <p role="status">
        A code is asked for at every sign-in from now on. Keep these spare codes where your authenticator is not: each
        signs you in once without it. They are shown this once.
      </p>
      <ul class="codes">
        @for (code of codes; track code) {
          <li>
            <code>{{ code }}</code>
          </li>
        }
      </ul>
      <button mat-flat-button type="button" (click)="spare.set(undefined)">I have kept them</button>
    } @else if (begun(); as b) {
      <ol>
        <li>
          <p>Let your authenticator read this, or type the letters below into it.</p>
          <svg #picture [attr.viewBox]="box()" role="img" aria-label="To be read by the camera of an authenticator">
            <path [attr.d]="path()" />
          </svg>
          <p>
            <code class="secret">{{ groups(b.secret) }}</code>
          </p>
        </li>
        <li>
          <form (submit)="confirm($event, code)">
            <label>
              <span>The code that it shows now</span>
              <input #code class="field" name="code" inputmode="numeric" autocomplete="one-time-code" />
            </label>
            <button mat-flat-button type="submit" [disabled]="attempt.busy()">Ask for codes from now on</button>
            <button mat-button type="button" (click)="begun.set(undefined)">Leave it</button>
          </form>
        </li>
      </ol>
    } @else if (on() !== undefined) {
      <p class="soft">
        @if (on()) {
          A code of your authenticator is asked for whenever you sign in.
        } @else {
          Beside the password, a code that an authenticator on your phone shows, another each half minute. Whoever finds
          your password out cannot sign in without it.
        }
      </p>
      <form (submit)="go($event, present)">
        <label>
          <span>Present password</span>
          <input #present class="field" type="password" name="present-for-second" autocomplete="current-password" />
        </label>
        <button mat-stroked-button type="submit" [disabled]="attempt.busy()">
          {{ on() ? 'Take it away' : 'Set one up' }}
        </button>
      </form>
    }
    <ft-trouble [text]="attempt.trouble()" />
  `,
  styles: `
    h2 {
      margin-bottom: 12px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: end;
    }
    label {
      display: grid;
      gap: 4px;
      flex: 1 1 220px;
    }
    ol {
      margin: 0;
      padding-left: 20px;
    }
    svg {
      display: block;
      width: 216px;
      /* Cameras want dark on light, whatever the theme. */
      background: #fff;
      border-radius: 8px;
    }
    svg path {
      fill: #14181c;
    }
    .secret {
      font-size: 1rem;
      letter-spacing: 0.04em;
    }
    .codes {
      columns: 2;
      list-style: none;
      margin: 0 0 16px;
      padding: 0;
      max-width: 320px;
      font-size: 1.0625rem;
      line-height: 1.9;
    }
  `,
})
export class SecondFactor {
  private readonly api = inject(Api);
  /** What is to be read by a camera has to be seen whole. */
  private readonly picture = viewChild<ElementRef<SVGElement>>('picture');
  protected readonly attempt = new Attempt();
  /** Whether a code is asked for; unknown while it loads. */
  protected readonly on = signal<boolean | undefined>(undefined);
  protected readonly begun = signal<SecondFactorBegun | undefined>(undefined);
  protected readonly spare = signal<readonly string[] | undefined>(undefined);
  protected readonly path = computed(() => squaresPath(this.begun()?.squares ?? []));
  protected readonly box = computed(() => {
    const side = this.begun()?.squares.length ?? 0;
    return `0 0 ${side} ${side}`;
  });

  constructor() {
    effect(() => this.picture()?.nativeElement.scrollIntoView({ block: 'center' }));
    void this.attempt.run(this.api.call(HOUSE_ROUTES.secondFactor), ({ on }) => this.on.set(on));
  }

  /** Letters in groups of four, to be typed off. */
  protected readonly groups = (secret: string): string => secret.replace(/(.{4})(?=.)/g, '$1 ');

  protected go(event: Event, present: HTMLInputElement): void {
    event.preventDefault();
    if (present.value === '') {
      this.attempt.trouble.set('Give your present password.');
      return;
    }
    const body = { present: present.value };
    if (this.on() === true)
      void this.attempt.run(this.api.call(HOUSE_ROUTES.endSecondFactor, { body }), () => this.on.set(false));
    else
      void this.attempt.run(this.api.call(HOUSE_ROUTES.beginSecondFactor, { body }), (begun) => this.begun.set(begun));
    present.value = '';
  }

  protected confirm(event: Event, code: HTMLInputElement): void {
    event.preventDefault();
    if (code.value.trim() === '') {
      this.attempt.trouble.set('Give the code that your authenticator shows.');
      return;
    }
    const body = { code: code.value };
    void this.attempt.run(this.api.call(HOUSE_ROUTES.confirmSecondFactor, { body }), ({ spare }) => {
      this.begun.set(undefined);
      this.spare.set(spare);
      this.on.set(true);
    });
  }
}
