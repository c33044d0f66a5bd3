/**
 * Measured ties: what knots really ate, beside what their forms say. They teach the planner; one that departs from the others is flagged, and
 * counted.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { sameName } from '@foxtrail/core';
import type { Kept, TieRecord } from '@foxtrail/contract/ropes';
import type { StrandEats } from '@foxtrail/core/form';
import { calibrated, onDrawnHost, ropeUse } from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { Notices } from '../ui/notices';
import { TroubleLine } from '../ui/trouble';
import { Eats } from './eats';
import { MeasureField } from './measure-field';
import { lengthsSaid } from './lengths-said';

interface TieGroup {
  readonly knot: string;
  readonly name: string;
  readonly strand: number;
  readonly ties: readonly Kept<TieRecord>[];
}

@Component({
  selector: 'ft-ties',
  imports: [MatAutocompleteModule, MatButtonModule, MatIconModule, Chart, MeasureField, TroubleLine],
  providers: [FormingService, PlacingService, Eats],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ties.html',
  styleUrl: './ties.scss',
})
export class TiesPage {
  private readonly kept = inject(RopesService);
  private readonly kin = inject(KinService);
  private readonly eats = inject(Eats);
  private readonly notices = inject(Notices);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly sayMm = lengthsSaid();

  /** Ties of one rope of one knot, by their names. */
  protected readonly groups = computed((): readonly TieGroup[] => {
    const groups = new Map<string, Kept<TieRecord>[]>();
    for (const tie of this.kept.ties.list()) {
      // A knot goes by its name: one of the shelf and the same of the book are one.
      const key = `${tie.is.knotName.toLowerCase()} ${tie.is.strand}`;
      groups.set(key, [...(groups.get(key) ?? []), tie]);
    }
    return [...groups.values()]
      .map((ties) => ({ knot: ties[0]!.is.knot, name: ties[0]!.is.knotName, strand: ties[0]!.is.strand, ties }))
      .sort((a, b) => a.name.localeCompare(b.name) || a.strand - b.strand);
  });
  private readonly wanted = signal<string | undefined>(undefined);
  protected readonly chosen = computed(
    () => this.groups().find((g) => this.keyOf(g) === this.wanted()) ?? this.groups()[0],
  );
  protected readonly keyOf = ({ name, strand }: TieGroup): string => `${name.toLowerCase()} ${strand}`;
  protected choose(group: TieGroup): void {
    this.wanted.set(this.keyOf(group));
  }

  /** What the form of a knot says, in diameters, where it is known. */
  private readonly forms = signal<ReadonlyMap<string, StrandEats>>(new Map());
  /** What it eats as it lies loose on a table. */
  private readonly settled = signal<ReadonlyMap<string, number>>(new Map());
  protected readonly shown = computed(() => {
    const group = this.chosen();
    const form = group && this.forms().get(this.keyOf(group));
    const ties = group?.ties.map((t) => onDrawnHost(t.is, form?.host)) ?? [];
    const own = calibrated(ties);
    if (!group || !own) return undefined;
    if (form === undefined) void this.askForm(group);
    const use = ropeUse(form?.set ?? own.diameters, 10, ties);
    return {
      group,
      own,
      form,
      settled: this.settled().get(this.keyOf(group)),
      rows: group.ties.map((kept, i) => ({ kept, ...own.ties[i]! })),
      says: `${own.diameters.toFixed(1)} d`,
      next: `${this.sayMm(use.mm)} ± ${this.sayMm(use.spread)}`,
      outliers: own.ties.filter((t) => t.outlier).length,
      chart: (colours: ChartColours): ChartShown => ({
        data: [
          {
            type: 'scatter',
            mode: 'markers',
            x: own.ties.map((t) => t.diameterMm),
            y: own.ties.map((t) => t.residual),
            marker: {
              size: 13,
              color: own.ties.map((t) => (t.outlier ? colours.bad : colours.good)),
              symbol: own.ties.map((t) => (t.outlier ? 'diamond' : 'circle')),
            },
            hovertemplate: '%{x} mm rope: %{y:.0f} mm<extra></extra>',
          },
        ],
        layout: {
          xaxis: {
            title: { text: 'diameter of the rope, mm' },
            fixedrange: true,
            color: colours.ink,
            gridcolor: colours.line,
          },
          yaxis: {
            title: { text: 'eaten more than expected, mm' },
            fixedrange: true,
            color: colours.ink,
            gridcolor: colours.line,
            zerolinecolor: colours.ink,
          },
        },
      }),
    };
  });

  private readonly asking = new Set<string>();
  private async askForm(group: TieGroup): Promise<void> {
    const key = this.keyOf(group);
    if (this.asking.has(key) || !group.knot.includes(':')) return;
    this.asking.add(key);
    const found = await this.eats.of(group.knot).catch(() => undefined);
    const strand = found?.ok ? found.value.strands[group.strand] : undefined;
    if (strand) this.forms.update((known) => new Map([...known, [key, strand]]));
    const loose = strand && (await this.eats.settled(group.knot).catch(() => undefined));
    const own = loose?.[group.strand];
    if (own !== undefined) this.settled.update((known) => new Map([...known, [key, own]]));
  }

  // A tie that is measured now.
  protected readonly asked = signal('');
  protected readonly knot = signal<{ ref: string; name: string } | undefined>(undefined);
  protected readonly diameter = signal<number | null>(null);
  /** How thick that is which it was tied round; null: as it is drawn. */
  protected readonly host = signal<number | null>(null);
  protected readonly before = signal<number | null>(null);
  protected readonly after = signal<number | null>(null);
  protected readonly found = computed(() => {
    const wanted = sameName(this.asked());
    return this.kin
      .nodes()
      .filter((n) => sameName(n.name).includes(wanted))
      .slice(0, 40);
  });

  constructor() {
    if (!this.kin.kin()) void this.attempt.run(this.kin.load());
  }

  protected nameOf = (ref: string): string => this.kin.nameOf(ref);
  pick(ref: string): void {
    this.knot.set({ ref, name: this.kin.nameOf(ref) });
  }

  protected async keep(): Promise<void> {
    const [knot, diameterMm, before, after] = [this.knot(), this.diameter(), this.before(), this.after()];
    const trouble = this.attempt.trouble;
    if (!knot) {
      trouble.set('Say which knot was tied.');
      return;
    }
    if (diameterMm === null || before === null || after === null) {
      trouble.set('Write the rope’s diameter, and its length before and after it was tied.');
      return;
    }
    if (after >= before) {
      trouble.set('After it was tied the rope is no shorter: look at the two lengths.');
      return;
    }
    const tie: TieRecord = {
      knot: knot.ref,
      knotName: knot.name,
      strand: 0,
      diameterMm,
      eatenMm: before - after,
      hostMm: this.host(),
    };
    await this.attempt.run(this.kept.ties.add(tie), ([made]) => {
      if (made) this.wanted.set(`${knot.name.toLowerCase()} 0`);
      this.after.set(null);
    });
  }

  protected async remove(kept: Kept<TieRecord>): Promise<void> {
    if (await this.attempt.run(this.kept.ties.remove(kept.id)))
      this.notices.done('The tie is removed.', () => void this.attempt.run(this.kept.ties.add(kept.is)));
  }
}
