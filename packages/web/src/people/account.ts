/**
 * One’s own account: another password, a second factor, and signed out wherever one is signed in.
 */
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { Attempt } from '../data/attempt';
import { SessionService } from '../data/session';
import { TroubleLine } from '../ui/trouble';
import { NewPassword } from './new-password';
import { SecondFactor } from './second-factor';

@Component({
  selector: 'ft-account',
  imports: [MatButtonModule, NewPassword, SecondFactor, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1>{{ sessions.session()?.account?.name }}</h1>
      <section class="card">
        <h2>Another password</h2>
        <ft-new-password
          label="New password"
          does="Change it"
          [busy]="attempt.busy()"
          (chosen)="change(present, $event)"
        >
          <label class="present">
            <span>Present password</span>
            <input #present class="field" type="password" name="present" autocomplete="current-password" />
          </label>
        </ft-new-password>
        <ft-trouble [text]="attempt.trouble()" />
        @if (changed()) {
          <p role="status">It is changed. You are signed in here, and nowhere else.</p>
        }
      </section>
      <section class="card">
        <ft-second-factor />
      </section>
      <section class="card">
        <h2>Sign out everywhere</h2>
        <p class="soft">On this device and on all others: for a device that is lost, or was lent.</p>
        <button mat-stroked-button type="button" [disabled]="attempt.busy()" (click)="leave()">
          Sign out everywhere
        </button>
      </section>
    </main>
  `,
  styles: `
    main {
      display: grid;
      gap: 16px;
      max-width: 560px;
      margin: 24px auto;
      padding: 0 24px;
    }
    section {
      padding: 20px 24px;
    }
    h2 {
      margin-bottom: 12px;
    }
    .present {
      display: grid;
      gap: 4px;
      width: 100%;
    }
  `,
})
export class AccountPage {
  protected readonly sessions = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly attempt = new Attempt();
  protected readonly changed = signal(false);

  protected change(present: HTMLInputElement, wanted: string): void {
    this.changed.set(false);
    if (present.value === '' || wanted === '') {
      this.attempt.trouble.set('Give both the present password and the new one.');
      return;
    }
    void this.attempt.run(this.sessions.changePassword({ present: present.value, wanted }), () => {
      present.value = '';
      this.changed.set(true);
    });
  }

  protected leave(): void {
    void this.attempt.run(this.sessions.signOutEverywhere(), () => void this.router.navigateByUrl('/sign-in'));
  }
}
