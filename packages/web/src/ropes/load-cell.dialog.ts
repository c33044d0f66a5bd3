/**
 * A load cell, read live: its trace as it grows, the peak that is caught, and what it becomes. A simulated one ships; a trace of another can be
 * opened from a table.
 */
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, NgZone, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialog, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { LOAD_CELL_ROUTES } from '@foxtrail/contract/ropes';
import { NO_TRACE, readTraceCsv, sayKn, toTraceCsv, withReadings, type Trace } from '@foxtrail/core/ropes';
import { textOf } from '../data/text-file';
import { inWords } from '../data/problem';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { saveFile } from '../ui/save-file';
import { TroubleLine } from '../ui/trouble';
import { MeasureField } from './measure-field';
import { PullTestDialog, type PullTestAsked } from './pull-test.dialog';

/** The chart is drawn anew so often at most, in milliseconds; a cell that says nothing for so long has fallen silent. */
const PAINT = 250;
const SILENT = 4000;
/** Most points of the chart: more cannot be told apart. */
const POINTS = 1200;

type State = 'ready' | 'pulling' | 'over' | 'stopped' | 'silent' | 'opened';

@Component({
  selector: 'ft-load-cell',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, Chart, MeasureField, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Load cell</h2>
    <mat-dialog-content>
      <p class="simulated" role="note">
        <b>Simulated.</b> Nothing is pulled: these readings are made up, to try the log with. What is kept of them is
        marked as simulated.
      </p>
      <div class="row">
        <ft-measure
          label="It is to break at about"
          kind="force"
          [disabled]="state() === 'pulling'"
          [(value)]="breaks"
        />
        @if (state() === 'pulling') {
          <button mat-flat-button type="button" (click)="stop('stopped')">Stop</button>
        } @else {
          <button mat-flat-button type="button" (click)="pull()"><mat-icon svgIcon="record" />Pull</button>
        }
        <button mat-stroked-button type="button" [disabled]="state() === 'pulling'" (click)="input.click()">
          <mat-icon svgIcon="upload" />Open a trace …
        </button>
        <input #input type="file" accept=".csv,.tsv,.txt,text/csv" hidden (change)="open(input)" />
        <span class="space"></span>
        <p class="peak" role="status">
          <span class="soft">peak</span> <b>{{ peak() }}</b>
        </p>
      </div>
      <ft-chart [shows]="chart()" [height]="260" />
      <p class="says" role="status">{{ says() }}</p>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" [disabled]="trace().readings.length === 0" (click)="save()">
        Save the trace as CSV
      </button>
      <span class="space"></span>
      <button mat-button type="button" mat-dialog-close>Close</button>
      <button mat-flat-button type="button" [disabled]="!mayKeep()" (click)="keep()">Keep as a test …</button>
    </mat-dialog-actions>
  `,
  styles: `
    .simulated {
      margin: 0 0 10px;
      padding: 8px 14px;
      border-left: 5px solid var(--fox);
      border-radius: 8px;
      background: var(--fox-wash);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
    }
    .peak {
      margin: 0;
    }
    .peak b {
      font-size: 28px;
    }
    .says {
      min-height: 1.4em;
      margin: 4px 0 0;
    }
  `,
})
export class LoadCellDialog {
  private readonly data = inject<{ ropeName: string }>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<LoadCellDialog>>(MatDialogRef);
  private readonly dialog = inject(MatDialog);
  private readonly zone = inject(NgZone);
  protected readonly breaks = signal<number | null>(12);
  protected readonly state = signal<State>('ready');
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly trace = signal<Trace>(NO_TRACE);
  private simulated = true;
  private coming: Trace = NO_TRACE;
  private events: EventSource | undefined;
  private painted = 0;
  private silence: ReturnType<typeof setTimeout> | undefined;

  protected readonly peak = computed(() => sayKn(this.trace().peak?.kn ?? 0));
  protected readonly mayKeep = computed(() => this.state() !== 'pulling' && this.trace().peak !== undefined);
  protected readonly says = computed(() => {
    const { broke, slips, leftOut, readings } = this.trace();
    const parts = [
      {
        ready: '',
        pulling: 'It is being pulled.',
        over: 'It is over.',
        stopped: 'It was stopped.',
        silent: '',
        opened: 'A trace from a file.',
      }[this.state()],
      broke ? `It broke after ${broke.at.toFixed(1)} s.` : '',
      slips.length > 0 ? `It slipped ${slips.length === 1 ? 'once' : `${slips.length} times`} before.` : '',
      leftOut > 0 ? `${leftOut} of ${leftOut + readings.length} readings could not be, and are left out.` : '',
    ];
    return parts.filter((p) => p !== '').join(' ');
  });

  protected readonly chart = computed(() => {
    const { readings, peak } = this.trace();
    const every = Math.max(1, Math.ceil(readings.length / POINTS));
    const shown = readings.filter((r, i) => i % every === 0 || r === peak);
    return (c: ChartColours): ChartShown => ({
      data: [
        {
          type: 'scatter',
          mode: 'lines',
          x: shown.map((r) => r.at),
          y: shown.map((r) => r.kn),
          line: { color: c.good, width: 2.5 },
          hovertemplate: '%{x:.1f} s: %{y:.2f} kN<extra></extra>',
        },
        {
          type: 'scatter',
          mode: 'markers',
          x: peak ? [peak.at] : [],
          y: peak ? [peak.kn] : [],
          marker: { color: c.bad, size: 13, symbol: 'diamond' },
          hovertemplate: 'peak %{y:.2f} kN<extra></extra>',
        },
      ],
      layout: {
        xaxis: { title: { text: 'seconds' }, rangemode: 'tozero', fixedrange: true, color: c.ink, gridcolor: c.line },
        yaxis: { title: { text: 'kN' }, rangemode: 'tozero', fixedrange: true, color: c.ink, gridcolor: c.line },
      },
    });
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.hangUp());
  }

  protected pull(): void {
    const breaks = this.breaks();
    if (breaks === null) {
      this.trouble.set('Say at about what force it is to break.');
      return;
    }
    this.hangUp();
    this.trouble.set(undefined);
    this.simulated = true;
    this.take(NO_TRACE, true);
    this.state.set('pulling');
    const seed = Math.floor(Math.random() * 1e9);
    this.events = new EventSource(`${LOAD_CELL_ROUTES.simulated.path}?breaks=${breaks}&seed=${seed}`);
    this.events.onmessage = ({ data }: MessageEvent<string>) => this.zone.run(() => this.hear(data));
    this.events.addEventListener('over', () => this.zone.run(() => this.stop('over')));
    this.events.onerror = () => this.zone.run(() => this.lost());
    this.listen();
  }

  private hear(data: string): void {
    let burst: unknown;
    try {
      burst = JSON.parse(data);
    } catch {
      burst = [data];
    }
    this.take(withReadings(this.coming, Array.isArray(burst) ? burst : [burst]));
    this.listen();
  }

  private listen(): void {
    clearTimeout(this.silence);
    this.silence = setTimeout(() => this.lost(), SILENT);
  }

  private lost(): void {
    this.stop('silent');
    this.trouble.set('The cell has fallen silent. What had come is here, and can be kept; pull again for a new trace.');
  }

  protected stop(as: State): void {
    this.hangUp();
    this.take(this.coming, true);
    this.state.set(as);
  }

  private hangUp(): void {
    clearTimeout(this.silence);
    this.events?.close();
    this.events = undefined;
  }

  private take(trace: Trace, now = false): void {
    this.coming = trace;
    if (!now && performance.now() - this.painted < PAINT) return;
    this.painted = performance.now();
    this.trace.set(trace);
  }

  protected open(input: HTMLInputElement): void {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.trouble.set(undefined);
    textOf(file).then(
      ({ text }) => {
        const trace = readTraceCsv(text);
        if (trace.readings.length === 0) {
          this.trouble.set(`“${file.name}” holds no trace: two columns are needed, seconds and kilonewtons.`);
          return;
        }
        this.simulated = false;
        this.take(trace, true);
        this.state.set('opened');
      },
      (error: unknown) => this.trouble.set(inWords(error)),
    );
  }

  protected save(): void {
    const name = this.simulated ? 'simulated-trace.csv' : 'trace.csv';
    saveFile(new Blob([toTraceCsv(this.trace())], { type: 'text/csv;charset=utf-8' }), name);
  }

  protected keep(): void {
    const { peak, broke } = this.trace();
    if (!peak) return;
    const data: PullTestAsked = {
      ropeName: this.data.ropeName,
      caught: {
        peakKn: Math.round(peak.kn * 1000) / 1000,
        outcome: broke ? 'broke' : 'was stopped',
        remarks: this.simulated ? 'Simulated: nothing was pulled' : '',
      },
    };
    this.dialog
      .open<PullTestDialog, PullTestAsked, boolean>(PullTestDialog, { width: '760px', maxWidth: '94vw', data })
      .afterClosed()
      .subscribe((kept) => kept && this.ref.close());
  }
}
