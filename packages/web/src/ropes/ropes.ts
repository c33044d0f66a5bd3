/**
 * Ropes: what the house ties with, what a lesson needs of it, what lines carry, and what was pulled. The shell of its screens.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { forkJoin, type Observable } from 'rxjs';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { Screen } from '../ui/screen';

@Component({
  selector: 'ft-ropes',
  imports: [Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-screen
      name="Ropes"
      cannot="The ropes cannot be shown"
      fetching="Opening the store"
      [tabs]="tabs"
      [ready]="ready()"
      [trouble]="trouble()"
      (again)="load()"
    />
  `,
  styleUrl: '../ui/screen-page.scss',
})
export class RopesPage {
  private readonly ropes = inject(RopesService);
  protected readonly tabs = [
    { path: 'stock', name: 'Stock' },
    { path: 'plans', name: 'Plans' },
    { path: 'ties', name: 'Measured ties' },
    { path: 'loads', name: 'Loads' },
    { path: 'tests', name: 'Pull tests' },
    { path: 'camera', name: 'Camera' },
  ];
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  /** What every screen needs; a log of tests may be long, and is fetched where it is shown. */
  private readonly lists = [
    this.ropes.ropes,
    this.ropes.things,
    this.ropes.bodies,
    this.ropes.ties,
    this.ropes.plans,
  ] as const;
  protected readonly ready = computed(() => this.lists.every((l) => l.all() !== undefined));

  constructor() {
    this.ropes.tests.forget();
    this.load();
  }

  protected load(): void {
    void this.attempt.run(forkJoin(this.lists.map((l) => l.load() as Observable<unknown>)));
  }
}
