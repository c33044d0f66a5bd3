/**
 * The key sheet.
 */
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { keySheet } from './commands';

@Component({
  selector: 'ft-keys',
  imports: [MatDialogModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keys on the board</h2>
    <mat-dialog-content tabindex="0">
      <div class="groups">
        @for (group of groups; track group.title) {
          <section [class.under]="group.title === 'Steps'">
            <h3>{{ group.title }}</h3>
            <dl>
              @for (k of group.keys; track $index) {
                <dt>
                  <span class="key">{{ k.shown }}</span>
                </dt>
                <dd>{{ k.says }}</dd>
              }
            </dl>
          </section>
        }
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button mat-flat-button type="button" mat-dialog-close cdkFocusInitial>Close</button></mat-dialog-actions
    >
  `,
  styles: `
    .groups {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 16px 26px;
    }
    mat-dialog-content {
      max-height: 78vh;
    }
    section {
      grid-row: 1 / span 2;
    }
    section:nth-child(3) {
      grid-row: 1;
    }
    .under {
      grid-row: 2;
      grid-column: 3;
    }
    h3 {
      margin-bottom: 8px;
    }
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: 6px 10px;
      margin: 0;
    }
    dd {
      margin: 0;
      font-size: 15px;
      line-height: 1.25;
    }
  `,
})
export class KeysDialog {
  protected readonly groups = keySheet();
}
