/**
 * What went wrong while a document is kept, in words; and what somebody else has made of it meanwhile, to be taken, or put aside.
 */
import { ChangeDetectionStrategy, Component, input, type Signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { TroubleLine } from '../ui/trouble';
import { Theirs } from './theirs';

/** A document that is kept as it is written, as far as its trouble goes. */
interface Kept {
  readonly keeping: Signal<
    | {
        readonly trouble: Signal<string | undefined>;
        readonly theirs: Signal<{ readonly is: { readonly name: string } } | undefined>;
      }
    | undefined
  >;
  flush(): Promise<void>;
  takeTheirs(): void;
}

@Component({
  selector: 'ft-kept-trouble',
  imports: [MatButtonModule, Theirs, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-trouble [text]="of().keeping()?.trouble() ?? other()">
      @if (of().keeping()?.trouble() && !of().keeping()?.theirs()) {
        <button mat-button type="button" (click)="of().flush()">Try again</button>
      }
    </ft-trouble>
    @if (of().keeping()?.theirs(); as theirs) {
      <ft-theirs [name]="theirs.is.name" (take)="of().takeTheirs()" />
      <p><button mat-stroked-button type="button" (click)="of().flush()">Put mine in its place</button></p>
    }
  `,
})
export class KeptTrouble {
  readonly of = input.required<Kept>();
  /** What else went wrong beside it. */
  readonly other = input<string | undefined>();
}
