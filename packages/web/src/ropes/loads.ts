/**
 * Loads: two legs, turns round a spar, friction cords, unlike ropes, and what a line with a knot in it may be loaded with. Planning help, no
 * certification.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { isWebbing, PRACTICE_NAMES } from '@foxtrail/core';
import {
  CAUTIOUS,
  CONDITION_FACTORS,
  CORD_BANDS,
  cordJudged,
  FRICTIONS,
  holdsLoad,
  legForces,
  sayKn,
  testedShare,
  testGroups,
  turnsToHold,
  UNITS_OF_FORCE,
  unlikeRopes,
  workingLimit,
  type StockRope,
  type StrengthSource,
  type TwoLegs,
  type UnitOfForce,
} from '@foxtrail/core/ropes';
import { RopesService } from '../data/ropes';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { Select } from '../ui/select';
import { MeasureField } from './measure-field';
import { TwoLegsView } from './two-legs';

const SURFACES = ['wood', 'smooth metal', 'rope'] as const;
const MOST_TURNS = 6;
const percent = (share: number): string => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

@Component({
  selector: 'ft-loads',
  imports: [MatButtonModule, RouterLink, Chart, MeasureField, Select, TwoLegsView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './loads.html',
  styleUrl: './loads.scss',
})
export class LoadsPage {
  private readonly kept = inject(RopesService);
  protected readonly units = UNITS_OF_FORCE;
  protected readonly unit = signal<UnitOfForce>('kN');
  protected say = (kn: number): string => sayKn(kn, this.unit());
  protected readonly percent = percent;
  protected readonly load = signal<number | null>(2);
  protected readonly loadKn = computed(() => this.load() ?? 0);

  // Two legs.
  protected readonly kinds = [
    { value: 'fixed' as const, name: 'fixed: knotted at the load' },
    { value: 'equalised' as const, name: 'equalised: the load slides' },
  ];
  protected readonly legs = signal<TwoLegs>({ span: 2000, rise: 0, legs: 'fixed', first: 2000, second: 2000 });
  protected readonly forces = computed(() => legForces(this.legs()));
  protected readonly legsSay = computed(() => {
    const found = this.forces();
    if (!found.ok) return `${found.reason} ${found.remedy}`;
    const { first, second, between, slack } = found.value;
    if (slack) return `The ${slack} leg hangs slack: the other carries all of the load.`;
    const most = Math.max(first, second);
    const degrees = Math.round((between * 180) / Math.PI);
    if (most > 1 - 1e-9) return `At ${degrees}° a leg carries as much as the whole load, or more: lengthen the legs.`;
    if (degrees > 90)
      return `At ${degrees}° each leg carries up to ${percent(most)} of the load: longer legs carry less.`;
    return `At ${degrees}° a leg carries ${percent(most)} of the load at most.`;
  });
  protected change(more: Partial<TwoLegs>): void {
    this.legs.update((l) => ({ ...l, ...more }));
  }

  // Turns.
  /** What a hand holds is told in newtons. */
  private sayHeld(kn: number): string {
    if (this.unit() !== 'kN' || kn >= 0.1) return this.say(kn);
    return kn < 0.001 ? 'less than 1 N' : sayKn(kn, 'N');
  }
  protected readonly surfaces = SURFACES;
  protected readonly surface = signal<(typeof SURFACES)[number]>('wood');
  protected readonly turns = signal(3);
  protected readonly held = computed(() => {
    const range = FRICTIONS[this.surface()];
    const [least, most] = holdsLoad(this.turns(), range);
    return {
      says: `${this.sayHeld(least * this.loadKn())} to ${this.sayHeld(most * this.loadKn())}`,
      sure: turnsToHold(range),
      range: range.join(' to '),
    };
  });
  protected readonly turnsTable = computed(() =>
    Array.from({ length: MOST_TURNS }, (_, i) => {
      const [least, most] = holdsLoad(i + 1, FRICTIONS[this.surface()]);
      return { turns: i + 1, least, most };
    }),
  );
  protected readonly turnsChart = computed(() => {
    const rows = this.turnsTable();
    return (c: ChartColours): ChartShown => ({
      data: (['most', 'least'] as const).map((key, i) => ({
        type: 'scatter',
        mode: 'lines+markers',
        x: rows.map((r) => r.turns),
        y: rows.map((r) => 100 * r[key]),
        line: { color: i === 0 ? c.bad : c.good, width: 3, dash: i === 0 ? 'solid' : 'dash' },
        fill: i === 0 ? 'none' : 'tonexty',
        fillcolor: 'rgba(140,140,140,0.18)',
        hovertemplate: `%{x} turns, ${i === 0 ? 'slippery' : 'rough'}: %{y:.2g} %<extra></extra>`,
      })),
      layout: {
        margin: { l: 68, r: 12, t: 8, b: 44 },
        xaxis: { title: { text: 'turns' }, dtick: 1, fixedrange: true, color: c.ink, gridcolor: c.line },
        yaxis: {
          type: 'log',
          title: { text: '% to be held' },
          fixedrange: true,
          color: c.ink,
          gridcolor: c.line,
          range: [-3, 2],
          tickvals: [0.001, 0.01, 0.1, 1, 10, 100],
          ticktext: ['0.001', '0.01', '0.1', '1', '10', '100'],
        },
      },
    });
  });

  // Ropes of the stock.
  protected readonly stock = computed(() => this.kept.ropes.list().map((k) => ({ value: k.id, name: k.is.name })));
  private ropeOf = (id: string): StockRope | undefined => this.kept.ropes.find(id)?.is;
  /** What is chosen to begin with: of the ropes in use, by their thickness. */
  private readonly byThickness = this.kept.ropes
    .list()
    .filter((k) => k.is.condition !== 'retired' && !isWebbing({ construction: k.is.construction }))
    .sort((a, b) => a.is.diameterMm - b.is.diameterMm)
    .map((k) => k.id);
  private readonly thinnest = this.byThickness[0] ?? '';
  private readonly thickest = this.byThickness.at(-1) ?? '';
  protected readonly cord = signal(this.thinnest);
  protected readonly gripped = signal(this.thickest);
  protected readonly cordSays = computed(() => {
    const [cord, rope] = [this.ropeOf(this.cord()), this.ropeOf(this.gripped())];
    if (!cord || !rope) return undefined;
    return {
      ratio: percent(cord.diameterMm / rope.diameterMm),
      schools: (Object.keys(CORD_BANDS) as (keyof typeof CORD_BANDS)[]).map((school) => ({
        school: PRACTICE_NAMES[school],
        band: CORD_BANDS[school].map(percent).join(' to '),
        ...cordJudged(cord.diameterMm, rope.diameterMm, CORD_BANDS[school]),
      })),
    };
  });
  protected readonly one = signal(this.thickest);
  protected readonly other = signal(this.thinnest);
  protected readonly unlike = computed(() => {
    const [a, b] = [this.ropeOf(this.one()), this.ropeOf(this.other())];
    if (!a || !b) return undefined;
    const found = unlikeRopes(a, b);
    return { ...found, bightOf: found.bight === 'either' ? 'either' : found.bight === 'first' ? a.name : b.name };
  });

  // What a line may be loaded with.
  readonly line = signal(
    this.kept.ropes.list().find((k) => k.is.breakingKn !== null && k.is.condition !== 'retired')?.id ?? this.thickest,
  );
  constructor() {
    // Without the log the house's figure and the maker's are there.
    this.kept.ensure(this.kept.tests).subscribe({ error: () => undefined });
  }
  private readonly groups = computed(() => testGroups(this.kept.tests.list().map((k) => k.is)));
  protected readonly knots = computed(() => {
    const rope = this.ropeOf(this.line());
    return this.groups()
      .filter((g) => g.knot !== null && g.kept && g.ropeName === rope?.name)
      .map((g) => ({ value: g.knotName, name: g.knotName }));
  });
  readonly knot = signal('');
  readonly makers = signal<string>('');
  protected readonly safety = signal(10);
  readonly limit = computed(() => {
    const rope = this.ropeOf(this.line());
    if (!rope) return undefined;
    if (rope.breakingKn === null)
      return { rope, trouble: 'Its breaking load is not known: enter it in the stock, with its source.' };
    const sources: StrengthSource[] = [{ says: 'the house’s cautious figure for any knot', share: CAUTIOUS.knotted }];
    const group = this.groups().find((g) => g.knotName === this.knot() && g.knot !== null && g.ropeName === rope.name);
    const tested = group && testedShare(group);
    if (tested) sources.push(tested);
    const makers = Number(this.makers());
    if (this.makers().trim() !== '' && makers > 0 && makers <= 100)
      sources.push({ says: 'the maker’s figure, as it is written here', share: makers / 100 });
    else if (rope.knottedShare !== null)
      sources.push({ says: 'the maker’s figure, of the stock', share: rope.knottedShare });
    const found = workingLimit(rope.breakingKn, sources, rope.condition, this.safety());
    if (!found)
      return { rope, trouble: 'A safety factor is one or more: what is usual in your trade is for you to look up.' };
    return { rope, found, factor: CONDITION_FACTORS[rope.condition] };
  });
}
