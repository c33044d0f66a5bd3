/**
 * Kin: every knot in its family, and how each comes from another. The shell of its screens.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { standingOf } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { SessionService } from '../data/session';
import { StateKinDialog } from './state.dialog';
import { Attempt } from '../data/attempt';
import { Screen } from '../ui/screen';

@Component({
  selector: 'ft-kin',
  imports: [RouterLink, MatButtonModule, MatIconModule, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-screen
      name="Kin"
      cannot="The families cannot be shown"
      fetching="Gathering the families"
      [tabs]="tabs"
      [ready]="ready()"
      [trouble]="trouble()"
      (again)="load()"
    >
      @if (refuted(); as n) {
        <a class="chip fails" routerLink="relations" [queryParams]="{ only: 'refuted' }">{{ n }} refuted</a>
      }
      @if (mayWrite() && ready()) {
        <button mat-stroked-button type="button" (click)="state()"><mat-icon svgIcon="plus" />State kin …</button>
      }
    </ft-screen>
  `,
  styleUrl: '../ui/screen-page.scss',
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
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly ready = computed(() => this.kin.kin() !== undefined);
  protected readonly refuted = computed(() => this.kin.links().filter((l) => standingOf(l) === 'refuted').length);
  protected readonly mayWrite = this.sessions.mayWrite;

  constructor() {
    this.load();
  }

  protected load(): void {
    void this.attempt.run(this.kin.load());
  }

  protected state(): void {
    this.dialog.open(StateKinDialog, { width: '640px', maxWidth: '94vw', data: {} });
  }
}
