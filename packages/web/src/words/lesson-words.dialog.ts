/**
 * The words of one lesson: which school's they are, which of them it explains to its learners, and what its author's own texts would say
 * in them, text by text.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import {
  lessonCheck,
  reworded,
  rewordings,
  stepsOf,
  wordedOf,
  type KnotDocument,
  type Rewording,
} from '@foxtrail/core';
import { WordsService } from '../data/words';
import { Select } from '../ui/select';

@Component({
  selector: 'ft-lesson-words',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>The words of this lesson</h2>
    <mat-dialog-content>
      <div class="named">
        <span aria-hidden="true">It is written in</span>
        <ft-select
          label="It is written in"
          [none]="'the house’s words (' + words.schoolName(words.choice().school) + ')'"
          [from]="schools()"
          [value]="school() ?? ''"
          (valueChange)="school.set($event === '' ? undefined : $event)"
        />
      </div>
      <p class="soft">
        {{ composed() }} composed {{ composed() === 1 ? 'text follows' : 'texts follow' }} by
        {{ composed() === 1 ? 'itself' : 'themselves' }}, on the page, the sheet and in the captions.
      </p>
      <h3>
        Your own texts
        @if (offers().length > 0) {
          <button mat-button type="button" (click)="takeAll()">{{ all() ? 'None' : 'All' }}</button>
        }
      </h3>
      @for (o of offers(); track key(o)) {
        <label class="offer">
          <input type="checkbox" [checked]="!left().has(key(o))" (change)="toggle(o)" />
          <span>
            <b>{{ o.place }}</b>
            <s>{{ o.before }}</s>
            <ins>{{ o.after }}</ins>
          </span>
        </label>
      } @empty {
        <p class="soft">All of them are in these words already.</p>
      }
      <h3>Explained before the first step</h3>
      <p class="explained">
        @for (id of introduces(); track id) {
          <span class="chip"
            >{{ words.wordFor(id) }}
            <button type="button" (click)="drop(id)" [attr.aria-label]="'Do not explain ' + words.wordFor(id)">
              <mat-icon svgIcon="close" /></button
          ></span>
        } @empty {
          <span class="soft">Nothing yet. Choose what learners have to know first.</span>
        }
        <ft-select
          label="Explain one more word"
          none="Explain one more …"
          [from]="mayExplain()"
          resets
          (valueChange)="explain($event)"
        />
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="button" (click)="keep()">
        {{
          taken().length === 0
            ? 'Keep'
            : 'Keep, and change ' + taken().length + (taken().length === 1 ? ' text' : ' texts')
        }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    .school {
      display: grid;
      gap: 4px;
      padding-top: 6px;
    }
    h3 {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 40px;
      margin-top: 8px;
    }
    .offer {
      display: grid;
      grid-template-columns: 34px minmax(0, 1fr);
      margin-bottom: 8px;
      padding: 8px 12px;
      border: 1px solid var(--line);
      border-radius: 10px;
      line-height: 1.4;
    }
    .offer span > * {
      display: block;
    }
    .offer s {
      color: var(--ink-soft);
    }
    .offer ins {
      color: var(--moss);
      text-decoration: none;
    }
    input[type='checkbox'] {
      width: 22px;
      height: 22px;
      accent-color: var(--fox-strong);
    }
    .explained {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    .chip button {
      display: grid;
      width: 28px;
      height: 28px;
      padding: 0;
      border: 0;
      background: none;
      color: inherit;
      cursor: pointer;
      place-items: center;
    }
    .chip mat-icon {
      width: 18px;
      height: 18px;
    }
  `,
})
export class LessonWordsDialog {
  private readonly knot = inject<KnotDocument>(MAT_DIALOG_DATA);
  protected readonly words = inject(WordsService);
  private readonly dialog = inject<MatDialogRef<LessonWordsDialog, KnotDocument>>(MatDialogRef);
  protected readonly school = signal(this.knot.entry.words?.school);
  protected readonly schools = computed(() =>
    this.words.glossary().schools.map((s) => ({ value: s.id, name: `the words of ${s.name}` })),
  );
  protected readonly introduces = signal<readonly string[]>(this.knot.entry.words?.introduces ?? []);
  /** Texts that are to stay as they are. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly composed = computed(
    () => stepsOf(this.knot.method).filter((s) => s.telling.text === undefined).length,
  );
  protected readonly offers = computed(() => {
    const check = lessonCheck(
      { ...wordedOf(this.knot), words: this.worded() },
      this.words.choice(),
      this.words.glossary(),
      this.words.known(),
    );
    return rewordings(this.knot, check);
  });
  protected readonly taken = computed(() => this.offers().filter((o) => !this.left().has(this.key(o))));
  protected readonly all = computed(() => this.taken().length === this.offers().length);
  protected readonly mayExplain = computed(() =>
    this.words
      .glossary()
      .concepts.filter((c) => c.kind !== 'knot' && c.kind !== 'class' && !this.introduces().includes(c.id))
      .map((c) => ({ value: c.id, name: this.words.wordFor(c.id) }))
      .sort((a, b) => a.name.localeCompare(b.name, 'en')),
  );

  /** What the entry says of its words; nothing when all is the house's. */
  private readonly worded = computed(() => {
    const [school, introduces] = [this.school(), this.introduces()];
    const { school: _s, introduces: _i, ...rest } = this.knot.entry.words ?? {};
    return {
      ...rest,
      ...(school === undefined ? {} : { school }),
      ...(introduces.length === 0 ? {} : { introduces: [...introduces] }),
    };
  });

  protected key = ({ method, place }: Rewording): string => `${method} ${place}`;

  protected toggle(offer: Rewording): void {
    this.left.update((left) => {
      const next = new Set(left);
      if (!next.delete(this.key(offer))) next.add(this.key(offer));
      return next;
    });
  }

  protected takeAll(): void {
    this.left.set(this.all() ? new Set(this.offers().map((o) => this.key(o))) : new Set());
  }

  protected explain(concept: string): void {
    if (concept !== '') this.introduces.update((all) => [...all, concept]);
  }

  protected drop(id: string): void {
    this.introduces.update((all) => all.filter((x) => x !== id));
  }

  protected keep(): void {
    const knot = reworded(this.knot, this.taken());
    const words = this.worded();
    const { words: _old, ...entry } = knot.entry;
    this.dialog.close({ ...knot, entry: Object.keys(words).length === 0 ? entry : { ...entry, words } });
  }
}
