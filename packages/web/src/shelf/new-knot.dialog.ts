/**
 * A new knot: by its name, from the pattern book, or from a figure file.
 */
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { KnotCard } from '@foxtrail/contract';
import { nameSchema, readKnotText, sayRefusal, writeKnot } from '@foxtrail/core';
import { Api } from '../data/api';
import { sayTrouble, troubleOf } from '../data/problem';

@Component({
  selector: 'ft-new-knot',
  imports: [
    ReactiveFormsModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatButtonModule,
    MatIconModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New knot</h2>
    <mat-dialog-content>
      <form id="new-knot" [formGroup]="form" (ngSubmit)="create()">
        <mat-form-field appearance="outline">
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" autocomplete="off" cdkFocusInitial />
        </mat-form-field>
        @if (patterns(); as list) {
          <mat-form-field appearance="outline">
            <mat-label>Begin from the pattern book</mat-label>
            <mat-select formControlName="pattern">
              <mat-option value="">with a blank board</mat-option>
              @for (p of list; track p.id) {
                <mat-option [value]="p.id">{{ p.name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        }
      </form>
      @if (trouble(); as text) {
        <p class="trouble" role="alert">{{ text }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions>
      <button mat-button type="button" (click)="file.click()"><mat-icon svgIcon="upload" />Import a figure file</button>
      <input #file type="file" accept=".json,application/json" hidden (change)="importFile(file)" />
      <span class="space"></span>
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="new-knot" [disabled]="busy()">Create</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    .trouble {
      margin: 0;
      color: var(--plum);
      overflow-wrap: anywhere;
    }
    .space {
      flex: 1;
    }
    mat-dialog-content {
      width: 520px;
      max-width: 100%;
    }
  `,
})
export class NewKnotDialog {
  private readonly api = inject(Api);
  private readonly dialog = inject<MatDialogRef<NewKnotDialog, KnotCard>>(MatDialogRef);
  protected readonly form = inject(NonNullableFormBuilder).group({ name: '', pattern: '' });
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);

  /** The pattern book, fetched when the dialog opens. */
  private readonly book = import('@foxtrail/pattern-book');
  protected readonly patterns = signal<readonly { readonly id: string; readonly name: string }[] | undefined>(
    undefined,
  );

  constructor() {
    void this.book.then(({ SOURCES }) => this.patterns.set(SOURCES));
    // A pattern lends its name while none is typed.
    this.form.controls.pattern.valueChanges.pipe(takeUntilDestroyed()).subscribe((id) => {
      const pattern = this.patterns()?.find((p) => p.id === id);
      const { name } = this.form.controls;
      if (pattern && (name.value === '' || this.patterns()?.some((p) => p.name === name.value)))
        name.setValue(pattern.name);
    });
  }

  protected create(): void {
    const { pattern } = this.form.getRawValue();
    const name = nameSchema.safeParse(this.form.getRawValue().name);
    if (!name.success) {
      this.trouble.set(`The name cannot be used: ${name.error.issues[0]?.message ?? ''}.`);
      return;
    }
    if (pattern === '') this.send({ name: name.data });
    else
      void this.book.then(({ patternOf }) => {
        const found = patternOf(pattern);
        if (found) this.send({ document: writeKnot({ ...found.knot, name: name.data }) });
      });
  }

  protected importFile(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    void file.text().then((text) => {
      const read = readKnotText(text);
      if (read.ok) this.send({ document: writeKnot(read.value) });
      else this.trouble.set(`${file.name} was not imported. ${sayRefusal(read)}`);
    });
  }

  private send(body: { name: string } | { document: unknown }): void {
    this.busy.set(true);
    this.trouble.set(undefined);
    this.api.create(body).subscribe({
      next: (card) => this.dialog.close(card),
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(sayTrouble(troubleOf(error)));
      },
    });
  }
}
