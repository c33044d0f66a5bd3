/** What ropes are tied to: a spar, a post, a ring, by how thick it is. */
import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Kept } from '@foxtrail/contract/ropes';
import { refusalOf, sayRefusal } from '@foxtrail/core';
import { THING_KINDS, thingSchema, type Thing } from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { TroubleLine } from '../ui/trouble';
import { Keeping } from './keeping';
import { MeasureField } from './measure-field';
import { Theirs } from './theirs';

@Component({
  selector: 'ft-thing',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MeasureField,
    Theirs,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.kept ? 'Change what is tied to' : 'New thing to tie to' }}</h2>
    <mat-dialog-content>
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
      <ft-trouble [text]="trouble() || keeping.trouble()" />
      @if (keeping.theirs(); as theirs) {
        <ft-theirs [name]="theirs.is.name" (take)="take(theirs.is)" />
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (data.kept) {
        <button mat-button type="button" class="remove" [disabled]="keeping.busy()" (click)="remove()">
          Remove it
        </button>
        <span class="space"></span>
      }
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="thing" [disabled]="keeping.busy()">Keep</button>
    </mat-dialog-actions>
  `,
  styleUrl: './dialog.scss',
})
export class ThingDialog {
  protected readonly data = inject<{ kept?: Kept<Thing> }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<ThingDialog>>(MatDialogRef);
  protected readonly keeping = new Keeping(inject(RopesService).things, 'things', this.data.kept);
  protected readonly kinds = THING_KINDS;
  protected readonly trouble = signal('');
  private readonly field = viewChild.required(MeasureField);
  protected readonly diameter = signal<number | null>(this.data.kept?.is.diameterMm ?? null);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: this.data.kept?.is.name ?? '',
    kind: this.data.kept?.is.kind ?? ('spar' as const),
    remarks: this.data.kept?.is.remarks ?? '',
  });

  protected take({ diameterMm, ...rest }: Thing): void {
    this.form.setValue(rest);
    this.diameter.set(diameterMm);
  }

  protected async keep(): Promise<void> {
    this.trouble.set('');
    if (!this.field().fits()) {
      this.trouble.set('How thick it is cannot be read. See below it.');
      return;
    }
    const read = thingSchema.safeParse({ ...this.form.getRawValue(), diameterMm: this.diameter() });
    if (!read.success) {
      this.trouble.set(sayRefusal(refusalOf(read.error)));
      return;
    }
    if (await this.keeping.keep(read.data)) this.ref.close();
  }

  protected async remove(): Promise<void> {
    if (await this.keeping.remove()) this.ref.close();
  }
}
