/**
 * Front, back or left-handed: the choice of view, the same on every screen.
 */
import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { VIEWS, type View } from '@foxtrail/core';

@Component({
  selector: 'ft-view-toggle',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="view()"
      (change)="view.set($event.value)"
      hideSingleSelectionIndicator
      aria-label="View"
    >
      @for (v of views; track v.view) {
        <mat-button-toggle [value]="v.view">{{ v.name }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
  `,
  styles: `
    mat-button-toggle-group {
      background: var(--card);
    }
  `,
})
export class ViewToggle {
  readonly view = model.required<View>();
  protected readonly views = VIEWS;
}
