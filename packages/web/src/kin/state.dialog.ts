/**
 * States that two knots are kin. The answer says at once whether it is proved.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import type { KinRelation } from '@foxtrail/contract';
import { KIN_KINDS, sameName, sayKin, type KinKind } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { Standing } from './standing';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

export interface StateKinData {
  /** The knot it begins with. */
  readonly from?: string;
}

@Component({
  selector: 'ft-state-kin',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
    Standing,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>State that two knots are kin</h2>
    <mat-dialog-content>
      <div class="pair">
        @for (side of sides; track side.key) {
          <mat-form-field subscriptSizing="dynamic">
            <mat-label>{{ side.label }}</mat-label>
            <input
              matInput
              [value]="nameOf(side.at())"
              [matAutocomplete]="list"
              (input)="side.asked.set(field.value); side.at.set('')"
              #field
            />
            <mat-autocomplete
              #list
              (optionSelected)="side.at.set($event.option.value); field.value = nameOf(side.at())"
            >
              @for (n of fitting(side.asked()); track n.ref) {
                <mat-option [value]="n.ref"
                  >{{ n.name }} <span class="soft">{{ n.ofBook ? 'pattern book' : 'shelf' }}</span></mat-option
                >
              }
            </mat-autocomplete>
          </mat-form-field>
        }
      </div>
      <div class="pair">
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>How they are kin</mat-label>
          <mat-select [value]="kind()" (selectionChange)="kind.set($event.value)">
            @for (k of kinds; track k) {
              <mat-option [value]="k">{{ k }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        @if (kind() === 'one more turn') {
          <mat-form-field subscriptSizing="dynamic">
            <mat-label>Turns more</mat-label>
            <input matInput type="number" min="1" max="6" [value]="turns()" (input)="turns.set(+count.value)" #count />
          </mat-form-field>
        }
      </div>
      <mat-form-field class="wide" subscriptSizing="dynamic">
        <mat-label>Why, where the drawings cannot show it (optional)</mat-label>
        <input matInput maxlength="300" [value]="why()" (input)="why.set(reason.value)" #reason />
      </mat-form-field>
      @if (sentence(); as s) {
        <p class="says">{{ s }}</p>
      }
      @if (busy()) {
        <mat-progress-bar mode="indeterminate" aria-label="Comparing the drawings" />
      }
      @if (done(); as r) {
        <p class="answer" role="status"><ft-standing [of]="r" /> {{ r.proof?.compared }}</p>
      }
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (done(); as r) {
        <button mat-button type="button" (click)="takeBack(r)">Take it back</button>
        <button mat-flat-button type="button" mat-dialog-close>Keep it</button>
      } @else {
        <button mat-button type="button" mat-dialog-close>Cancel</button>
        <button mat-flat-button type="button" [disabled]="!sentence() || busy()" (click)="say()">
          State and try it
        </button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
      margin: 8px 0 12px;
    }
    .wide {
      width: 100%;
    }
    .says {
      margin: 16px 0 4px;
      font-size: 18px;
      font-weight: 600;
    }
    .answer {
      margin: 12px 0 0;
    }
  `,
})
export class StateKinDialog {
  private readonly data = inject<StateKinData>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<StateKinDialog>>(MatDialogRef);
  private readonly kin = inject(KinService);
  private readonly from = signal(this.data.from ?? '');
  private readonly to = signal('');
  protected readonly sides = [
    { key: 'from', label: 'The plainer knot', at: this.from, asked: signal('') },
    { key: 'to', label: 'What is made of it', at: this.to, asked: signal('') },
  ] as const;
  protected readonly kinds = KIN_KINDS;
  protected readonly kind = signal<KinKind>('one more turn');
  protected readonly turns = signal(1);
  protected readonly why = signal('');
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly done = signal<KinRelation | undefined>(undefined);
  protected readonly sentence = computed(() =>
    this.from() === '' || this.to() === ''
      ? undefined
      : sayKin(this.kind(), this.kin.nameOf(this.from()), this.kin.nameOf(this.to()), this.turns()),
  );

  protected nameOf = (ref: string): string => (ref === '' ? '' : this.kin.nameOf(ref));

  protected fitting(asked: string): ReturnType<KinService['nodes']> {
    const wanted = sameName(asked);
    return this.kin
      .nodes()
      .filter((n) => sameName(n.name).includes(wanted))
      .slice(0, 30);
  }

  protected say(): void {
    const why = this.why().trim();
    const said = this.kin.say({
      from: this.from(),
      to: this.to(),
      kind: this.kind(),
      turns: this.kind() === 'one more turn' ? this.turns() : 1,
      why: why === '' ? null : why,
    });
    void this.attempt.run(said, (relation) => this.done.set(relation));
  }

  protected takeBack(relation: KinRelation): void {
    void this.attempt.run(this.kin.takeBack(relation.id), () => this.ref.close());
  }
}
