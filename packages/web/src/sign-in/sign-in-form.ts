/**
 * Name and password: on the sign-in page, and over a bench whose session has ended.
 */
import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, effect, inject, output, signal, viewChild } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { catchError, map, of } from 'rxjs';
import { troubleOf } from '../data/problem';
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
      @if (asksCode()) {
        <mat-form-field appearance="outline" hideRequiredMarker>
          <mat-label>Code of your authenticator</mat-label>
          <input matInput #code formControlName="code" autocomplete="one-time-code" />
          <mat-hint>Or one of your spare codes.</mat-hint>
        </mat-form-field>
      }
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
    code: '',
  });
  protected readonly asksCode = signal(false);
  private readonly codeField = viewChild<ElementRef<HTMLInputElement>>('code');
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;

  constructor() {
    effect(() => this.codeField()?.nativeElement.focus());
  }

  protected submit(): void {
    this.form.markAllAsTouched();
    if (this.form.invalid || this.busy()) return;
    const { name, password, code } = this.form.getRawValue();
    const signedIn = this.sessions.signIn({ name, password, ...(code === '' ? {} : { code }) }).pipe(
      map(() => true),
      catchError((error: unknown) => {
        // Name and password are right: what is missing is no trouble, and is asked for.
        if (troubleOf(error).code !== 'second-factor') throw error;
        this.asksCode.set(true);
        return of(false);
      }),
    );
    void this.attempt.run(signedIn, (done) => {
      if (done) this.signedIn.emit();
    });
  }
}
