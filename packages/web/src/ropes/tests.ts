/**
 * The pull-test log: what ropes carried with a knot and without, what few tests say with their spread, and the tests themselves.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { Kept } from '@foxtrail/contract/ropes';
import {
  isCounted,
  sayKn,
  testGroups,
  UNITS_OF_FORCE,
  type PullTest,
  type TestGroup,
  type UnitOfForce,
} from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { photographAddress } from './photograph';
import { Select } from '../ui/select';
import { TroubleNote } from '../ui/trouble';

/** Most tests of a group that are listed at once. */
const LISTED = 40;

@Component({
  selector: 'ft-tests',
  imports: [MatButtonModule, MatIconModule, MatProgressBarModule, Chart, Select, TroubleNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tests.html',
  styleUrl: './tests.scss',
})
export class TestsPage {
  private readonly kept = inject(RopesService);
  private readonly dialog = inject(MatDialog);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly units = UNITS_OF_FORCE;
  protected readonly unit = signal<UnitOfForce>('kN');
  protected say = (kn: number): string => sayKn(kn, this.unit());
  protected readonly attempt = new Attempt();
  protected readonly ready = computed(() => this.kept.tests.all() !== undefined);
  protected readonly any = computed(() => this.kept.tests.list().length > 0);

  constructor() {
    this.load();
  }
  protected load(): void {
    // A long log is fetched once while one is under Ropes.
    void this.attempt.run(this.kept.ensure(this.kept.tests));
  }

  private readonly groups = computed(() => testGroups(this.kept.tests.list().map((k) => k.is)));

  /** One rope with the knots in it, or one knot in ropes of several kinds and diameters. */
  protected readonly by = signal<'rope' | 'knot' | 'diameter'>('rope');
  protected readonly sides = [
    { value: 'rope' as const, name: 'knots of one rope' },
    { value: 'knot' as const, name: 'ropes of one knot' },
    { value: 'diameter' as const, name: 'one knot by diameter' },
  ];
  protected readonly choices = computed(() => [
    ...new Set(this.groups().flatMap((g) => (this.by() === 'rope' ? g.ropeName : g.knot === null ? [] : g.knotName))),
  ]);
  private readonly wantedOne = signal('');
  protected readonly one = computed(() =>
    this.choices().includes(this.wantedOne()) ? this.wantedOne() : (this.choices()[0] ?? ''),
  );
  protected chooseOne(one: string): void {
    this.wantedOne.set(one);
  }

  protected readonly rows = computed(() =>
    this.groups()
      .filter((g) => (this.by() === 'rope' ? g.ropeName : g.knotName) === this.one())
      .map((group) => {
        const { sample, kept } = group;
        return {
          group,
          key: this.keyOf(group),
          name: this.nameOf(group),
          size: `${group.diameterMm} mm`,
          n: sample?.n ?? 0,
          mean: sample && this.say(sample.mean),
          deviation: sample?.deviation === undefined ? '' : `± ${this.say(sample.deviation)}`,
          kept: kept && `${(100 * kept.share).toFixed(0)} %`,
          keptSpread: kept?.spread === undefined ? '' : `± ${(100 * kept.spread).toFixed(0)} %`,
          bound: sample?.bound === undefined ? undefined : this.say(sample.bound),
          outliers: sample?.outliers.length ?? 0,
        };
      }),
  );
  private keyOf = (g: TestGroup): string => `${g.knotName} ${g.method} ${g.ropeName} ${g.diameterMm}`;
  private nameOf(g: TestGroup): string {
    if (this.by() !== 'rope') return g.ropeName;
    return g.knot === null ? 'the rope, no knot' : g.method === '' ? g.knotName : `${g.knotName} (${g.method})`;
  }

  private readonly wanted = signal('');
  protected readonly chosen = computed(() => this.rows().find((r) => r.key === this.wanted()) ?? this.rows()[0]);
  protected choose(key: string): void {
    this.wanted.set(key);
  }

  /** The tests of the group that is chosen, the newest first. */
  protected readonly tests = computed(() => {
    const chosen = this.chosen();
    if (!chosen) return [];
    const counted = chosen.group.tests.filter(isCounted);
    const departs = new Set((chosen.group.sample?.outliers ?? []).map((i) => counted[i]));
    const own = new Set(chosen.group.tests);
    return this.kept.tests
      .list()
      .filter((k) => own.has(k.is))
      .reverse()
      .slice(0, LISTED)
      .map((kept) => ({
        kept,
        is: kept.is,
        departs: departs.has(kept.is),
        photograph: kept.is.photograph === null ? undefined : photographAddress(kept.is.photograph),
      }));
  });
  protected readonly listed = LISTED;

  /** Tests, means and bounds: along the forces, a row for each group; or upward over the diameters of the ropes. */
  protected readonly chart = computed(() => {
    const [rows, unit, upright] = [this.rows(), this.unit(), this.by() === 'diameter'];
    const titled = unit === 'kN' ? 'kN' : 'kN (the table is in ' + unit + ')';
    const told = upright ? '%{y:.2f} kN' : '%{x:.2f} kN';
    const placed = (
      of: readonly { readonly row: (typeof rows)[number]; readonly kn: number | null }[],
    ): { readonly x: readonly unknown[]; readonly y: readonly unknown[] } => {
      const forces = of.map(({ kn }) => kn);
      const groups = of.map(({ row }) => (upright ? row.group.diameterMm : `${row.name}, ${row.size}`));
      return upright ? { x: groups, y: forces } : { x: forces, y: groups };
    };
    const tests = rows.flatMap((row) => row.group.tests.map((t) => ({ row, kn: t.peakKn, counted: isCounted(t) })));
    return (c: ChartColours): ChartShown => {
      const forces = { title: { text: titled }, rangemode: 'tozero', fixedrange: true };
      const sides = upright
        ? { title: { text: 'diameter of the rope, mm' }, rangemode: 'tozero', fixedrange: true }
        : { autorange: 'reversed', automargin: true, fixedrange: true };
      const drawn = { color: c.ink, gridcolor: c.line };
      return {
        data: [
          {
            type: 'scatter',
            mode: 'markers',
            ...placed(tests),
            marker: {
              size: 11,
              opacity: 0.75,
              color: tests.map((t) => (t.counted ? c.good : c.soft)),
              symbol: tests.map((t) => (t.counted ? 'circle' : 'circle-open')),
            },
            hovertemplate: `${told}<extra></extra>`,
          },
          {
            type: 'scatter',
            mode: 'markers',
            ...placed(rows.map((row) => ({ row, kn: row.group.sample?.mean ?? null }))),
            marker: { symbol: upright ? 'line-ew-open' : 'line-ns-open', size: 26, color: c.ink, line: { width: 3 } },
            hovertemplate: `mean ${told}<extra></extra>`,
          },
          {
            type: 'scatter',
            mode: 'markers',
            ...placed(rows.map((row) => ({ row, kn: row.group.sample?.bound ?? null }))),
            marker: { symbol: upright ? 'triangle-up' : 'triangle-right', size: 15, color: c.bad },
            hovertemplate: `at least 95 % lie above ${told}<extra></extra>`,
          },
        ],
        layout: {
          margin: { l: upright ? 60 : 190, r: 16, t: 8, b: 44 },
          xaxis: { ...(upright ? sides : forces), ...drawn },
          yaxis: { ...(upright ? forces : sides), ...drawn },
        },
      };
    };
  });
  protected readonly chartHeight = computed(() => (this.by() === 'diameter' ? 320 : 70 + 42 * this.rows().length));

  /** The rope that a new test is begun with. */
  private ropeName = (): string => (this.by() === 'rope' ? this.one() : (this.chosen()?.group.ropeName ?? ''));
  protected async edit(kept?: Kept<PullTest>): Promise<void> {
    const { PullTestDialog } = await import('./pull-test.dialog');
    this.dialog.open(PullTestDialog, { width: '760px', maxWidth: '94vw', data: { kept, ropeName: this.ropeName() } });
  }
  protected async pull(): Promise<void> {
    const { LoadCellDialog } = await import('./load-cell.dialog');
    this.dialog.open(LoadCellDialog, { width: '860px', maxWidth: '94vw', data: { ropeName: this.ropeName() } });
  }
}
