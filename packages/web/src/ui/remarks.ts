/**
 * What is to be said of the words of a text, each with the presses that put it right.
 */
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Mend, Remark } from '@foxtrail/core';
import { WordsService } from '../data/words';

@Component({
  selector: 'ft-remarks',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (r of remarks(); track $index) {
        <li [class.wrong]="r.kind === 'loop of the other hand'">
          <p>
            <strong>“{{ r.words }}”</strong> <span class="kind">{{ r.kind }}</span> {{ r.says }}
          </p>
          @if (mayMend()) {
            <p class="presses">
              @for (m of r.mends; track m.instead) {
                <button mat-stroked-button type="button" (click)="mend.emit(m)">Write “{{ m.instead }}”</button>
              }
              @if (r.introduce; as concept) {
                <button mat-stroked-button type="button" (click)="introduce.emit(concept)">
                  Explain “{{ words.wordFor(concept) }}” before the first step
                </button>
              }
            </p>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: flex;
      flex-direction: column;
      gap: 6px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      padding: 6px 10px 8px;
      border-left: 4px solid var(--fox);
      border-radius: 0 8px 8px 0;
      background: var(--fox-wash);
      font-size: 14.5px;
      line-height: 1.35;
    }
    li.wrong {
      border-left-color: var(--plum);
      background: var(--plum-wash);
    }
    p {
      margin: 0;
    }
    .kind {
      margin: 0 4px;
      color: var(--ink-soft);
      font-style: italic;
    }
    .kind::after {
      content: '.';
    }
    .presses {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    .presses button {
      margin-top: 6px;
      background: var(--card);
    }
  `,
})
export class Remarks {
  readonly remarks = input.required<readonly Remark[]>();
  readonly mayMend = input(true);
  readonly mend = output<Mend>();
  /** A concept to be explained to learners before the first step. */
  readonly introduce = output<string>();
  protected readonly words = inject(WordsService);
}
