/**
 * Kin: every knot in its family, and how each comes from another. The shell of its screens.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { standingOf } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { sayTrouble, troubleOf } from '../data/problem';
import { SessionService } from '../data/session';
import { StateKinDialog } from './state.dialog';

@Component({
  selector: 'ft-kin',
  imports: [RouterLink, RouterLinkActive, RouterOutlet, MatButtonModule, MatIconModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h1>Kin</h1>
      <nav aria-label="Kin">
        @for (tab of tabs; track tab.path) {
          <a [routerLink]="tab.path" routerLinkActive="here" [ariaCurrentWhenActive]="'page'">{{ tab.name }}</a>
        }
      </nav>
      <span class="space"></span>
      @if (refuted(); as n) {
        <a class="chip fails" routerLink="relations" [queryParams]="{ only: 'refuted' }">{{ n }} refuted</a>
      }
      @if (mayWrite() && ready()) {
        <button mat-stroked-button type="button" (click)="state()"><mat-icon svgIcon="plus" />State kin …</button>
      }
    </div>
    @if (trouble(); as text) {
      <div class="note card" role="alert">
        <h2>The families cannot be shown</h2>
        <p>{{ text }}</p>
        <button mat-stroked-button type="button" (click)="load()">Try again</button>
      </div>
    } @else if (ready()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Gathering the families" />
    }
  `,
  styleUrl: '../ui/shell.scss',
})
export class KinPage {
  private readonly kin = inject(KinService);
  private readonly sessions = inject(SessionService);
  private readonly dialog = inject(MatDialog);
  protected readonly tabs = [
    { path: 'map', name: 'Map' },
    { path: 'families', name: 'Families' },
    { path: 'relations', name: 'Relations' },
    { path: 'discover', name: 'Discover' },
  ];
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly ready = computed(() => this.kin.kin() !== undefined);
  protected readonly refuted = computed(() => this.kin.links().filter((l) => standingOf(l) === 'refuted').length);
  protected readonly mayWrite = this.sessions.mayWrite;

  constructor() {
    this.load();
  }

  protected load(): void {
    this.trouble.set(undefined);
    this.kin.load().subscribe({ error: (error: unknown) => this.trouble.set(sayTrouble(troubleOf(error))) });
  }

  protected state(): void {
    this.dialog.open(StateKinDialog, { width: '640px', maxWidth: '94vw', data: {} });
  }
}
