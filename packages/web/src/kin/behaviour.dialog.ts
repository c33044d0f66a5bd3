/**
 * What an author judged or tested of a knot: for choosing it, and what it does when it is tried.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import {
  entrySchema,
  LOAD_WAYS,
  OUTCOMES,
  refusalOf,
  sayRefusal,
  TRIALS,
  type Entry,
  type Judged,
  type JudgedKey,
  type LoadWay,
  type Tried,
} from '@foxtrail/core';
import { citeTests, testGroups } from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';

export interface BehaviourData {
  readonly entry: Entry;
  /** What the knot is called: pull tests of it may be cited. */
  readonly name?: string;
  /** What is known where the entry says nothing: the book's. */
  readonly judged?: Judged | undefined;
}

const QUESTIONS: readonly (readonly [key: Exclude<JudgedKey, 'loads'>, asks: string])[] = [
  ['comesUndone', 'Comes undone by hand after load'],
  ['staysWhenShaken', 'Stays tied when shaken'],
  ['unlikeRopes', 'Holds in unlike ropes'],
  ['underLoad', 'Can be tied while the rope is loaded'],
  ['oneHand', 'Can be tied with one hand'],
  ['webbing', 'Suits flat webbing'],
];

@Component({
  selector: 'ft-behaviour-dialog',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, MatMenuModule, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Behaviour, judged and tested</h2>
    <mat-dialog-content>
      <h3>For choosing it</h3>
      <div class="grid">
        <fieldset>
          <legend>Loads it takes</legend>
          @for (w of ways; track w) {
            <label class="way"
              ><input type="checkbox" [checked]="judged().loads?.includes(w)" (change)="way(w)" /> {{ w }}</label
            >
          }
        </fieldset>
        @for (q of questions; track q[0]) {
          <span class="asks">{{ q[1] }}</span>
          <ft-select
            none="not judged"
            [label]="q[1]"
            [from]="yesNo"
            [value]="judgedAs(q[0])"
            (valueChange)="answer(q[0], $event)"
          />
          <input
            class="field"
            [attr.aria-label]="'Why: ' + q[1]"
            placeholder="Why"
            maxlength="300"
            [disabled]="judged()[q[0]] === undefined"
            [value]="judged().because?.[q[0]] ?? ''"
            (input)="because(q[0], why.value)"
            #why
          />
        }
      </div>
      <h3>What it does when it is tried</h3>
      @for (t of rows(); track $index) {
        <div class="row" role="group" [attr.aria-label]="'Trial ' + ($index + 1)">
          <ft-select
            label="What one does"
            [from]="trials"
            [value]="t.trial"
            (valueChange)="set($index, { trial: $any($event) })"
          />
          <ft-select
            label="What it does"
            [from]="outcomes"
            [value]="t.does"
            (valueChange)="set($index, { does: $any($event) })"
          />
          <ft-select
            label="Tested or judged"
            [from]="bys"
            [value]="t.by"
            (valueChange)="set($index, { by: $any($event) })"
          />
          <input
            class="field"
            aria-label="What it rests on"
            placeholder="What it rests on: when, how often, in which rope"
            maxlength="300"
            [value]="t.why"
            (input)="set($index, { why: rests.value })"
            #rests
          />
          <input
            class="field"
            aria-label="How to undo it"
            placeholder="How to undo it"
            maxlength="300"
            [value]="t.undo ?? ''"
            (input)="set($index, { undo: undo.value })"
            #undo
          />
          <button mat-icon-button type="button" aria-label="Remove this row" (click)="remove($index)">
            <mat-icon svgIcon="remove" />
          </button>
          @if (t.by === 'tested' && cites().length > 0) {
            <button mat-button type="button" class="cite" [matMenuTriggerFor]="log">
              It rests on the log of tests …
            </button>
            <mat-menu #log="matMenu">
              @for (c of cites(); track c) {
                <button mat-menu-item type="button" (click)="set($index, { why: c })">{{ c }}</button>
              }
            </mat-menu>
          }
        </div>
      }
      <button mat-stroked-button type="button" (click)="add()"><mat-icon svgIcon="plus" />Add a row</button>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="button" (click)="done()">Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .grid {
      display: grid;
      grid-template-columns: 1fr 130px 1.2fr;
      gap: 6px 12px;
      align-items: center;
      margin-bottom: 16px;
    }
    fieldset {
      display: flex;
      flex-wrap: wrap;
      grid-column: 1 / -1;
      gap: 4px 18px;
      margin: 0;
      padding: 6px 12px;
      border: 1px solid var(--line);
      border-radius: 10px;
    }
    .way {
      display: flex;
      gap: 6px;
      align-items: center;
      min-height: 32px;
    }
    .row {
      display: grid;
      grid-template-columns: 210px 100px 100px 1fr 180px 48px;
      gap: 6px;
      align-items: center;
      margin-bottom: 6px;
    }
    .cite {
      grid-column: 4 / 6;
      justify-self: start;
    }
    input[type='checkbox'] {
      width: 22px;
      height: 22px;
      accent-color: var(--fox-strong);
    }
    h3 {
      margin: 8px 0;
      font-size: 17px;
    }
  `,
})
export class BehaviourDialog {
  private readonly data = inject<BehaviourData>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<BehaviourDialog, Entry>>(MatDialogRef);
  protected readonly ways = LOAD_WAYS;
  protected readonly questions = QUESTIONS;
  protected readonly trials = TRIALS;
  protected readonly outcomes = OUTCOMES;
  protected readonly bys = ['tested', 'judged'] as const;
  protected readonly yesNo = ['yes', 'no'] as const;
  protected readonly judged = signal<Judged>(this.data.entry.judged ?? this.data.judged ?? {});
  protected readonly rows = signal<readonly Tried[]>(this.data.entry.behaviour ?? []);
  protected readonly trouble = signal<string | undefined>(undefined);
  private readonly kept = inject(RopesService);
  private readonly tests = this.kept.tests;
  /** What the log of pull tests says of this knot, rope by rope. */
  protected readonly cites = computed(() => {
    const name = this.data.name?.toLowerCase();
    return testGroups(this.tests.list().map((k) => k.is))
      .filter((g) => g.knot !== null && g.knotName.toLowerCase() === name)
      .map(citeTests);
  });

  constructor() {
    // Without the log what it rests on is written by hand.
    if (this.data.name !== undefined) this.kept.ensure(this.tests).subscribe({ error: () => undefined });
  }

  protected way(way: LoadWay): void {
    this.judged.update((j) => {
      const loads = j.loads ?? [];
      return { ...j, loads: loads.includes(way) ? loads.filter((w) => w !== way) : [...loads, way] };
    });
  }

  protected judgedAs(key: JudgedKey): 'yes' | 'no' | '' {
    const said = this.judged()[key];
    return said === undefined ? '' : said ? 'yes' : 'no';
  }

  protected answer(key: JudgedKey, said: string): void {
    this.judged.update(({ [key]: _was, ...others }) => (said === '' ? others : { ...others, [key]: said === 'yes' }));
  }

  protected because(key: JudgedKey, why: string): void {
    this.judged.update((j) => {
      const { [key]: _was, ...others } = j.because ?? {};
      return { ...j, because: why.trim() === '' ? others : { ...others, [key]: why } };
    });
  }

  protected set(index: number, change: Partial<Tried>): void {
    this.rows.update((all) => all.map((r, i) => (i === index ? { ...r, ...change } : r)));
  }

  protected add(): void {
    this.rows.update((all) => [...all, { trial: 'shake it', does: 'holds', by: 'tested', why: '' }]);
  }

  protected remove(index: number): void {
    this.rows.update((all) => all.filter((_, i) => i !== index));
  }

  protected done(): void {
    const { judged: _judged, behaviour: _behaviour, ...rest } = this.data.entry;
    const judged = this.judged();
    const rows = this.rows().map(({ undo, ...r }) => (undo === undefined || undo.trim() === '' ? r : { ...r, undo }));
    const own =
      JSON.stringify(judged) !== JSON.stringify(this.data.judged ?? {}) || this.data.entry.judged !== undefined;
    const entry = entrySchema.safeParse({
      ...rest,
      ...(own && Object.keys(judged).length > 0 ? { judged } : {}),
      ...(rows.length > 0 ? { behaviour: rows } : {}),
    });
    if (entry.success) this.ref.close(entry.data);
    else this.trouble.set(sayRefusal(refusalOf(entry.error)));
  }
}
