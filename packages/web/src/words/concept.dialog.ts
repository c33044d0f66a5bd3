/**
 * One concept as it is written: its meaning, where it belongs, and a row for each of its names.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import {
  FormArray,
  NonNullableFormBuilder,
  ReactiveFormsModule,
  type FormControl,
  type FormGroup,
} from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import {
  conceptSchema,
  CONCEPT_KINDS,
  idFrom,
  LABEL_STATUSES,
  refusalOf,
  sayRefusal,
  type Concept,
  type ConceptKind,
  type ConceptLabel,
  type LabelStatus,
} from '@foxtrail/core';
import { WordsService } from '../data/words';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

type LabelForm = FormGroup<{
  school: FormControl<string>;
  status: FormControl<LabelStatus>;
  text: FormControl<string>;
  reason: FormControl<string>;
  everyday: FormControl<boolean>;
}>;

/** The choice of no school: misheard in all of them alike. */
const EVERY = '';

@Component({
  selector: 'ft-concept-dialog',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    Select,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ given ? words.wordFor(given.id) : 'A new term' }}</h2>
    <mat-dialog-content>
      <form id="concept" [formGroup]="form" (ngSubmit)="save()">
        <mat-form-field appearance="outline" class="wide">
          <mat-label>What it means, in a sentence or two of your own</mat-label>
          <textarea matInput rows="2" formControlName="definition"></textarea>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Kind</mat-label>
          <mat-select formControlName="kind">
            @for (k of kinds; track k) {
              <mat-option [value]="k">{{ k }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>A kind or part of</mat-label>
          <mat-select formControlName="broader" multiple>
            @for (c of others; track c.id) {
              <mat-option [value]="c.id">{{ c.word }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>See also</mat-label>
          <mat-select formControlName="related" multiple>
            @for (c of others; track c.id) {
              <mat-option [value]="c.id">{{ c.word }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline" class="wide">
          <mat-label>Notes</mat-label>
          <input matInput formControlName="notes" autocomplete="off" />
        </mat-form-field>
        <h3 class="wide">Its names</h3>
        <div class="wide names" formArrayName="labels">
          @for (row of labels.controls; track row; let i = $index) {
            <div class="name" [formGroupName]="i">
              <ft-select
                formControlName="school"
                none="every school"
                [label]="'School of name ' + (i + 1)"
                [from]="schools"
              />
              <ft-select formControlName="status" [label]="'How name ' + (i + 1) + ' stands'" [from]="statuses" />
              <input
                class="field"
                formControlName="text"
                [attr.aria-label]="'Name ' + (i + 1)"
                placeholder="Name"
                autocomplete="off"
              />
              <input
                class="field"
                formControlName="reason"
                [attr.aria-label]="'Reason for name ' + (i + 1)"
                placeholder="Why, if it is discouraged"
                autocomplete="off"
              />
              <mat-checkbox formControlName="everyday">everyday word</mat-checkbox>
              <button mat-icon-button type="button" (click)="remove(i)" [attr.aria-label]="'Remove name ' + (i + 1)">
                <mat-icon svgIcon="remove" />
              </button>
            </div>
          }
          <button mat-stroked-button type="button" (click)="add()"><mat-icon svgIcon="plus" />One more name</button>
          <p class="soft">
            An everyday word (“end”, “turn”) is taken for the term only after an article or a number, so that texts are
            not underlined everywhere.
          </p>
        </div>
      </form>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="concept" [disabled]="busy()">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 6px 14px;
      padding-top: 6px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    .names {
      display: grid;
      gap: 8px;
    }
    .name {
      display: grid;
      grid-template-columns: 140px 130px minmax(0, 1fr) minmax(0, 1.3fr) 150px 48px;
      gap: 6px;
      align-items: center;
    }
    .names > button {
      justify-self: start;
    }
    p {
      margin: 0;
    }
  `,
})
export class ConceptDialog {
  protected readonly given = inject<Concept | undefined>(MAT_DIALOG_DATA);
  protected readonly words = inject(WordsService);
  private readonly dialog = inject<MatDialogRef<ConceptDialog, string>>(MatDialogRef);
  private readonly builder = inject(NonNullableFormBuilder);
  protected readonly kinds = CONCEPT_KINDS;
  protected readonly statuses = LABEL_STATUSES;
  protected readonly schools = this.words.glossary().schools.map(({ id, name }) => ({ value: id, name }));
  protected readonly others = this.words
    .glossary()
    .concepts.filter((c) => c.id !== this.given?.id)
    .map((c) => ({ id: c.id, word: this.words.wordFor(c.id) }))
    .sort((a, b) => a.word.localeCompare(b.word, 'en'));
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly labels = new FormArray<LabelForm>(
    (this.given?.labels ?? [{ school: this.words.choice().school, status: 'preferred', text: '' }]).map((l) =>
      this.row(l),
    ),
  );
  protected readonly form = this.builder.group({
    definition: this.given?.definition ?? '',
    kind: this.builder.control<ConceptKind>(this.given?.kind ?? 'part of a rope'),
    broader: this.builder.control<string[]>([...(this.given?.broader ?? [])]),
    related: this.builder.control<string[]>([...(this.given?.related ?? [])]),
    notes: this.given?.notes ?? '',
    labels: this.labels,
  });

  private row(l: ConceptLabel): LabelForm {
    return this.builder.group({
      school: this.builder.control(l.school ?? EVERY),
      status: this.builder.control(l.status),
      text: l.text,
      reason: l.reason ?? '',
      everyday: l.everyday ?? false,
    });
  }

  protected add(): void {
    this.labels.push(this.row({ school: this.words.choice().school, status: 'also used', text: '' }));
  }

  protected remove(index: number): void {
    this.labels.removeAt(index);
  }

  protected save(): void {
    const v = this.form.getRawValue();
    const labels = v.labels
      .filter((l) => l.text.trim() !== '')
      .map((l): ConceptLabel => ({
        school: l.school === EVERY ? null : l.school,
        status: l.status,
        text: l.text.trim(),
        ...(l.reason.trim() === '' ? {} : { reason: l.reason.trim() }),
        ...(l.everyday ? { everyday: true } : {}),
      }));
    const named = labels.find((l) => l.status === 'preferred') ?? labels[0];
    const id = this.given?.id ?? this.freshId(named?.text ?? '');
    const concept = conceptSchema.safeParse({
      id,
      kind: v.kind,
      definition: v.definition,
      ...(v.notes.trim() === '' ? {} : { notes: v.notes }),
      broader: v.broader,
      related: v.related,
      labels,
    });
    if (!concept.success) {
      this.trouble.set(labels.length === 0 ? 'Give it a name.' : sayRefusal(refusalOf(concept.error)));
      return;
    }
    void this.attempt.run(this.words.writeConcept(concept.data), () => this.dialog.close(id));
  }

  private freshId(name: string): string {
    const stem = idFrom(name) || 'term';
    const taken = new Set(this.words.glossary().concepts.map((c) => c.id));
    let id = stem;
    for (let n = 2; taken.has(id); n += 1) id = `${stem}-${n}`;
    return id;
  }
}
