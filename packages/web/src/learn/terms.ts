/**
 * The words a lesson explains before its first step: each with its figure and what it means.
 */
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { LessonTerm } from '@foxtrail/contract';
import { ConceptFigure } from '../ui/concept-figure';

@Component({
  selector: 'ft-terms',
  imports: [ConceptFigure],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 id="terms">Words of this lesson</h2>
    <ul aria-labelledby="terms">
      @for (t of terms(); track t.id) {
        <li>
          @if (t.figure; as f) {
            <ft-concept-figure [figure]="f" [label]="t.word" />
          }
          <p>
            <strong>{{ t.word }}</strong> {{ t.definition }}
          </p>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
      gap: 12px;
      margin: 10px 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 160px 1fr;
      gap: 14px;
      align-items: center;
      padding: 10px 14px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      break-inside: avoid;
    }
    ft-concept-figure {
      height: 120px;
    }
    p {
      grid-column: 2;
      margin: 0;
      line-height: 1.4;
    }
    strong {
      display: block;
      font:
        620 18px 'Fraunces Variable',
        serif;
    }
  `,
})
export class Terms {
  readonly terms = input.required<readonly LessonTerm[]>();
}
