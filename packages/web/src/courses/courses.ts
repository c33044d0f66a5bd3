/** Courses: lessons and assemblies in an order. The shell of their screens: what all of them need is fetched here. */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterOutlet } from '@angular/router';
import { forkJoin, type Observable } from 'rxjs';
import { AssembliesService } from '../data/assemblies';
import { Attempt } from '../data/attempt';
import { CoursesService } from '../data/courses';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { WordsService } from '../data/words';
import { TroubleNote } from '../ui/trouble';

@Component({
  selector: 'ft-courses',
  imports: [MatProgressBarModule, RouterOutlet, TroubleNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (trouble(); as text) {
      <ft-trouble-note title="The courses cannot be shown" [text]="text" (again)="load()" />
    } @else if (ready()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Fetching the courses" />
    }
  `,
})
export class CoursesPage {
  private readonly ropes = inject(RopesService);
  private readonly kin = inject(KinService);
  private readonly words = inject(WordsService);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  private readonly lists = [this.ropes.courses, this.ropes.assemblies, this.ropes.ropes, this.ropes.ties] as const;
  protected readonly ready = computed(
    () =>
      this.lists.every((l) => l.all() !== undefined) &&
      this.kin.kin() !== undefined &&
      this.words.words() !== undefined,
  );

  constructor() {
    // Lessons may have been published or drawn otherwise since.
    inject(CoursesService).forget();
    inject(AssembliesService).forget();
    this.load();
  }

  protected load(): void {
    const lists = this.lists.map((l) => l.load() as Observable<unknown>);
    void this.attempt.run(forkJoin([...lists, this.kin.load(), this.words.load()]));
  }
}
