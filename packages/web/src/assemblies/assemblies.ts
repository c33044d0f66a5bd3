/**
 * Assemblies: several knots on ropes, taught and inspected as one. The shell of their screens: what all of them need is fetched here.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterOutlet } from '@angular/router';
import { forkJoin, type Observable } from 'rxjs';
import { AssembliesService } from '../data/assemblies';
import { Attempt } from '../data/attempt';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';
import { RopesService } from '../data/ropes';
import { Eats } from '../ropes/eats';
import { TroubleNote } from '../ui/trouble';
import { Laying } from './laying';

@Component({
  selector: 'ft-assemblies',
  imports: [MatProgressBarModule, RouterOutlet, TroubleNote],
  providers: [FormingService, PlacingService, Eats, Laying],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (trouble(); as text) {
      <ft-trouble-note title="The assemblies cannot be shown" [text]="text" (again)="load()" />
    } @else if (ready()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Fetching the assemblies" />
    }
  `,
})
export class AssembliesPage {
  private readonly ropes = inject(RopesService);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  private readonly lists = [
    this.ropes.assemblies,
    this.ropes.ropes,
    this.ropes.things,
    this.ropes.bodies,
    this.ropes.ties,
  ] as const;
  protected readonly ready = computed(() => this.lists.every((l) => l.all() !== undefined));

  constructor() {
    // Knots may have been drawn otherwise since.
    inject(AssembliesService).forget();
    this.load();
  }

  protected load(): void {
    void this.attempt.run(forkJoin(this.lists.map((l) => l.load() as Observable<unknown>)));
  }
}
