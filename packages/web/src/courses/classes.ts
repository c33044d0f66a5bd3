/** The classes that go through a course: each with the code that its learners are given. */
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { sayCode } from '@foxtrail/contract/class-code';
import { Attempt } from '../data/attempt';
import { ClassesService } from '../data/classes';
import { SessionService } from '../data/session';

@Component({
  selector: 'ft-course-classes',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Classes</h3>
    @for (c of own(); track c.id) {
      <div class="class">
        <span class="name">{{ c.name }}</span>
        <code>{{ c.says }}</code>
        <span class="soft">{{ c.answers === 1 ? '1 answer' : c.answers + ' answers' }}</span>
        @if (mayWrite()) {
          @if (asking() === c.id) {
            <span class="sure">
              Its counts go with it.
              <button mat-button type="button" (click)="asking.set(undefined)">Keep it</button>
              <button mat-stroked-button type="button" [disabled]="attempt.busy()" (click)="remove(c.id)">
                Remove it
              </button>
            </span>
          } @else {
            <button mat-button type="button" [attr.aria-label]="'Remove ' + c.name + ' …'" (click)="asking.set(c.id)">
              Remove …
            </button>
          }
        }
      </div>
    } @empty {
      <p class="soft">
        Learners practise without an account. Those of a class may be given its code: what they miss is then counted
        with the class, too.
      </p>
    }
    @if (mayWrite()) {
      <form class="new" (submit)="$event.preventDefault(); make(name)">
        <input class="field" maxlength="80" placeholder="Name of a class" aria-label="Name of a class" #name />
        <button mat-stroked-button type="submit" [disabled]="attempt.busy()">Add it</button>
      </form>
    }
    @if (attempt.trouble(); as trouble) {
      <p class="trouble" role="alert">{{ trouble }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .class {
      display: grid;
      margin-top: 8px;
      grid-template-columns: 1fr auto;
      gap: 2px 12px;
      align-items: center;
      padding: 8px 0;
      border-top: 1px solid var(--line);
    }
    .name {
      font-weight: 700;
    }
    code {
      font-size: 20px;
      letter-spacing: 0.08em;
      user-select: all;
    }
    .class button {
      justify-self: end;
    }
    .sure {
      grid-column: 1 / -1;
      text-align: end;
    }
    .new {
      display: flex;
      gap: 8px;
      margin-top: 10px;
    }
    .new input {
      flex: 1;
      min-width: 0;
    }
    .trouble {
      color: var(--plum);
    }
  `,
})
export class CourseClasses {
  readonly course = input.required<string>();
  private readonly classes = inject(ClassesService);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly asking = signal<string | undefined>(undefined);
  protected readonly own = computed(() =>
    (this.classes.classes() ?? [])
      .filter((c) => c.course === this.course())
      .map((c) => ({ ...c, says: sayCode(c.code) })),
  );

  constructor() {
    void this.attempt.run(this.classes.load());
  }

  protected async make(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (name === '') field.focus();
    else if (await this.attempt.run(this.classes.make(name, this.course()))) field.value = '';
  }
  protected async remove(id: string): Promise<void> {
    await this.attempt.run(this.classes.remove(id));
    this.asking.set(undefined);
  }
}
