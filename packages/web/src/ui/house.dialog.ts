/**
 * The house: its name, and its words for classes.
 */
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import { houseChangeSchema } from '@foxtrail/contract';
import { sayTrouble, troubleOf } from '../data/problem';
import { SessionService } from '../data/session';

@Component({
  selector: 'ft-house-dialog',
  imports: [ReactiveFormsModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatRadioModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>The house</h2>
    <mat-dialog-content>
      <form id="house" [formGroup]="form" (ngSubmit)="save()">
        <mat-form-field appearance="outline">
          <mat-label>Name of the house</mat-label>
          <input matInput formControlName="name" autocomplete="off" />
        </mat-form-field>
        <h3 id="classes">What the word “knot” means here</h3>
        <mat-radio-group formControlName="classSchool" aria-labelledby="classes">
          <mat-radio-button value="strict">
            Strict: a bend joins two ropes and a hitch holds to an object; neither is a knot
          </mat-radio-button>
          <mat-radio-button value="general">General: everything tied is a knot</mat-radio-button>
        </mat-radio-group>
        <p class="soft">
          Classes are computed the same way in both; only their words change, here and on learners’ pages.
        </p>
      </form>
      @if (trouble(); as text) {
        <p class="trouble" role="alert">{{ text }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions>
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="house" [disabled]="busy()">Save</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    mat-radio-button {
      display: block;
    }
    .trouble {
      color: var(--plum);
    }
  `,
})
export class HouseDialog {
  private readonly sessions = inject(SessionService);
  private readonly dialog = inject<MatDialogRef<HouseDialog>>(MatDialogRef);
  private readonly house = this.sessions.session()?.house;
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: this.house?.name ?? '',
    classSchool: this.house?.classSchool ?? 'strict',
  });
  protected readonly busy = signal(false);
  protected readonly trouble = signal<string | undefined>(undefined);

  protected save(): void {
    const change = houseChangeSchema.safeParse(this.form.getRawValue());
    if (!change.success) {
      this.trouble.set(`It cannot be saved: ${change.error.issues[0]?.message ?? ''}.`);
      return;
    }
    this.busy.set(true);
    this.sessions.changeHouse(change.data).subscribe({
      next: () => this.dialog.close(),
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(sayTrouble(troubleOf(error)));
      },
    });
  }
}
