/**
 * The open knot was archived in another tab or by somebody else: put it back, or keep this version as a knot of its own.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Saving } from './saving';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

@Component({
  selector: 'ft-gone',
  imports: [MatDialogModule, MatButtonModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>This knot was archived</h2>
    <mat-dialog-content>
      <p>It was taken off the shelf while it was open here. What you have drawn since is still on this bench.</p>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-stroked-button type="button" (click)="saveAsNew()">Save mine as a new knot</button>
      <button mat-flat-button type="button" (click)="putBack()">Put it back and save</button>
    </mat-dialog-actions>
  `,
})
export class GoneDialog {
  private readonly saving = inject(Saving);
  private readonly dialog = inject(MatDialogRef);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;

  protected putBack(): void {
    void this.attempt.run(this.saving.putBack(), () => this.dialog.close());
  }

  protected saveAsNew(): void {
    void this.attempt.run(this.saving.saveAsNew(), (copy) => this.dialog.close(copy));
  }
}
