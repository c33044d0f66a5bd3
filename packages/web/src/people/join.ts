/**
 * An invitation taken up: a password is chosen, and one is in. The link’s token is behind its #: no server and no log sees it.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { Attempt } from '../data/attempt';
import { SessionService } from '../data/session';
import { TroubleLine } from '../ui/trouble';
import { NewPassword } from './new-password';

@Component({
  selector: 'ft-join',
  imports: [NewPassword, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="card">
      <h1>You are invited</h1>
      <p>Choose a password for your account. You sign in with it and the name that you were invited by.</p>
      <ft-new-password does="Join" [busy]="attempt.busy()" (chosen)="join($event)" />
      <ft-trouble [text]="attempt.trouble()" />
    </main>
  `,
  styles: `
    main {
      max-width: 480px;
      margin: 48px auto;
      padding: 32px;
    }
  `,
})
export class JoinPage {
  private readonly sessions = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly attempt = new Attempt();

  protected join(password: string): void {
    const token = location.hash.slice(1);
    if (token === '') this.attempt.trouble.set('There is no invitation in this address. Open the link as it was sent.');
    else if (password === '') this.attempt.trouble.set('Choose a password.');
    else void this.attempt.run(this.sessions.join({ token, password }), () => void this.router.navigateByUrl('/shelf'));
  }
}
