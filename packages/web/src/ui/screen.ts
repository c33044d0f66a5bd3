/**
 * The frame of a screen that has screens of its own: a head with their names, and below it the one that is shown, what went wrong, or
 * a bar while it is fetched. What else belongs into the head is put between its tags.
 */
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterOutlet } from '@angular/router';
import { TabLinks, type TabLink } from './tab-links';
import { TroubleNote } from './trouble';

@Component({
  selector: 'ft-screen',
  imports: [MatProgressBarModule, RouterOutlet, TabLinks, TroubleNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h1>{{ name() }}</h1>
      <ft-tab-links [label]="name()" [tabs]="tabs()" />
      <span class="space"></span>
      <ng-content />
    </div>
    @if (trouble(); as text) {
      <ft-trouble-note [title]="cannot()" [text]="text" (again)="again.emit()" />
    } @else if (ready()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" [aria-label]="fetching()" />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex: 1;
      flex-direction: column;
      min-height: 0;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: center;
      min-height: 56px;
      padding: 6px 24px;
      border-bottom: 1px solid var(--line);
      background: var(--card);
    }
    @media print {
      .head {
        display: none;
      }
    }
  `,
})
export class Screen {
  readonly name = input.required<string>();
  readonly tabs = input.required<readonly TabLink[]>();
  /** All that it shows is there. */
  readonly ready = input.required<boolean>();
  readonly trouble = input.required<string | undefined>();
  /** What is said when it cannot be shown, and while it is fetched. */
  readonly cannot = input.required<string>();
  readonly fetching = input.required<string>();
  readonly again = output();
}
