/**
 * The session ended while a knot was open: sign in over the bench and go on.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { SignInForm } from '../sign-in/sign-in-form';

@Component({
  selector: 'ft-sign-in-again',
  imports: [MatDialogModule, SignInForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Your session has ended</h2>
    <mat-dialog-content>
      <p>Sign in to go on. What you have drawn is kept on this bench and will be saved.</p>
      <ft-sign-in-form (signedIn)="dialog.close(true)" />
    </mat-dialog-content>
  `,
})
export class SignInAgainDialog {
  protected readonly dialog = inject(MatDialogRef);
}
