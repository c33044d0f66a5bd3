/**
 * The entry of a knot: names, class, family, grade of use, cord, summary, cautions.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import {
  cautionsFor,
  checkLesson,
  entrySchema,
  KNOT_CLASSES,
  mendText,
  nameSchema,
  refusalOf,
  sayRefusal,
  USE_GRADES,
  type Entry,
  type Mend,
} from '@foxtrail/core';
import { map, startWith } from 'rxjs';
import { RopesService } from '../data/ropes';
import { WordsService } from '../data/words';
import { Remarks } from '../ui/remarks';
import { TroubleLine } from '../ui/trouble';

export interface NamedEntry {
  readonly name: string;
  readonly entry: Entry;
}

const list = (text: string, by: RegExp): string[] =>
  text
    .split(by)
    .map((t) => t.trim())
    .filter((t) => t !== '');

@Component({
  selector: 'ft-entry',
  imports: [
    MatAutocompleteModule,
    Remarks,
    ReactiveFormsModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatButtonModule,
    MatCheckboxModule,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Entry</h2>
    <mat-dialog-content>
      <form id="entry" [formGroup]="form" (ngSubmit)="done()">
        <mat-form-field appearance="outline" class="wide"
          ><mat-label>Name</mat-label><input matInput formControlName="name" autocomplete="off"
        /></mat-form-field>
        <mat-form-field appearance="outline" class="wide"
          ><mat-label>Other names</mat-label><input matInput formControlName="aliases" autocomplete="off" /><mat-hint
            >Separated by commas</mat-hint
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>Class</mat-label
          ><mat-select formControlName="class">
            @for (c of classes; track c) {
              <mat-option [value]="c">{{ c }}</mat-option>
            }
          </mat-select></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>Family</mat-label><input matInput formControlName="family" autocomplete="off"
        /></mat-form-field>
        <mat-form-field appearance="outline"
          ><mat-label>Grade of use</mat-label
          ><mat-select formControlName="useGrade">
            @for (g of grades; track g) {
              <mat-option [value]="g">{{ g }}</mat-option>
            }
          </mat-select></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>Wrong way of</mat-label><input matInput formControlName="wrongWayOf" autocomplete="off"
        /></mat-form-field>
        <mat-form-field appearance="outline"
          ><mat-label>Cord</mat-label
          ><input
            matInput
            formControlName="cordName"
            autocomplete="off"
            [matAutocomplete]="cords"
            (focus)="askCords()"
          />
          <mat-autocomplete #cords (optionSelected)="takeCord($event.option.value)">
            @for (c of stock(); track c.id) {
              <mat-option [value]="c.is.name"
                >{{ c.is.name }} <span class="soft">{{ c.is.diameterMm }} mm</span></mat-option
              >
            }
          </mat-autocomplete>
        </mat-form-field>
        <mat-form-field appearance="outline"
          ><mat-label>Cord diameter</mat-label
          ><input matInput type="number" step="0.5" formControlName="diameterMm" /><span matTextSuffix
            >mm</span
          ></mat-form-field
        >
        <mat-form-field appearance="outline" class="wide"
          ><mat-label>What it is for</mat-label><textarea matInput rows="2" formControlName="summary"></textarea>
        </mat-form-field>
        @if (remarks().summary.length > 0) {
          <ft-remarks
            class="wide"
            [remarks]="remarks().summary"
            (mend)="mend('summary', $event)"
            (introduce)="explain($event)"
          />
        }
        <mat-form-field appearance="outline" class="wide"
          ><mat-label>Cautions of its own</mat-label><textarea matInput rows="2" formControlName="cautions"></textarea
          ><mat-hint>One on each line; those of the grade of use come by themselves</mat-hint></mat-form-field
        >
        <mat-checkbox class="wide" formControlName="otherSchools"
          >The lesson says what other schools do otherwise</mat-checkbox
        >
        <div class="wide grade">
          <strong>Shown before the first step, by its grade</strong>
          <ul>
            @for (c of byGrade(); track c) {
              <li>{{ c }}</li>
            }
          </ul>
          @if (texts().useGrade === 'people depend on it') {
            <p>
              It is published only with cautions of its own, an inspection card, no error, and a review by another
              account.
            </p>
          }
        </div>
        @if (remarks().cautions.length > 0) {
          <ft-remarks
            class="wide"
            [remarks]="remarks().cautions"
            (mend)="mend('cautions', $event)"
            (introduce)="explain($event)"
          />
        }
      </form>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="entry">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px 16px;
      padding-top: 6px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    .grade {
      padding: 8px 14px;
      border-left: 5px solid var(--plum);
      border-radius: 0 8px 8px 0;
      background: var(--plum-wash);
      color: var(--ink);
    }
    .grade ul {
      margin: 4px 0 0;
      padding-left: 20px;
    }
    .grade p {
      margin: 6px 0 0;
    }
  `,
})
export class EntryDialog {
  private readonly dialog = inject<MatDialogRef<EntryDialog, NamedEntry>>(MatDialogRef);
  private readonly given = inject<NamedEntry>(MAT_DIALOG_DATA);
  protected readonly classes = KNOT_CLASSES;
  protected readonly grades = USE_GRADES;
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: this.given.name,
    aliases: this.given.entry.aliases.join(', '),
    class: this.given.entry.class,
    family: this.given.entry.family,
    useGrade: this.given.entry.useGrade,
    wrongWayOf: this.given.entry.wrongWayOf ?? '',
    cordName: this.given.entry.cord.name,
    diameterMm: this.given.entry.cord.diameterMm,
    summary: this.given.entry.summary,
    cautions: this.given.entry.cautions.join('\n'),
    otherSchools: this.given.entry.otherSchools === true,
  });

  private readonly ropes = inject(RopesService);
  /** Ropes of the house, by what is written so far. */
  protected readonly stock = computed(() => {
    const wanted = this.texts().cordName.toLowerCase();
    return this.ropes.ropes.list().filter((k) => k.is.name.toLowerCase().includes(wanted));
  });
  protected askCords(): void {
    // Without the stock a cord is written by hand.
    this.ropes.ensure(this.ropes.ropes).subscribe({ error: () => undefined });
  }
  protected takeCord(name: string): void {
    const rope = this.ropes.ropes.list().find((k) => k.is.name === name);
    if (rope) this.form.patchValue({ cordName: name, diameterMm: rope.is.diameterMm });
  }

  private readonly words = inject(WordsService);
  /** Words that the lesson explains first: those it had, and those asked for here. */
  private readonly introduces = signal(this.given.entry.words?.introduces ?? []);
  protected readonly texts = toSignal(
    this.form.valueChanges.pipe(
      startWith(undefined),
      map(() => this.form.getRawValue()),
    ),
    { requireSync: true },
  );
  /** What is to be said of the words of the entry's own texts. */
  protected readonly remarks = computed(() => {
    const words = { ...this.given.entry.words, introduces: this.introduces() };
    const [summary, cautions] = checkLesson(
      [
        { place: 'what it is for', text: this.texts().summary },
        { place: 'the cautions', text: this.texts().cautions },
      ],
      this.words.check({ words }),
    );
    return { summary: summary ?? [], cautions: cautions ?? [] };
  });

  protected readonly byGrade = computed(() => cautionsFor(this.texts().useGrade, []));

  protected mend(field: 'summary' | 'cautions', mend: Mend): void {
    const control = this.form.controls[field];
    control.setValue(mendText(control.value, [mend]));
  }

  protected explain(concept: string): void {
    this.introduces.update((all) => [...all, concept]);
  }

  protected done(): void {
    const v = this.form.getRawValue();
    const name = nameSchema.safeParse(v.name);
    if (!name.success) {
      this.trouble.set(`The name cannot be used: ${name.error.issues[0]?.message ?? ''}.`);
      return;
    }
    const { wrongWayOf: _, otherSchools: _schools, ...rest } = this.given.entry;
    const introduces = this.introduces();
    const entry = entrySchema.safeParse({
      ...rest,
      ...(introduces.length === 0 ? {} : { words: { ...rest.words, introduces } }),
      aliases: list(v.aliases, /,/),
      class: v.class,
      family: v.family,
      useGrade: v.useGrade,
      summary: v.summary,
      cord: { ...rest.cord, name: v.cordName, diameterMm: v.diameterMm },
      cautions: list(v.cautions, /\n/),
      ...(v.otherSchools ? { otherSchools: true } : {}),
      ...(v.wrongWayOf.trim() === '' ? {} : { wrongWayOf: v.wrongWayOf }),
    });
    if (entry.success) this.dialog.close({ name: name.data, entry: entry.data });
    else this.trouble.set(sayRefusal(refusalOf(entry.error)));
  }
}
