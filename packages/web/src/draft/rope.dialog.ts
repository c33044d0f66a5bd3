/**
 * What a rope of the knot is: chosen from a small stock or set by hand, shown as it will be drawn.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatDividerModule } from '@angular/material/divider';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatIconModule } from '@angular/material/icon';
import { MatSelectModule } from '@angular/material/select';
import {
  COLOUR_MARKS,
  CONSTRUCTIONS,
  CORDAGE_NAME,
  cordageSchema,
  DIAMETERS,
  drawFigure,
  refusalOf,
  ropeFindings,
  sayRefusal,
  STIFFNESSES,
  STOCK,
  weaveFigure,
  withRopeNames,
  type Box,
  type Cordage,
  type Figure,
  type Rope,
  type Vocabulary,
} from '@foxtrail/core';
import { map, startWith } from 'rxjs';
import { FigureView } from '../ui/figure';
import { TroubleLine } from '../ui/trouble';
import { Swatches } from './swatches';

export interface RopeAsked {
  readonly ropes: readonly Rope[];
  readonly index: number;
  readonly words: Vocabulary;
  /** The ropes of the house, as this knot shows them. */
  readonly house?: readonly { readonly says: string; readonly cordage: Cordage }[];
}

/** What the dialog closes with: what the rope is; `undefined` inside, that it is as ropes of its place look. */
export interface RopeSaid {
  readonly cordage: Cordage | undefined;
}

/** What is said of a rope when nothing is. */
const PLAIN = {
  name: '',
  diameter: 1,
  construction: '' as NonNullable<Cordage['construction']> | '',
  colour: '',
  second: '',
  mark: '' as NonNullable<Cordage['mark']> | '',
  stiffness: '' as NonNullable<Cordage['stiffness']> | '',
};
type Said = typeof PLAIN;

const saidOf = (cordage: Cordage | undefined): Said => ({
  ...PLAIN,
  ...Object.fromEntries(Object.entries(cordage ?? {}).filter(([, v]) => v !== undefined)),
});

/** Only what is said stands in the file. */
function cordageOf(said: Said): Cordage | undefined {
  const own = Object.entries(said).filter(([key, v]) => v !== '' && !(key === 'diameter' && v === 1));
  return own.length === 0 ? undefined : Object.fromEntries(own);
}

/** A loop that the rope is shown in, and how much of it is seen. */
const LOOP: readonly (readonly [number, number])[] = [
  [-12, 2.4],
  [-4, 2.6],
  [2.6, 1.8],
  [4.4, -1.4],
  [2.2, -4],
  [-1.4, -3.2],
  [-1.6, 0.4],
  [1.6, 3.6],
  [10, 4.6],
];
const LOOP_BOX: Box = [-9, -6, 9, 6.5];

@Component({
  selector: 'ft-rope',
  imports: [
    FigureView,
    ReactiveFormsModule,
    MatButtonModule,
    MatDialogModule,
    MatDividerModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    Swatches,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>What the {{ called }} is</h2>
    <mat-dialog-content>
      <form id="rope" [formGroup]="form" (ngSubmit)="done()">
        <div class="seen">
          <ft-figure [drawing]="drawing()" [box]="box" [label]="'The ' + name() + ' in a loop'" />
          <p>
            It is called <strong>the {{ name() }}</strong>
          </p>
          @for (f of alike(); track f.title) {
            <p class="warn">{{ f.title }}. {{ f.remedy }}</p>
          }
          <button mat-stroked-button type="button" [matMenuTriggerFor]="stock">From the stock …</button>
          <mat-menu #stock="matMenu">
            @for (s of house; track s.says) {
              <button mat-menu-item type="button" (click)="take(s.cordage)">{{ s.says }}</button>
            }
            @if (house.length > 0) {
              <mat-divider />
            }
            @for (s of stocked; track s.says) {
              <button mat-menu-item type="button" (click)="take(s.cordage)">{{ s.says }}</button>
            }
            <button mat-menu-item type="button" (click)="take(undefined)">As it comes: nothing said</button>
          </mat-menu>
        </div>
        <div class="fields">
          <mat-form-field appearance="outline"
            ><mat-label>Its own name</mat-label
            ><input matInput formControlName="name" autocomplete="off" [maxlength]="nameLength" /><mat-hint
              >As in “strap”, “twine”</mat-hint
            ></mat-form-field
          >
          <mat-form-field appearance="outline"
            ><mat-label>Diameter</mat-label
            ><input
              matInput
              type="number"
              step="0.1"
              [min]="diameters.least"
              [max]="diameters.most"
              formControlName="diameter"
            /><span matTextPrefix>×&nbsp;</span><mat-hint>Of webbing, its width</mat-hint>
          </mat-form-field>
          <mat-form-field appearance="outline"
            ><mat-label>Construction</mat-label
            ><mat-select formControlName="construction">
              <mat-option value="">not said</mat-option>
              @for (c of constructions; track c) {
                <mat-option [value]="c">{{ c }}</mat-option>
              }
            </mat-select></mat-form-field
          >
          <mat-form-field appearance="outline"
            ><mat-label>Stiffness</mat-label
            ><mat-select formControlName="stiffness">
              <mat-option value="">not said</mat-option>
              @for (s of stiffnesses; track s) {
                <mat-option [value]="s">{{ s }}</mat-option>
              }
            </mat-select></mat-form-field
          >
          <fieldset class="wide">
            <legend>Colour</legend>
            <ft-swatches
              label="Colour"
              [colour]="said().colour"
              (colourChange)="form.controls.colour.setValue($event)"
            />
            <label class="own"
              >own<input type="color" formControlName="colour" aria-label="A colour of its own"
            /></label>
          </fieldset>
          <mat-form-field appearance="outline"
            ><mat-label>Second colour</mat-label
            ><mat-select formControlName="mark">
              <mat-option value="">none</mat-option>
              @for (m of marks; track m) {
                <mat-option [value]="m">{{
                  m === 'tracer' ? 'a tracer along it' : 'two-tone: from half way on'
                }}</mat-option>
              }
            </mat-select></mat-form-field
          >
          @if (usesSecond()) {
            <fieldset>
              <legend>The second</legend>
              <ft-swatches
                label="Second colour"
                [colour]="said().second"
                (colourChange)="form.controls.second.setValue($event)"
              />
            </fieldset>
          }
        </div>
      </form>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="rope">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 260px 1fr;
      gap: 20px;
    }
    .seen ft-figure {
      height: 190px;
      border: 1px solid var(--line);
      border-radius: 12px;
      background: var(--board);
      overflow: hidden;
    }
    .seen p {
      margin: 8px 0;
    }
    .warn {
      color: var(--fails);
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 14px;
      align-content: start;
      padding-top: 6px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    fieldset {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
      margin: 0;
      padding: 0;
      border: 0;
    }
    legend {
      padding: 0 0 4px;
      color: var(--ink-soft);
    }
    .own {
      display: flex;
      gap: 6px;
      align-items: center;
      margin-left: 8px;
      color: var(--ink-soft);
    }
    .own input {
      width: 34px;
      height: 30px;
      padding: 0;
      border: 0;
      background: none;
    }
    @media (max-width: 700px) {
      form {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class RopeDialog {
  private readonly asked = inject<RopeAsked>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<RopeDialog, RopeSaid>>(MatDialogRef);
  private readonly rope = this.asked.ropes[this.asked.index];
  protected readonly called = this.asked.words.ropes[this.asked.index] ?? this.asked.words.rope;

  protected readonly house = this.asked.house ?? [];
  protected readonly stocked = STOCK;
  protected readonly constructions = CONSTRUCTIONS;
  protected readonly stiffnesses = STIFFNESSES;
  protected readonly marks = COLOUR_MARKS;
  protected readonly diameters = DIAMETERS;
  protected readonly nameLength = CORDAGE_NAME;
  protected readonly box = LOOP_BOX;
  protected readonly trouble = signal('');
  readonly form = inject(NonNullableFormBuilder).group(saidOf(this.rope?.cordage));

  protected readonly said = toSignal(
    this.form.valueChanges.pipe(
      startWith(null),
      map(() => this.form.getRawValue()),
    ),
    { requireSync: true },
  );
  private readonly cordage = computed(() => cordageOf({ ...this.said(), name: this.said().name.trim() }));
  protected readonly usesSecond = computed(
    () => this.said().mark !== '' || this.said().construction === 'flat webbing',
  );
  private readonly ropes = computed(() =>
    this.asked.ropes.map((r, i): Rope => (i === this.asked.index ? { ...r, cordage: this.cordage() } : r)),
  );
  private readonly words = computed(() => withRopeNames(this.asked.words, this.ropes()));
  protected readonly name = computed(() => this.words().ropes[this.asked.index] ?? this.called);
  /** The rope in a loop, drawn as it will be: those before it are only there to give it its place. */
  protected readonly drawing = computed(() => {
    const loop = {
      points: LOOP,
      curve: 'smooth' as const,
      closed: false,
      ends: ['standing', 'tail'] as const,
      weave: '',
      cordage: this.cordage(),
    };
    const figure: Figure = { ropes: [{ id: 'a', ...loop }], hosts: [] };
    const drawn = drawFigure(weaveFigure(figure, () => false));
    return { ...drawn, runs: drawn.runs.map((r) => ({ ...r, index: this.asked.index })) };
  });
  /** Ropes it would be taken for. */
  protected readonly alike = computed(() =>
    ropeFindings({ ropes: this.ropes(), hosts: [] }, this.words()).filter((f) => f.code === 'ropes-alike'),
  );

  protected take(cordage: Cordage | undefined): void {
    this.form.setValue(saidOf(cordage));
  }

  protected done(): void {
    const cordage = this.cordage();
    const read = cordageSchema.safeParse(cordage ?? {});
    if (!read.success) {
      this.trouble.set(sayRefusal(refusalOf(read.error)));
      return;
    }
    this.dialog.close({ cordage });
  }
}
