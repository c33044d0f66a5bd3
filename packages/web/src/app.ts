/**
 * The root: the bar that spans the library, and the screen below it.
 */
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { filter, map } from 'rxjs';
import { SessionService } from './data/session';
import { Theme } from './data/theme';
import { AccountMenu } from './ui/account-menu';
import { Icons } from './ui/icons';

@Component({
  selector: 'ft-root',
  imports: [RouterOutlet, RouterLink, RouterLinkActive, MatButtonModule, MatIconModule, AccountMenu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="bar">
      @if (account()) {
        <a class="mark" routerLink="/shelf">Fox Trail</a>
      } @else {
        <a class="mark" href="/learn">Fox Trail</a>
      }
      <button
        mat-icon-button
        type="button"
        class="fold"
        aria-label="Pages"
        aria-controls="pages"
        [attr.aria-expanded]="unfolded()"
        (click)="unfolded.set(!unfolded())"
      >
        <mat-icon svgIcon="menu" />
      </button>
      <nav id="pages" aria-label="Library" [class.open]="unfolded()">
        @if (account()) {
          <a routerLink="/shelf" routerLinkActive="here">Shelf</a>
          <a routerLink="/words" routerLinkActive="here">Words</a>
          <a routerLink="/kin" routerLinkActive="here">Kin</a>
          <a routerLink="/ropes" routerLinkActive="here">Ropes</a>
          <a routerLink="/assemblies" routerLinkActive="here">Assemblies</a>
          <a routerLink="/courses" routerLinkActive="here">Courses</a>
          <a routerLink="/choose" routerLinkActive="here">Choose</a>
        }
        <a href="/learn">Published</a>
      </nav>
      <span class="space"></span>
      @if (account()) {
        <span class="house">{{ house() }}</span>
      }
      <button
        mat-icon-button
        type="button"
        (click)="theme.toggle()"
        [attr.aria-label]="theme.dark() ? 'Use the light theme' : 'Use the dark theme'"
      >
        <mat-icon svgIcon="theme" />
      </button>
      @if (account(); as a) {
        @defer (on immediate) {
          <ft-account-menu [account]="a" [house]="house()" />
        } @placeholder {
          <span class="who waiting">{{ a.name }}</span>
        }
      } @else if (!atSignIn()) {
        <a mat-button routerLink="/sign-in" class="who">Sign in</a>
      }
    </header>
    <router-outlet />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 100vh;
    }
    .bar {
      display: flex;
      align-items: center;
      gap: 20px;
      height: 48px;
      padding: 0 16px 0 20px;
      background: var(--bar);
      color: var(--bar-ink);
      flex: none;
    }
    .mark {
      font:
        650 21px/1 'Fraunces Variable',
        serif;
      color: inherit;
      white-space: nowrap;
      text-decoration: none;
    }
    nav {
      display: flex;
      gap: 6px;
    }
    nav a {
      padding: 10px 12px;
      color: #d9d2c4;
      text-decoration: none;
    }
    nav a.here {
      color: #fff;
      box-shadow: inset 0 -3px #e0702a;
    }
    .fold {
      display: none;
    }
    .house {
      color: #d9d2c4;
    }
    .bar button,
    .bar .who {
      --mat-button-text-label-text-color: #f6efe3;
      --mat-icon-button-icon-color: #f6efe3;
      color: #f6efe3;
    }
    .bar :focus-visible {
      outline-color: #f09a58;
    }
    .waiting {
      padding: 0 16px 0 40px;
    }
    @media (max-width: 700px) {
      .bar {
        gap: 6px;
        padding: 0 8px;
      }
      .house {
        display: none;
      }
      .fold {
        display: block;
      }
      nav {
        position: absolute;
        z-index: 10;
        top: 48px;
        left: 0;
        display: none;
        flex-direction: column;
        width: 220px;
        padding: 6px 0;
        border-radius: 0 0 12px;
        background: var(--bar);
      }
      nav.open {
        display: flex;
      }
      nav a {
        padding: 14px 20px;
      }
    }
    @media print {
      .bar {
        display: none;
      }
    }
  `,
})
export class App {
  protected readonly theme = inject(Theme);
  /** On a narrow screen the names of the pages are folded away until they are asked for. */
  protected readonly unfolded = signal(false);
  private readonly sessions = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly account = computed(() => this.sessions.session()?.account ?? null);
  protected readonly house = computed(() => this.sessions.session()?.house.name ?? '');
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((e) => e instanceof NavigationEnd),
      map((e) => e.urlAfterRedirects),
    ),
    { initialValue: '' },
  );
  protected readonly atSignIn = computed(() => this.url().startsWith('/sign-in'));

  constructor() {
    // Gone to a page, their names are folded away again.
    effect(() => {
      this.url();
      this.unfolded.set(false);
    });
    inject(Icons);
    this.sessions.load().subscribe({ error: () => undefined });
  }
}
