/**
 * A new knot: by its name, from the pattern book, or from a drawing: a figure file, an SVG, a Gauss or PD code.
 */
import { ChangeDetectionStrategy, Component, inject, signal, type Injector } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import type { KnotCard } from '@foxtrail/contract';
import { nameSchema, sayRefusal, writeKnot } from '@foxtrail/core';
import type { Beginning as FromBook } from '@foxtrail/pattern-book';
import { Api } from '../data/api';
import { PlacingService } from '../data/placing';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';
import { from, map, of, switchMap, type Observable } from 'rxjs';

/** The knot that was made, and whether its overs and unders are still to be walked. */
export interface NewKnot {
  readonly card: KnotCard;
  readonly toWalk: boolean;
}

/** Patterns of the book and ways to tie them, by their family. */
interface Family {
  readonly family: string;
  readonly beginnings: readonly FromBook[];
}

const byFamily = (list: readonly FromBook[]): Family[] =>
  [...new Set(list.map((b) => b.family))].map((family) => ({
    family,
    beginnings: list.filter((b) => b.family === family),
  }));

@Component({
  selector: 'ft-new-knot',
  imports: [
    ReactiveFormsModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    TroubleLine,
  ],
  providers: [PlacingService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New knot</h2>
    <mat-dialog-content>
      <form id="new-knot" [formGroup]="form" (ngSubmit)="create()">
        <mat-form-field appearance="outline">
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" autocomplete="off" cdkFocusInitial />
        </mat-form-field>
        @if (patterns(); as list) {
          <mat-form-field appearance="outline">
            <mat-label>Begin from the pattern book</mat-label>
            <mat-select formControlName="pattern">
              <mat-option value="">with a blank board</mat-option>
              @for (group of list; track group.family) {
                <mat-optgroup [label]="group.family">
                  @for (p of group.beginnings; track p.name) {
                    <mat-option [value]="p">{{ p.name }}</mat-option>
                  }
                </mat-optgroup>
              }
            </mat-select>
          </mat-form-field>
        }
        <mat-form-field appearance="outline">
          <mat-label>Or paste a Gauss or PD code</mat-label>
          <textarea
            matInput
            formControlName="code"
            rows="2"
            placeholder="O1- U2- O3- U1- O2- U3-"
            spellcheck="false"
          ></textarea>
        </mat-form-field>
      </form>
      @if (layout.share() !== undefined) {
        <div class="working">
          <span>Drawing it …</span>
          <mat-progress-bar mode="determinate" [value]="100 * (layout.share() ?? 0)" aria-label="Laying out" />
          <button mat-button type="button" (click)="layout.cancel()">Stop</button>
        </div>
      }
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions>
      <button mat-button type="button" (click)="file.click()"><mat-icon svgIcon="upload" />Import a drawing</button>
      <input
        #file
        type="file"
        accept=".json,.svg,.txt,application/json,image/svg+xml,text/plain"
        hidden
        aria-label="A figure file, an SVG or a code"
        (change)="importFile(file)"
      />
      <span class="space"></span>
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="submit" form="new-knot" [disabled]="busy()">Create</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    .trouble {
      margin: 0;
      color: var(--plum);
      overflow-wrap: anywhere;
    }
    .working {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    .working mat-progress-bar {
      flex: 1;
    }
    mat-dialog-content {
      width: 520px;
      max-width: 100%;
    }
  `,
})
export class NewKnotDialog {
  private readonly api = inject(Api);
  protected readonly layout = inject(PlacingService);
  private readonly dialog = inject<MatDialogRef<NewKnotDialog, NewKnot>>(MatDialogRef);
  private readonly build = inject(NonNullableFormBuilder);
  protected readonly form = this.build.group({
    name: '',
    pattern: this.build.control<FromBook | ''>(''),
    code: '',
  });
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;

  /** The pattern book, fetched when the dialog opens. */
  private readonly book = import('@foxtrail/pattern-book');
  protected readonly patterns = signal<readonly Family[] | undefined>(undefined);

  constructor() {
    void this.book.then(({ beginnings }) => this.patterns.set(byFamily(beginnings())));
    // A pattern lends its name while none is typed.
    this.form.controls.pattern.valueChanges.pipe(takeUntilDestroyed()).subscribe((chosen) => {
      const { name } = this.form.controls;
      const all = this.patterns()?.flatMap((family) => family.beginnings) ?? [];
      // A way to tie is none of the knot's names.
      const named = chosen === '' ? undefined : all.find((p) => p.id === chosen.id);
      if (named && (name.value === '' || all.some((p) => p.name === name.value))) name.setValue(named.name);
    });
  }

  protected create(): void {
    const { pattern, code } = this.form.getRawValue();
    const name = nameSchema.safeParse(this.form.getRawValue().name);
    if (!name.success) {
      this.trouble.set(`The name cannot be used: ${name.error.issues[0]?.message ?? ''}.`);
      return;
    }
    if (code.trim() !== '') this.send(this.read(code, name.data, 'The code'));
    else if (pattern === '') this.send(of({ body: { name: name.data } }));
    else this.send(this.begin(pattern, name.data));
  }

  /** Begins from a pattern, with the steps that finish it, the way to tie it that was chosen first. */
  private async begin({ id, way }: FromBook, name: string): Promise<Beginning> {
    const { begunFrom, patternOf } = await this.book;
    const pattern = patternOf(id);
    return { body: pattern ? { document: writeKnot({ ...begunFrom(pattern, way), name }) } : { name } };
  }

  protected importFile(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const typed = nameSchema.safeParse(this.form.getRawValue().name);
    const named = nameSchema.safeParse(file.name.replace(/\.[a-z0-9]+$/i, ''));
    const name = typed.success ? typed.data : named.success ? named.data : 'Imported knot';
    this.send(file.text().then((text) => this.read(text, name, file.name)));
  }

  private async read(text: string, name: string, what: string): Promise<Beginning> {
    const read = await this.layout.read(text, name);
    if (!read) throw new Error(`${what} was not imported: it was stopped.`);
    if (!read.ok) throw new Error(`${what} was not imported. ${sayRefusal(read)}`);
    return { body: { document: read.value.document }, toWalk: read.value.toWalk };
  }

  /** Makes the knot once it is known what it begins from. */
  private send(beginning: Observable<Beginning> | Promise<Beginning>): void {
    const made = from(beginning).pipe(
      switchMap(({ body, toWalk = false }) => this.api.create(body).pipe(map((card) => ({ card, toWalk })))),
    );
    void this.attempt.run(made, (knot) => this.dialog.close(knot));
  }
}

/** What a new knot begins from, and whether its weave is still to be walked. */
interface Beginning {
  readonly body: { readonly name: string } | { readonly document: unknown };
  readonly toWalk?: boolean;
}

/** Opens the dialog; what opens dialogs is fetched with it, so that a shelf without one is spared both. */
export const openNewKnot = (injector: Injector): Observable<NewKnot | undefined> =>
  injector.get(MatDialog).open<NewKnotDialog, undefined, NewKnot>(NewKnotDialog).afterClosed();
