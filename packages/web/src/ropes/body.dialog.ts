/** Somebody of the house who has been measured: palm, forearm, arm span. */
import { ChangeDetectionStrategy, Component, inject, signal, viewChildren } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Kept } from '@foxtrail/contract/ropes';
import { capital, refusalOf, sayRefusal } from '@foxtrail/core';
import { BODY_MEASURES, HOW_TAKEN, personSchema, type BodyMeasure, type Person } from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { TroubleLine } from '../ui/trouble';
import { Keeping } from './keeping';
import { MeasureField } from './measure-field';
import { Theirs } from './theirs';

@Component({
  selector: 'ft-body',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MeasureField, Theirs, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.kept ? 'Change a person’s measures' : 'A person’s measures' }}</h2>
    <mat-dialog-content>
      <form id="body" class="narrow" (submit)="$event.preventDefault(); keep()">
        <mat-form-field appearance="outline" class="two">
          <mat-label>Who</mat-label>
          <input matInput maxlength="80" autocomplete="off" [value]="name()" (input)="name.set(field.value)" #field />
        </mat-form-field>
        @for (m of measures; track m.name) {
          <ft-measure
            optional
            [label]="m.label"
            [hint]="m.how"
            [value]="mm()[m.name] ?? null"
            (valueChange)="set(m.name, $event)"
          />
        }
      </form>
      <ft-trouble [text]="trouble() || keeping.trouble()" />
      @if (keeping.theirs(); as theirs) {
        <ft-theirs [name]="theirs.is.name" (take)="name.set(theirs.is.name); mm.set(theirs.is.mm)" />
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
      <button mat-flat-button type="submit" form="body" [disabled]="keeping.busy()">Keep</button>
    </mat-dialog-actions>
  `,
  styleUrl: './dialog.scss',
})
export class BodyDialog {
  protected readonly data = inject<{ kept?: Kept<Person> }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<BodyDialog>>(MatDialogRef);
  protected readonly keeping = new Keeping(inject(RopesService).bodies, 'bodies', this.data.kept);
  protected readonly measures = BODY_MEASURES.map((name) => ({ name, label: capital(name), how: HOW_TAKEN[name] }));
  protected readonly trouble = signal('');
  protected readonly name = signal(this.data.kept?.is.name ?? '');
  protected readonly mm = signal<Person['mm']>(this.data.kept?.is.mm ?? {});
  private readonly fields = viewChildren(MeasureField);

  protected set(measure: BodyMeasure, value: number | null): void {
    this.mm.update(({ [measure]: _was, ...others }) => (value === null ? others : { ...others, [measure]: value }));
  }

  protected async keep(): Promise<void> {
    this.trouble.set('');
    const unread = this.fields().find((f) => !f.fits());
    if (unread) {
      this.trouble.set(`${unread.label()} cannot be read. See below it.`);
      return;
    }
    const read = personSchema.safeParse({ name: this.name(), mm: this.mm() });
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
