/** Somebody of the house who has been measured: palm, forearm, arm span. */
import { ChangeDetectionStrategy, Component, inject, signal, viewChildren } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Kept } from '@foxtrail/contract/ropes';
import { capital } from '@foxtrail/core';
import { BODY_MEASURES, HOW_TAKEN, personSchema, type BodyMeasure, type Person } from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { Keeping } from './keeping';
import { KeptDialog } from './kept-dialog';
import { MeasureField } from './measure-field';

@Component({
  selector: 'ft-body',
  imports: [KeptDialog, MatFormFieldModule, MatInputModule, MeasureField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-kept-dialog
      form="body"
      [head]="data.kept ? 'Change a person’s measures' : 'A person’s measures'"
      [name]="keeping.theirs()?.is?.name ?? ''"
      [keeping]="keeping"
      (theirs)="take()"
    >
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
    </ft-kept-dialog>
  `,
  styleUrl: './dialog.scss',
})
export class BodyDialog {
  protected readonly data = inject<{ kept?: Kept<Person> }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<BodyDialog>>(MatDialogRef);
  protected readonly keeping = new Keeping(inject(RopesService).bodies, 'bodies', this.data.kept);
  protected readonly measures = BODY_MEASURES.map((name) => ({ name, label: capital(name), how: HOW_TAKEN[name] }));
  protected readonly name = signal(this.data.kept?.is.name ?? '');
  protected readonly mm = signal<Person['mm']>(this.data.kept?.is.mm ?? {});
  private readonly fields = viewChildren(MeasureField);

  protected set(measure: BodyMeasure, value: number | null): void {
    this.mm.update(({ [measure]: _was, ...others }) => (value === null ? others : { ...others, [measure]: value }));
  }

  protected take(): void {
    const theirs = this.keeping.theirs();
    if (!theirs) return;
    this.name.set(theirs.is.name);
    this.mm.set(theirs.is.mm);
  }

  protected async keep(): Promise<void> {
    const read = personSchema.safeParse({ name: this.name(), mm: this.mm() });
    if (await this.keeping.keepRead(read, this.fields())) this.ref.close();
  }
}
