/**
 * Findings, each pointing at its place and offering what puts it right. While the pointer is on the list its rows keep their places:
 * what is found no more is struck out where it stands, what is new comes last.
 */
import { ChangeDetectionStrategy, Component, input, linkedSignal, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Finding } from '@foxtrail/core';

interface Row {
  readonly finding: Finding;
  /** It was found when the pointer came to the list, and is no more. */
  readonly gone: boolean;
}

const keyOf = (f: Finding): string => `${f.code} ${f.title}`;

/** The rows that stood there, each with what is found of it now; then what is new. */
function keptRows(before: readonly Row[], now: readonly Finding[]): Row[] {
  const left = [...now];
  const kept = before.map(({ finding }): Row => {
    const at = left.findIndex((f) => keyOf(f) === keyOf(finding));
    const [still] = at < 0 ? [] : left.splice(at, 1);
    return still ? { finding: still, gone: false } : { finding, gone: true };
  });
  return [...kept, ...left.map((finding): Row => ({ finding, gone: false }))];
}

@Component({
  selector: 'ft-findings-list',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul (pointerenter)="at.set(true)" (pointerleave)="at.set(false)">
      @for (row of rows(); track $index) {
        @let f = row.finding;
        <li [class.error]="f.severity === 'error'" [class.gone]="row.gone">
          <button type="button" class="point" [disabled]="row.gone" (click)="point.emit(f)">
            <span class="visually-hidden">{{ row.gone ? 'found no more' : f.severity }}: </span
            ><strong>{{ f.title }}</strong>
            <span>{{ f.why }} {{ f.remedy }}</span>
          </button>
          @if (f.fix && mayFix() && !row.gone) {
            <button mat-stroked-button type="button" (click)="fix.emit(f)">{{ f.fix.label }}</button>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: flex;
      flex-direction: column;
      gap: 8px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      padding: 8px 12px 10px;
      border: 1px solid var(--line);
      border-left: 6px solid var(--fox);
      border-radius: 10px;
      background: var(--card);
    }
    li.error {
      border-left-color: var(--plum);
    }
    .point {
      display: block;
      width: 100%;
      padding: 0;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      font-size: 15px;
      line-height: 1.35;
      text-align: left;
      cursor: pointer;
    }
    .point strong {
      display: block;
    }
    li.gone {
      border-left-color: var(--line);
      color: var(--ink-soft);
    }
    li.gone strong {
      text-decoration: line-through;
    }
    li > button[mat-stroked-button] {
      margin-top: 8px;
    }
  `,
})
export class FindingsList {
  readonly findings = input.required<readonly Finding[]>();
  readonly mayFix = input(true);
  readonly point = output<Finding>();
  readonly fix = output<Finding>();
  /** The pointer is on the list. */
  protected readonly at = signal(false);
  protected readonly rows = linkedSignal<{ now: readonly Finding[]; at: boolean }, readonly Row[]>({
    source: () => ({ now: this.findings(), at: this.at() }),
    computation: ({ now, at }, before) => keptRows(at && before ? before.value : [], now),
  });
}
