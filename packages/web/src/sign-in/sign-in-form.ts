/**
 * Name and password: on the sign-in page, and over a bench whose session has ended.
 */
import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { SessionService } from '../data/session';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

@Component({
  selector: 'ft-sign-in-form',
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule, MatButtonModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="submit()">
      <mat-form-field appearance="outline" hideRequiredMarker>
        <mat-label>Name</mat-label>
        <input matInput formControlName="name" autocomplete="username" />
        <mat-error>Give your name.</mat-error>
      </mat-form-field>
      <mat-form-field appearance="outline" hideRequiredMarker>
        <mat-label>Password</mat-label>
        <input matInput type="password" formControlName="password" autocomplete="current-password" />
        <mat-error>Give your password.</mat-error>
      </mat-form-field>
      <ft-trouble [text]="trouble()" />
      <button mat-flat-button type="submit" [disabled]="busy()">{{ busy() ? 'Signing in …' : 'Sign in' }}</button>
    </form>
    @if (sessions.session()?.demo) {
      <p class="demo soft">
        This is the demo of a made-up house. Its names and passwords were printed where it was started, and stand in the
        README.
      </p>
    }
  `,
  styles: `
    form {
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    button[type='submit'] {
      height: 48px;
    }
    .demo {
      margin: 24px 0 0;
      padding-top: 12px;
      border-top: 1px solid var(--line);
    }
  `,
})
export class SignInForm {
  readonly signedIn = output();
  protected readonly sessions = inject(SessionService);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', Validators.required],
    password: ['', Validators.required],
  });
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;

  protected submit(): void {
    this.form.markAllAsTouched();
    if (this.form.invalid || this.busy()) return;
    void this.attempt.run(this.sessions.signIn(this.form.getRawValue()), () => this.signedIn.emit());
  }
}
