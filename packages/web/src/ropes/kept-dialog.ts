/**
 * The frame of a dialog in which a thing of the store is written: its head, what went wrong, what somebody else has made of it meanwhile, and
 * what is done with it. Its form stands between its tags.
 */
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { TroubleLine } from '../ui/trouble';
import type { AnyKeeping } from './keeping';
import { Theirs } from './theirs';

@Component({
  selector: 'ft-kept-dialog',
  imports: [MatButtonModule, MatDialogModule, Theirs, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ head() }}</h2>
    <mat-dialog-content>
      <ng-content />
      <ft-trouble [text]="keeping().trouble()" />
      @if (keeping().theirs()) {
        <ft-theirs [name]="name()" (take)="theirs.emit()" />
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (keeping().isThere) {
        <button mat-button type="button" class="remove" [disabled]="keeping().busy()" (click)="remove()">
          Remove it
        </button>
        <span class="space"></span>
      }
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" [attr.form]="form()" [disabled]="keeping().busy()">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    :host {
      display: contents;
    }
    .remove {
      --mat-button-text-label-text-color: var(--plum);
    }
  `,
})
export class KeptDialog {
  readonly head = input.required<string>();
  /** Id of the form that is sent. */
  readonly form = input.required<string>();
  /** What the thing is called, where somebody else has changed it. */
  readonly name = input.required<string>();
  readonly keeping = input.required<AnyKeeping>();
  /** Theirs is to be looked at. */
  readonly theirs = output();
  private readonly ref = inject<MatDialogRef<unknown>>(MatDialogRef);

  protected async remove(): Promise<void> {
    if (await this.keeping().remove()) this.ref.close();
  }
}
