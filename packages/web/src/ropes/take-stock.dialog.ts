/**
 * A table of ropes taken in: what becomes of every line is told first, and only then is anything written. Lines that are refused stay in the
 * file, with their reasons here.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { KEPT_AT_ONCE } from '@foxtrail/contract/ropes';
import { readStockCsv, type StockReport } from '@foxtrail/core/ropes';
import { firstValueFrom } from 'rxjs';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { textOf } from '../data/text-file';
import { Notices } from '../ui/notices';
import { TroubleLine } from '../ui/trouble';

const DELIMITERS: Readonly<Record<string, string>> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' };

@Component({
  selector: 'ft-take-stock',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, MatProgressBarModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Take in ropes</h2>
    <mat-dialog-content>
      <p>
        <button mat-stroked-button type="button" (click)="input.click()">
          <mat-icon svgIcon="file" />Choose a file
        </button>
        <span class="soft">{{ file()?.name ?? 'A table (.csv) with a heading: at least “name” and “diameter”' }}</span>
        <input #input type="file" accept=".csv,.tsv,.txt,text/csv" hidden (change)="choose(input)" />
      </p>
      @if (busy()) {
        <mat-progress-bar mode="indeterminate" aria-label="Taking in" />
      }
      <ft-trouble [text]="report()?.trouble ?? trouble()" />
      @if (report(); as r) {
        @if (r.lines.length > 0) {
          <p class="sum" role="status">
            <b>{{ of('new').length }}</b> new · <b>{{ of('changed').length }}</b> changed ·
            <b>{{ of('there already').length }}</b> there already · <b>{{ of('refused').length }}</b> refused
            <span class="soft">Read as {{ file()?.encoding }}, cells between {{ delimiter() }}.</span>
          </p>
          @if (r.unknown.length > 0) {
            <p class="soft">Passed over: {{ r.unknown.join(', ') }}</p>
          }
          <div class="scroll">
            <table class="table">
              <thead>
                <tr>
                  <th scope="col">Line</th>
                  <th scope="col">Rope</th>
                  <th scope="col">Becomes</th>
                  <th scope="col">Why</th>
                </tr>
              </thead>
              <tbody>
                @for (line of r.lines; track line.line) {
                  <tr [class.refused]="line.becomes === 'refused'">
                    <td>{{ line.line }}</td>
                    <th scope="row">{{ line.name }}</th>
                    <td>{{ line.becomes }}</td>
                    <td>{{ line.why }}</td>
                  </tr>
                }
              </tbody>
            </table>
          </div>
        }
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="button" [disabled]="busy() || coming() === 0" (click)="take()">
        {{ coming() > 0 ? 'Take in ' + coming() : 'Take in' }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    p .soft {
      margin-left: 12px;
    }
    .sum b {
      font-size: 20px;
    }
    .scroll {
      overflow: auto;
      max-height: 320px;
    }
    .refused td {
      color: var(--plum);
    }
  `,
})
export class TakeStockDialog {
  private readonly kept = inject(RopesService);
  private readonly notices = inject(Notices);
  private readonly ref = inject<MatDialogRef<TakeStockDialog>>(MatDialogRef);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly file = signal<{ name: string; encoding: string } | undefined>(undefined);
  protected readonly report = signal<StockReport | undefined>(undefined);
  protected readonly delimiter = computed(() => DELIMITERS[this.report()?.delimiter ?? ','] ?? 'commas');
  protected readonly coming = computed(() => this.of('new').length + this.of('changed').length);

  protected of(becomes: StockReport['lines'][number]['becomes']): StockReport['lines'] {
    return this.report()?.lines.filter((l) => l.becomes === becomes) ?? [];
  }

  protected choose(input: HTMLInputElement): void {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.report.set(undefined);
    void this.attempt.run(textOf(file), ({ text, encoding }) => {
      this.file.set({ name: file.name, encoding });
      this.report.set(
        readStockCsv(
          text,
          this.kept.ropes.list().map((k) => k.is),
        ),
      );
    });
  }

  protected async take(): Promise<void> {
    const [made, changed] = [
      this.of('new').flatMap((l) => l.rope ?? []),
      this.of('changed').flatMap((l) => l.rope ?? []),
    ];
    const done = await this.attempt.run(
      (async () => {
        for (let i = 0; i < made.length; i += KEPT_AT_ONCE)
          await firstValueFrom(this.kept.ropes.add(...made.slice(i, i + KEPT_AT_ONCE)));
        for (const rope of changed) {
          const was = this.kept.ropes.list().find((k) => k.is.name.toLowerCase() === rope.name.toLowerCase());
          if (was) await firstValueFrom(this.kept.ropes.change(was, rope));
        }
      })(),
    );
    if (!done) return;
    this.notices.say(`Taken in: ${made.length} new, ${changed.length} changed.`);
    this.ref.close();
  }
}
