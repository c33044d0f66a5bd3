/**
 * The open knot was archived in another tab or by somebody else: put it back, or keep this version as a knot of its own.
 */
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { sayTrouble, troubleOf } from '../data/problem';
import { Saving } from './saving';

@Component({
  selector: 'ft-gone',
  imports: [MatDialogModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>This knot was archived</h2>
    <mat-dialog-content>
      <p>It was taken off the shelf while it was open here. What you have drawn since is still on this bench.</p>
      @if (trouble(); as text) {
        <p role="alert">{{ text }}</p>
      }
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
  protected readonly trouble = signal<string | undefined>(undefined);

  protected putBack(): void {
    this.settle(this.saving.putBack());
  }

  protected saveAsNew(): void {
    this.settle(this.saving.saveAsNew());
  }

  private settle(work: Promise<unknown>): void {
    work.then(
      (copy) => this.dialog.close(copy),
      (error: unknown) => this.trouble.set(sayTrouble(troubleOf(error))),
    );
  }
}
