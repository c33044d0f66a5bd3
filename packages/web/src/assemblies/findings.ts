/** What is found wrong in an assembly: what, why it matters, what puts it right, and the press that does. */
import { booleanAttribute, ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { AssemblyFinding } from '@foxtrail/core/assembly';

@Component({
  selector: 'ft-assembly-findings',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (f of findings(); track $index) {
      <article [class.bad]="f.severity === 'error'">
        <h3><mat-icon svgIcon="alert" aria-hidden="true" />{{ f.title }}</h3>
        <p>{{ f.why }}</p>
        <p>{{ f.remedy }}</p>
        <div class="acts">
          @if (f.mend && mayWrite()) {
            <button mat-stroked-button type="button" (click)="mend.emit(f)">{{ f.mend.label }}</button>
          }
          @if (f.about !== undefined) {
            <button mat-button type="button" (click)="point.emit(f)">Show it</button>
          }
        </div>
      </article>
    } @empty {
      <p class="clear">
        @if (proving()) {
          The knots are being looked at …
        } @else {
          <mat-icon svgIcon="ok" aria-hidden="true" />Nothing is found wrong: every knot is what it ought to be, and
          keepers, tails and order hold.
        }
      </p>
    }
  `,
  styles: `
    article {
      margin: 12px 14px;
      padding: 10px 14px 8px;
      border-left: 5px solid var(--fox);
      border-radius: 10px;
      background: var(--fox-wash);
    }
    article.bad {
      border-color: var(--plum);
      background: var(--plum-wash);
    }
    h3 {
      display: flex;
      gap: 8px;
      align-items: start;
      margin: 0 0 2px;
      font-size: 17px;
      line-height: 1.3;
    }
    mat-icon {
      flex: none;
    }
    p {
      margin: 2px 0;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
      margin-top: 6px;
    }
    .clear {
      display: flex;
      gap: 10px;
      margin: 20px 18px;
    }
    .clear mat-icon {
      color: var(--moss);
    }
  `,
})
export class AssemblyFindings {
  readonly findings = input.required<readonly AssemblyFinding[]>();
  /** Facts of knots are still being fetched. */
  readonly proving = input(false, { transform: booleanAttribute });
  readonly mayWrite = input.required<boolean>();
  readonly mend = output<AssemblyFinding>();
  readonly point = output<AssemblyFinding>();
}
