/** One pull test: what was pulled, how far, and what gave. */
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Kept } from '@foxtrail/contract/ropes';
import { sameName } from '@foxtrail/core';
import { BROKE_AT, OUTCOMES, pullTestSchema, type PullTest } from '@foxtrail/core/ropes';
import { KinService } from '../data/kin';
import { RopesService, today } from '../data/ropes';
import { Keeping } from './keeping';
import { KeptDialog } from './kept-dialog';
import { MeasureField } from './measure-field';
import { PhotographField } from './photograph';

export interface PullTestAsked {
  readonly kept?: Kept<PullTest>;
  /** The rope it is begun with, and what a load cell caught. */
  readonly ropeName?: string;
  readonly caught?: Pick<PullTest, 'peakKn' | 'outcome' | 'remarks'>;
}

@Component({
  selector: 'ft-pull-test',
  imports: [
    ReactiveFormsModule,
    MatAutocompleteModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    KeptDialog,
    MeasureField,
    PhotographField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-kept-dialog
      form="pull-test"
      [head]="data.kept ? 'Change a test' : 'New test'"
      [name]="'The test'"
      [keeping]="keeping"
      (theirs)="take()"
    >
      <form id="pull-test" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field appearance="outline" class="two">
          <mat-label>Knot</mat-label>
          <input
            matInput
            placeholder="none: the rope alone"
            autocomplete="off"
            formControlName="knotName"
            [matAutocomplete]="list"
          />
          <mat-autocomplete #list>
            @for (n of found(); track n.ref) {
              <mat-option [value]="n.name">{{ n.name }}</mat-option>
            }
          </mat-autocomplete>
          <mat-hint>Left empty: the rope alone</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline" class="two">
          <mat-label>Rope</mat-label>
          <mat-select formControlName="ropeName">
            @for (r of ropes(); track r) {
              <mat-option [value]="r">{{ r }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <ft-measure label="Reached" kind="force" [(value)]="peak" />
        <mat-form-field appearance="outline">
          <mat-label>Then it</mat-label>
          <mat-select formControlName="outcome">
            @for (o of outcomes; track o) {
              <mat-option [value]="o">{{ o }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Where</mat-label>
          <mat-select formControlName="brokeAt">
            <mat-option value="">not said</mat-option>
            @for (b of brokeAt; track b) {
              <mat-option [value]="b">{{ b }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Day</mat-label><input matInput type="date" formControlName="pulledOn" />
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Rate, mm a minute</mat-label><input matInput type="number" min="0" formControlName="rate" />
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Method</mat-label><input matInput formControlName="method" maxlength="80" />
        </mat-form-field>
        <mat-form-field appearance="outline" class="two">
          <mat-label>Remarks</mat-label><input matInput formControlName="remarks" maxlength="300" />
        </mat-form-field>
        <ft-photograph class="two" [(name)]="photograph" />
      </form>
    </ft-kept-dialog>
  `,
  styleUrl: './dialog.scss',
})
export class PullTestDialog {
  protected readonly data = inject<PullTestAsked>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<PullTestDialog, boolean>>(MatDialogRef);
  private readonly kept = inject(RopesService);
  private readonly kin = inject(KinService);
  protected readonly keeping = new Keeping(this.kept.tests, 'tests', this.data.kept);
  protected readonly outcomes = OUTCOMES;
  protected readonly brokeAt = BROKE_AT;
  private readonly field = viewChild.required(MeasureField);
  private readonly picture = viewChild.required(PhotographField);
  protected readonly ropes = computed(() => {
    const own = this.data.kept?.is.ropeName;
    const names = this.kept.ropes.list().map((k) => k.is.name);
    return own === undefined || names.includes(own) ? names : [own, ...names];
  });
  private readonly begun = this.data.kept?.is;
  protected readonly peak = signal<number | null>(this.begun?.peakKn ?? this.data.caught?.peakKn ?? null);
  protected readonly photograph = signal<string | null>(this.begun?.photograph ?? null);
  protected readonly form = inject(NonNullableFormBuilder).group(this.written(this.begun));
  private readonly typed = toSignal(this.form.controls.knotName.valueChanges, { initialValue: '' });
  protected readonly found = computed(() => {
    const wanted = sameName(this.typed());
    // Until something is typed nothing lies over the other fields.
    const fits = wanted === '' ? [] : this.kin.nodes().filter((n) => sameName(n.name).includes(wanted));
    return fits.slice(0, 40);
  });

  constructor() {
    if (!this.kin.kin())
      this.kin.load().subscribe({ error: () => this.keeping.trouble.set('Names of knots could not be fetched.') });
  }

  private written(is: PullTest | undefined) {
    return {
      knotName: is?.knotName ?? '',
      ropeName: is?.ropeName ?? this.data.ropeName ?? this.kept.ropes.list()[0]?.is.name ?? '',
      outcome: is?.outcome ?? this.data.caught?.outcome ?? ('broke' as const),
      brokeAt: is?.brokeAt ?? ('' as const),
      pulledOn: is?.pulledOn ?? today(),
      rate: is?.rate ?? null,
      method: is?.method ?? '',
      remarks: is?.remarks ?? this.data.caught?.remarks ?? '',
    };
  }

  protected take(): void {
    const theirs = this.keeping.theirs();
    if (!theirs) return;
    const { is } = theirs;
    this.form.setValue(this.written(is));
    this.peak.set(is.peakKn);
    this.photograph.set(is.photograph);
  }

  protected async keep(): Promise<void> {
    const { knotName, ropeName, brokeAt, rate, ...rest } = this.form.getRawValue();
    const name = knotName.trim();
    const node = this.kin.nodes().find((n) => sameName(n.name) === sameName(name));
    const same = name === this.begun?.knotName ? this.begun.knot : undefined;
    if (name !== '' && !node && same === undefined) {
      this.keeping.trouble.set(`“${name}” is no knot of the shelf or the book: choose one of the list.`);
      return;
    }
    const rope = this.kept.ropes.list().find((k) => k.is.name === ropeName);
    const diameterMm = rope?.is.diameterMm ?? this.begun?.diameterMm;
    if (diameterMm === undefined) {
      this.keeping.trouble.set('Choose the rope that was pulled: enter it in the stock first.');
      return;
    }
    const read = pullTestSchema.safeParse({
      ...rest,
      knot: name === '' ? null : (same ?? node?.ref),
      knotName: name === '' ? '' : (node?.name ?? name),
      rope: rope?.id ?? null,
      ropeName,
      diameterMm,
      peakKn: this.peak(),
      rate,
      brokeAt: brokeAt || null,
      photograph: this.photograph(),
    });
    if (this.picture().sending()) {
      this.keeping.trouble.set('The photograph is still being sent: keep the test in a moment.');
      return;
    }
    if (await this.keeping.keepRead(read, [this.field()])) this.ref.close(true);
  }
}
