/** Set: the drawing on the board as it lies in the hand. */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import type { Figure, Vocabulary } from '@foxtrail/core';
import { FormView } from './form-view';

export interface FormAsked {
  readonly name: string;
  readonly figure: Figure;
  readonly words: Vocabulary;
}

@Component({
  selector: 'ft-form-dialog',
  imports: [MatButtonModule, MatDialogModule, FormView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.name }}, dressed and set</h2>
    <mat-dialog-content>
      <ft-form-view [figure]="asked.figure" [name]="asked.name" [vocabulary]="asked.words" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-flat-button mat-dialog-close type="button">Back to the drawing</button>
    </mat-dialog-actions>
  `,
})
export class FormDialog {
  protected readonly asked = inject<FormAsked>(MAT_DIALOG_DATA);
}
