/** What ropes are tied to: a spar, a post, a ring, by how thick it is. */
import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Kept } from '@foxtrail/contract/ropes';
import { THING_KINDS, thingSchema, type Thing } from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { Keeping } from './keeping';
import { KeptDialog } from './kept-dialog';
import { MeasureField } from './measure-field';

@Component({
  selector: 'ft-thing',
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule, MatSelectModule, KeptDialog, MeasureField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-kept-dialog
      form="thing"
      [head]="data.kept ? 'Change what is tied to' : 'New thing to tie to'"
      [name]="keeping.theirs()?.is?.name ?? ''"
      [keeping]="keeping"
      (theirs)="take()"
    >
      <form id="thing" class="narrow" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field appearance="outline" class="two">
          <mat-label>Name</mat-label><input matInput formControlName="name" maxlength="80" autocomplete="off" />
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>It is a</mat-label>
          <mat-select formControlName="kind">
            @for (k of kinds; track k) {
              <mat-option [value]="k">{{ k }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <ft-measure label="How thick" hint="Of a ring or a carabiner, its bar" [(value)]="diameter" />
        <mat-form-field appearance="outline" class="two">
          <mat-label>Remarks</mat-label><input matInput formControlName="remarks" maxlength="300" />
        </mat-form-field>
      </form>
    </ft-kept-dialog>
  `,
  styleUrl: './dialog.scss',
})
export class ThingDialog {
  protected readonly data = inject<{ kept?: Kept<Thing> }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<ThingDialog>>(MatDialogRef);
  protected readonly keeping = new Keeping(inject(RopesService).things, 'things', this.data.kept);
  protected readonly kinds = THING_KINDS;
  private readonly field = viewChild.required(MeasureField);
  protected readonly diameter = signal<number | null>(this.data.kept?.is.diameterMm ?? null);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: this.data.kept?.is.name ?? '',
    kind: this.data.kept?.is.kind ?? ('spar' as const),
    remarks: this.data.kept?.is.remarks ?? '',
  });

  protected take(): void {
    const theirs = this.keeping.theirs();
    if (!theirs) return;
    const { diameterMm, ...rest } = theirs.is;
    this.form.setValue(rest);
    this.diameter.set(diameterMm);
  }

  protected async keep(): Promise<void> {
    const read = thingSchema.safeParse({ ...this.form.getRawValue(), diameterMm: this.diameter() });
    if (await this.keeping.keepRead(read, [this.field()])) this.ref.close();
  }
}
