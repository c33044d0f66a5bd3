/**
 * The schools: added, renamed, removed with their labels. The house’s own school may be one of them.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { schoolSchema, type School } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

/** A school's id from its name: lower-case words joined by hyphens. */
const idOf = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

@Component({
  selector: 'ft-schools-dialog',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Schools of words</h2>
    <mat-dialog-content>
      @for (s of schools(); track s.id) {
        <div class="row" role="group" [attr.aria-label]="s.name">
          <input class="field" [attr.aria-label]="'Name of ' + s.name" maxlength="80" [value]="s.name" #name />
          <input
            class="field"
            [attr.aria-label]="'What is said of ' + s.name"
            placeholder="Who speaks so"
            maxlength="300"
            [value]="s.note"
            #note
          />
          <button
            mat-button
            type="button"
            [disabled]="busy() || (name.value === s.name && note.value === s.note)"
            (click)="write({ id: s.id, name: name.value, note: note.value })"
          >
            Keep
          </button>
          @if (removing() === s.id) {
            <button mat-stroked-button type="button" [disabled]="busy()" (click)="remove(s)">
              Remove it with its {{ labels(s.id) }} labels
            </button>
          } @else {
            <button
              mat-icon-button
              type="button"
              [attr.aria-label]="'Remove ' + s.name"
              [disabled]="busy()"
              (click)="removing.set(s.id)"
            >
              <mat-icon svgIcon="remove" />
            </button>
          }
        </div>
      }
      <div class="row" role="group" aria-label="A new school">
        <input class="field" aria-label="Name of the new school" placeholder="A new school" maxlength="80" #fresh />
        <input class="field" aria-label="What is said of it" placeholder="Who speaks so" maxlength="300" #about />
        <button mat-stroked-button type="button" [disabled]="busy()" (click)="add(fresh, about)">Add</button>
      </div>
      <p class="soft">
        A new school has no labels yet: give them on Terms, or take in a glossary of it. The school that the house
        speaks cannot be removed.
      </p>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-flat-button type="button" mat-dialog-close>Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: 200px 1fr auto auto;
      gap: 8px;
      align-items: center;
      margin-bottom: 8px;
    }
  `,
})
export class SchoolsDialog {
  private readonly words = inject(WordsService);
  protected readonly schools = computed(() => this.words.glossary().schools);
  protected readonly removing = signal('');
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;

  protected labels(id: string): number {
    return this.words.glossary().concepts.reduce((n, c) => n + c.labels.filter((l) => l.school === id).length, 0);
  }

  protected add(name: HTMLInputElement, note: HTMLInputElement): void {
    const id = idOf(name.value);
    if (this.schools().some((s) => s.id === id)) {
      this.trouble.set(`There is a school “${name.value.trim()}” already. Give the new one another name.`);
      return;
    }
    this.write({ id, name: name.value, note: note.value }, () => {
      name.value = '';
      note.value = '';
    });
  }

  protected write(school: School, done?: () => void): void {
    const read = schoolSchema.safeParse(school);
    if (!read.success) {
      this.trouble.set(`It cannot be kept: ${read.error.issues[0]?.message ?? ''}.`);
      return;
    }
    void this.attempt.run(this.words.writeSchool(read.data), done);
  }

  protected remove({ id }: School): void {
    void this.attempt.run(this.words.removeSchool(id), () => this.removing.set(''));
  }
}
