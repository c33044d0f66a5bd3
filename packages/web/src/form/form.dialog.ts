/** Set: the drawing on the board as it lies in the hand, and how it is dressed to lie so. */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { sameSetting, settingFor, type Dressing, type Figure, type Nudge, type Vocabulary } from '@foxtrail/core';
import { AS_IT_COMES, DressingPanel } from './dressing-panel';
import { FormView } from './form-view';

export interface FormAsked {
  readonly name: string;
  readonly figure: Figure;
  readonly words: Vocabulary;
  /** The ways to dress it that are kept with the drawing, the right one first. */
  readonly dressings: readonly Dressing[];
  /** The drawing is the one that learners are shown set. */
  readonly isShown: boolean;
  /** Keeps other ways; absent where nothing may be changed. Gives whether they were taken. */
  readonly keep?: ((dressings: readonly Dressing[]) => boolean) | undefined;
}

@Component({
  selector: 'ft-form-dialog',
  imports: [MatButtonModule, MatButtonToggleModule, MatDialogModule, DressingPanel, FormView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.name }}, dressed and set</h2>
    <mat-dialog-content>
      <ft-form-view
        [setting]="setting()"
        [name]="asked.name"
        [vocabulary]="asked.words"
        [aside]="aside()"
        [nudging]="nudging() && aside() === 'own'"
        (nudged)="nudge($event)"
      >
        <mat-button-toggle-group
          above
          [value]="aside()"
          (change)="aside.set($event.value)"
          hideSingleSelectionIndicator
          aria-label="Beside the knot"
        >
          <mat-button-toggle value="facts">What is seen</mat-button-toggle>
          <mat-button-toggle value="own">How it is pulled</mat-button-toggle>
        </mat-button-toggle-group>
        <ft-dressing-panel
          [figure]="asked.figure"
          [vocabulary]="asked.words"
          [kept]="kept()"
          [mayKeep]="asked.keep !== undefined"
          [isShown]="asked.isShown"
          [(inHand)]="inHand"
          [(nudging)]="nudging"
          (keep)="keep($event)"
        />
      </ft-form-view>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-flat-button mat-dialog-close type="button">Back to the drawing</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      max-height: 80vh;
    }
    mat-button-toggle-group {
      margin-bottom: 10px;
      background: var(--card);
    }
  `,
})
export class FormDialog {
  protected readonly asked = inject<FormAsked>(MAT_DIALOG_DATA);
  protected readonly aside = signal<'facts' | 'own'>('facts');
  protected readonly kept = signal(this.asked.dressings);
  protected readonly inHand = signal<Dressing>(this.asked.dressings[0] ?? AS_IT_COMES);
  protected readonly nudging = signal(false);
  protected readonly setting = computed(() => settingFor(this.asked.figure, this.inHand()), { equal: sameSetting });

  protected nudge(by: Nudge): void {
    this.inHand.update((way) => ({ ...way, name: '', nudges: [...(way.nudges ?? []), by] }));
  }

  protected keep(dressings: readonly Dressing[]): void {
    if (this.asked.keep?.(dressings) === true) this.kept.set(dressings);
  }
}
