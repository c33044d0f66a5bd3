/**
 * Who is signed in, and what they can do about it. Loaded when somebody is: learners have no use for it.
 */
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import type { Account } from '@foxtrail/contract';
import { SessionService } from '../data/session';

@Component({
  selector: 'ft-account-menu',
  imports: [RouterLink, MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button mat-button type="button" [matMenuTriggerFor]="menu" class="who">
      <mat-icon svgIcon="account" />{{ account().name }}
    </button>
    <mat-menu #menu="matMenu">
      <span class="role soft">{{ account().role }} at {{ house() }}</span>
      <a mat-menu-item routerLink="/account">Your account</a>
      @if (account().role === 'owner') {
        <a mat-menu-item routerLink="/people">People</a>
        <a mat-menu-item routerLink="/keeping">Keeping</a>
      }
      @if (account().role === 'owner' || account().role === 'author') {
        <a mat-menu-item routerLink="/house">House rules</a>
      }
      <button mat-menu-item type="button" (click)="signOut()">Sign out</button>
    </mat-menu>
  `,
  styles: `
    .who {
      --mat-button-text-label-text-color: #f6efe3;
      color: #f6efe3;
    }
    .role {
      display: block;
      padding: 8px 16px;
    }
  `,
})
export class AccountMenu {
  readonly account = input.required<Account>();
  readonly house = input.required<string>();
  private readonly sessions = inject(SessionService);
  private readonly router = inject(Router);

  protected signOut(): void {
    this.sessions.signOut().subscribe({ complete: () => void this.router.navigateByUrl('/sign-in') });
  }
}
