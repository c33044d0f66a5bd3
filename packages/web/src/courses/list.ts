/** Every course of the house. */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Router, RouterLink } from '@angular/router';
import { courseSchema } from '@foxtrail/core/course';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { freeName } from '../ropes/kept-draft';
import { TroubleLine } from '../ui/trouble';

@Component({
  selector: 'ft-course-list',
  imports: [MatButtonModule, MatIconModule, RouterLink, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h1>Courses</h1>
      <p class="soft">Lessons and assemblies in an order in which nothing comes before it was explained.</p>
      <span class="space"></span>
      @if (mayWrite()) {
        <button mat-flat-button type="button" [disabled]="attempt.busy()" (click)="begin()">
          <mat-icon svgIcon="plus" />New course
        </button>
      }
    </div>
    <ft-trouble [text]="attempt.trouble()" />
    @for (c of courses(); track c.id) {
      <a class="card" [routerLink]="['/courses', c.id]">
        <h2>{{ c.is.name }}</h2>
        <p>{{ c.is.summary }}</p>
        <p class="soft">{{ c.names || 'Nothing is in it yet.' }}</p>
      </a>
    } @empty {
      <div class="card none">
        <h2>No course is planned yet</h2>
        <p>
          Put published lessons and assemblies in an order. What must come before what is computed: words, knots that
          are made of others, knots that an assembly uses.
        </p>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 980px;
      padding: 14px 24px 40px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 16px;
      align-items: center;
      margin-bottom: 14px;
    }
    h1,
    .head p {
      margin: 0;
    }
    .card {
      display: block;
      margin-bottom: 12px;
      padding: 12px 20px 14px;
      color: inherit;
      text-decoration: none;
    }
    .card h2 {
      margin: 0 0 2px;
    }
    .card p {
      margin: 2px 0;
    }
  `,
})
export class CourseList {
  private readonly kept = inject(RopesService);
  private readonly router = inject(Router);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly courses = computed(() =>
    this.kept.courses.list().map((c) => ({ ...c, names: c.is.items.map((i) => i.name).join(' · ') })),
  );

  protected async begin(): Promise<void> {
    const course = courseSchema.parse({ name: freeName('New course', this.kept.courses.list()) });
    await this.attempt.run(this.kept.courses.add(course), ([made]) => {
      if (made) void this.router.navigate(['/courses', made.id]);
    });
  }
}
