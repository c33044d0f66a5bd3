/**
 * Findings, each pointing at its place and offering what puts it right.
 */
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Finding } from '@foxtrail/core';

@Component({
  selector: 'ft-findings-list',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (f of findings(); track $index) {
        <li [class.error]="f.severity === 'error'">
          <button type="button" class="point" (click)="point.emit(f)">
            <span class="visually-hidden">{{ f.severity }}: </span><strong>{{ f.title }}</strong>
            <span>{{ f.why }} {{ f.remedy }}</span>
          </button>
          @if (f.fix && mayFix()) {
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
}
