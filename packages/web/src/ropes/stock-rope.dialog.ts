/**
 * A rope of the stock: what it is, what it carries by whose word, how it looks, and the pieces on hand.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChildren } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Kept } from '@foxtrail/contract/ropes';
import { COLOUR_MARKS, CONSTRUCTIONS, isWebbing, STIFFNESSES } from '@foxtrail/core';
import {
  CONDITIONS,
  MATERIALS,
  readPieces,
  sayPieces,
  stockRopeSchema,
  STRETCHES,
  type StockRope,
} from '@foxtrail/core/ropes';
import { map, startWith } from 'rxjs';
import { RopesService } from '../data/ropes';
import { Swatches } from '../draft/swatches';
import { Keeping } from './keeping';
import { KeptDialog } from './kept-dialog';
import { MeasureField } from './measure-field';
import { RopeSwatch } from './rope-swatch';

const NEW: StockRope = stockRopeSchema.parse({ name: 'New rope', diameterMm: 10 });

@Component({
  selector: 'ft-stock-rope',
  imports: [
    ReactiveFormsModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    KeptDialog,
    MeasureField,
    RopeSwatch,
    Swatches,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-kept-dialog
      form="stock-rope"
      [head]="data.kept ? 'Change a rope' : 'New rope'"
      [name]="keeping.theirs()?.is?.name ?? ''"
      [keeping]="keeping"
      (theirs)="take()"
    >
      <form id="stock-rope" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field appearance="outline" class="two">
          <mat-label>Name</mat-label><input matInput formControlName="name" maxlength="80" autocomplete="off" />
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Construction</mat-label>
          <mat-select formControlName="construction">
            @for (c of constructions; track c) {
              <mat-option [value]="c">{{ c }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Material</mat-label>
          <mat-select formControlName="material">
            @for (m of materials; track m) {
              <mat-option [value]="m">{{ m }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <ft-measure [label]="webbing() ? 'Width' : 'Diameter'" [(value)]="diameter" />
        @if (webbing()) {
          <ft-measure label="Thickness" optional [(value)]="thickness" />
        } @else {
          <mat-form-field appearance="outline">
            <mat-label>Handling</mat-label>
            <mat-select formControlName="stiffness">
              @for (s of stiffnesses; track s) {
                <mat-option [value]="s">{{ s }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        }
        <ft-measure label="Breaks at" kind="force" optional hint="Unknotted: kN, kgf or lbf" [(value)]="breaking" />
        <mat-form-field appearance="outline">
          <mat-label>By whose word</mat-label>
          <input matInput formControlName="source" maxlength="200" />
          <mat-hint>Its label, or an own test</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>A knot keeps of it, %</mat-label>
          <input matInput type="number" min="1" max="100" formControlName="knotted" />
          <mat-hint>By its maker; empty: not told</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Gives under load</mat-label>
          <mat-select formControlName="stretch">
            <mat-option value="">not known</mat-option>
            @for (s of stretches; track s) {
              <mat-option [value]="s">{{ s }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Condition</mat-label>
          <mat-select formControlName="condition">
            @for (c of conditions; track c) {
              <mat-option [value]="c">{{ c }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>In service since</mat-label><input matInput type="date" formControlName="inService" />
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Retires</mat-label><input matInput type="date" formControlName="retires" />
        </mat-form-field>
        <mat-form-field appearance="outline" class="two">
          <mat-label>Pieces on hand</mat-label>
          <input matInput formControlName="pieces" autocomplete="off" />
          <mat-hint [class.wrong]="!pieces().ok">{{ piecesSay() }}</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline" class="two">
          <mat-label>Remarks</mat-label><input matInput formControlName="remarks" maxlength="300" />
        </mat-form-field>
        <fieldset class="two">
          <legend>Colour</legend>
          <ft-swatches
            label="Colour"
            [colour]="said().colour"
            (colourChange)="form.controls.colour.setValue($event)"
          /><input type="color" formControlName="colour" aria-label="A colour of its own" />
        </fieldset>
        <mat-form-field appearance="outline">
          <mat-label>Second colour</mat-label>
          <mat-select formControlName="mark">
            <mat-option value="">none</mat-option>
            @for (m of marks; track m) {
              <mat-option [value]="m">{{
                m === 'tracer' ? 'a tracer along it' : 'two-tone: from half way on'
              }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <div class="seen">
          @if (said().mark) {
            <input type="color" formControlName="second" aria-label="Its second colour" />
          }
          @if (rope(); as r) {
            <ft-rope-swatch [rope]="r" />
          }
        </div>
      </form>
    </ft-kept-dialog>
  `,
  styleUrl: './dialog.scss',
})
export class StockRopeDialog {
  protected readonly data = inject<{ kept?: Kept<StockRope> }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<StockRopeDialog>>(MatDialogRef);
  private readonly kept = inject(RopesService);
  protected readonly keeping = new Keeping(this.kept.ropes, 'ropes', this.data.kept);
  protected readonly constructions = CONSTRUCTIONS;
  protected readonly materials = MATERIALS;
  protected readonly stretches = STRETCHES;
  protected readonly conditions = CONDITIONS;
  protected readonly stiffnesses = STIFFNESSES;
  protected readonly marks = COLOUR_MARKS;

  private readonly begun = this.data.kept?.is ?? { ...NEW, name: '' };
  protected readonly diameter = signal<number | null>(this.begun.diameterMm);
  protected readonly thickness = signal(this.begun.thicknessMm);
  protected readonly breaking = signal(this.begun.breakingKn);
  protected readonly form = inject(NonNullableFormBuilder).group(this.written(this.begun));
  private readonly measures = viewChildren(MeasureField);
  protected readonly said = toSignal(
    this.form.valueChanges.pipe(
      startWith(null),
      map(() => this.form.getRawValue()),
    ),
    { requireSync: true },
  );
  protected readonly webbing = computed(() => isWebbing({ construction: this.said().construction }));
  protected readonly pieces = computed(() => readPieces(this.said().pieces));
  protected readonly piecesSay = computed(() => {
    const read = this.pieces();
    if (!read.ok) return `${read.reason} ${read.remedy}`;
    return read.value.length === 0 ? 'As in 2 x 60 m; 35 m' : `${read.value.length} in all: ${sayPieces(read.value)}`;
  });

  /** What is said so far, as a rope; undefined while it cannot be one. */
  private readonly read = computed(() => {
    const { stretch, inService, retires, mark, knotted, pieces: _, ...rest } = this.said();
    const pieces = this.pieces();
    return stockRopeSchema.safeParse({
      ...rest,
      name: rest.name.trim(),
      diameterMm: this.diameter(),
      thicknessMm: this.webbing() ? this.thickness() : null,
      breakingKn: this.breaking(),
      knottedShare: knotted === null ? null : knotted / 100,
      stretch: stretch || null,
      inService: inService || null,
      retires: retires || null,
      mark: mark || null,
      second: mark ? rest.second : null,
      pieces: pieces.ok ? pieces.value : [],
    });
  });
  protected readonly rope = computed(() => {
    const { colour, second, mark, construction } = this.said();
    const shown = stockRopeSchema.safeParse({
      ...NEW,
      construction,
      colour,
      mark: mark || null,
      second: mark ? second : null,
      diameterMm: this.diameter() ?? 10,
    });
    return shown.success ? shown.data : undefined;
  });

  private written(is: StockRope) {
    return {
      name: is.name,
      construction: is.construction,
      material: is.material,
      source: is.source,
      knotted: is.knottedShare === null ? null : 100 * is.knottedShare,
      stretch: is.stretch ?? ('' as const),
      condition: is.condition,
      inService: is.inService ?? '',
      retires: is.retires ?? '',
      pieces: sayPieces(is.pieces),
      remarks: is.remarks,
      colour: is.colour,
      second: is.second ?? '#f6f4ee',
      mark: is.mark ?? ('' as const),
      stiffness: is.stiffness,
    };
  }

  /** Theirs, as it stands now; it may be changed further. */
  protected take(): void {
    const theirs = this.keeping.theirs();
    if (!theirs) return;
    const { is } = theirs;
    this.form.setValue(this.written(is));
    this.diameter.set(is.diameterMm);
    this.thickness.set(is.thicknessMm);
    this.breaking.set(is.breakingKn);
  }

  protected async keep(): Promise<void> {
    const pieces = this.pieces();
    if (!pieces.ok) this.keeping.trouble.set(`Pieces on hand: ${pieces.reason} ${pieces.remedy}`);
    else if (await this.keeping.keepRead(this.read(), this.measures())) this.ref.close();
  }
}
