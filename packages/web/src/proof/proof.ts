/**
 * Proof, the verdict desk: whether the figure is the knot it claims to be and what rests on it; what each wrong crossing makes of it;
 * crossings, findings, tail and turns; the inspection card.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink } from '@angular/router';
import {
  boxWithPulls,
  type Edit,
  layoutsOf,
  figureInView,
  finishedFigure,
  crossingsOf,
  curveOf,
  crossingList,
  drawStep,
  heartBox,
  hostOf,
  howToSet,
  lengthTo,
  loadPulls,
  LOAD_WAYS,
  loosestFace,
  pointAt,
  capital,
  grippingTurns,
  hostWord,
  isOneEnd,
  strandWord,
  timesWord,
  requiredTail,
  ridingTurns,
  type PullSide,
  sameSetting,
  sayExits,
  ropeOf,
  sayLength,
  stepsOf,
  tailsOf,
  VIEWS,
  type Crossing,
  type Finding,
  type LoadWay,
  type TrailPosition,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { ShelfFacts } from '../knot/shelf-facts';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, map, of, switchMap } from 'rxjs';
import { Api } from '../data/api';
import { FindingsList } from '../ui/findings-list';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import { FormView } from '../form/form-view';
import { BesideForm } from './beside-form';
import { CardTab } from './card-tab';
import { LearnersTab } from './learners-tab';
import { MistakesTab } from './mistakes-tab';
import { VerdictTab } from './verdict-tab';

/** Values of the claim that are no pattern. */
const BY_NAME = '';
const NONE = 'none';
/** More crossings than this to swap is another drawing, not a slip. */
const MOST_PAIRED_SWAPS = 6;
/** Tabs by their place. */
const CROSSINGS_TAB = 2;

@Component({
  selector: 'ft-proof',
  imports: [
    MarkedFigure,
    FindingsList,
    VerdictTab,
    MistakesTab,
    LearnersTab,
    CardTab,
    BesideForm,
    FormView,
    RouterLink,
    MatTableModule,
    MatTabsModule,
    MatSelectModule,
    MatFormFieldModule,
    MatProgressBarModule,
    MatButtonModule,
    MatIconModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './proof.html',
  styleUrl: './proof.scss',
})
export class ProofPage {
  protected readonly store = inject(BenchStore);
  protected readonly insight = inject(Insight);
  protected readonly shelf = inject(ShelfFacts);
  private readonly api = inject(Api);
  protected readonly BY_NAME = BY_NAME;
  protected readonly NONE = NONE;
  protected readonly tab = signal(0);
  protected readonly columns = ['number', 'over', 'under', 'sign', 'swap'];
  /** The place that a finding points at, when it is not at a crossing. */
  private readonly place = signal<TrailPosition | undefined>(undefined);
  /** Crossings that a finding points at. */
  protected readonly marked = signal<ReadonlySet<number>>(new Set());
  private readonly method = computed(
    () => this.store.method() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  );
  protected readonly figure = computed(() => finishedFigure(this.method()));
  protected readonly name = computed(() => this.store.knot()?.name ?? 'Knot');
  protected readonly setting = computed(() => howToSet(this.method()), { equal: sameSetting });

  protected readonly views = computed(() =>
    VIEWS.map(({ view, name }) => {
      const figure = figureInView(this.figure(), view);
      const laid = drawStep(this.method(), Infinity, { view, labels: true });
      const loads = loadPulls(figure, this.loaded());
      const drawing = { ...laid, pulls: [...laid.pulls, ...loads] };
      const crossings = crossingsOf(figure).filter((c) => this.marked().has(c.number));
      const place = this.place();
      const rope = place && ropeOf(figure, place.strand);
      const points = [...crossings.map((c) => c.point), ...(rope ? [pointAt(curveOf(rope), place.at)] : [])];
      const marks = points.map((point): FigureMark => ({ point, kind: 'ring' }));
      return { view, name, drawing, box: boxWithPulls(heartBox(figure), loads), marks, note: NOTES[view] };
    }),
  );
  protected readonly crossings = computed(() =>
    crossingsOf(this.figure()).map((c) => ({
      number: c.number,
      over: this.placeOf(c.over),
      under: this.placeOf(c.under),
      sign: c.sign,
      crossing: c,
    })),
  );
  /** Rows stay where they are while crossings are swapped, so that no press on one of their buttons is lost. */
  protected readonly byNumber = (_index: number, row: { readonly number: number }): number => row.number;
  protected readonly findings = computed(() => this.insight.findings());
  protected readonly exits = computed(() => sayExits(this.figure(), this.store.vocabulary()));
  protected readonly spills = computed(() => this.insight.identity()?.spills ?? []);
  protected readonly closure = computed(() => this.insight.analysis()?.closure);
  /** The plan whose tails are asked for, where it leaves more than the house wants. */
  protected readonly byPlan = computed(() => {
    const { tail: own } = this.store.knot()?.entry ?? {};
    const { cordMm } = this.store.rules();
    return own && own.mm > requiredTail(this.store.houseTail(), cordMm) * cordMm ? own.plan : undefined;
  });
  protected readonly tails = computed(() => {
    const { tail, cordMm } = this.store.rules();
    const wanted = requiredTail(tail, cordMm);
    return tailsOf(this.figure()).map((t) => ({
      ...t,
      name: this.ropeName(t.rope),
      said: sayLength(t.length, cordMm),
      wanted: sayLength(wanted, cordMm),
      holds: !t.inside && t.length >= wanted - 0.05,
    }));
  });
  protected readonly windings = computed(() =>
    (this.insight.analysis()?.windings ?? []).map((w) => {
      const full = Math.floor(Math.abs(w.turns));
      return full === 0
        ? `${this.ropeName(w.rope)}: its windings about the spar cancel or do not close a turn.`
        : `${this.ropeName(w.rope)}: goes ${timesWord(full)} round the spar, the same way.`;
    }),
  );

  protected ropeName(id: string): string {
    return capital(strandWord(this.store.vocabulary(), this.figure(), id));
  }

  /** Where a passage lies, in words: rope, and how far along. */
  private placeOf(p: TrailPosition): string {
    const host = hostOf(this.figure(), p.strand);
    if (host) return hostWord(this.store.vocabulary(), host);
    const rope = ropeOf(this.figure(), p.strand);
    const along = rope ? lengthTo(curveOf(rope), p.at).toFixed(1) : '';
    const step = stepsOf(this.method()).find(
      ({ of, stretch }) =>
        of.figure === this.figure() && stretch?.rope === p.strand && p.at > stretch.from && p.at <= stretch.to,
    );
    const name =
      this.figure().ropes.length < 2
        ? ''
        : `${(this.store.vocabulary().ropes[this.figure().ropes.findIndex((r) => r.id === p.strand)] ?? p.strand).replace(' rope', '')}, `;
    return `${name}${along} d${step ? `, step ${step.index + 1}` : ''}`;
  }

  /** A whole number with its sign. */
  protected signed(n: number): string {
    return n < 0 ? `−${-n}` : n > 0 ? `+${n}` : '0';
  }

  /** What is proofed is the finished knot: its last layout is what is mended. */
  private editFinished(edit: Edit, group?: string): void {
    this.store.edit(edit, { layout: layoutsOf(this.method()).length - 1, group });
  }

  protected swap(crossing: Crossing): void {
    this.editFinished({ kind: 'swap', where: crossing.over });
  }

  protected readonly claim = computed(() => this.store.knot()?.entry.claim ?? BY_NAME);
  protected readonly tone = computed(() => {
    const state = this.insight.identity()?.verdict?.state;
    return state === 'holds' || state === 'fails' ? state : 'open';
  });
  /** Knots on the house's own shelf with this signature, looked up by its stored keys. */
  private readonly onTheShelf = toSignal(
    toObservable(computed(() => ({ keys: this.insight.identity()?.keys, id: this.shelf.card()?.id }))).pipe(
      distinctUntilChanged((a, b) => a.keys?.key === b.keys?.key && a.id === b.id),
      switchMap(({ keys, id }) =>
        keys
          ? this.api.identify({ ...keys, ...(id === undefined ? {} : { except: id }) }).pipe(
              map((found) => found.matches),
              // The shelf is a help, not a condition: without it the book still answers.
              catchError(() => of([])),
            )
          : of([]),
      ),
    ),
    { initialValue: [] },
  );
  protected readonly kin = computed(() => {
    const verdict = this.insight.identity()?.verdict;
    // The headline of a failed or missing claim already names the closest.
    const other = (verdict?.matches ?? [])
      .filter((m) => m.id !== verdict?.claim?.id)
      .slice(verdict?.state === 'fails' || verdict?.state === 'unclaimed' ? 1 : 0);
    const parts = [
      ...(other.length > 0
        ? [`In the pattern book also: ${other.map((m) => `${m.name} (${m.relation})`).join('; ')}.`]
        : []),
      ...(this.onTheShelf().length > 0
        ? [
            `On your shelf: ${this.onTheShelf()
              .slice(0, 4)
              .map((m) => `${m.name} (${m.relation})`)
              .join('; ')}.`,
          ]
        : []),
    ];
    return parts.length > 0 ? parts.join(' ') : undefined;
  });
  /** Swaps that make it what it claims: the fewest that the search found, else those in which it differs from the pattern's drawing. */
  protected readonly repair = computed(() => {
    if (!this.store.mayWrite()) return undefined;
    const identity = this.insight.identity();
    const found = identity?.repairs?.repairs ?? [];
    const [first] = found;
    if (first) {
      const others = found.length - 1;
      const note = `makes it what it claims${first.mirrored ? ', of the other hand' : ''}${others > 0 ? `; ${others} other ${others === 1 ? 'way' : 'ways'}` : ''}`;
      return { crossings: first.crossings, label: `Swap ${crossingList(first.crossings)}`, note };
    }
    const claim = identity?.verdict?.claim;
    const pairing = identity?.beside?.find((x) => x.id === claim?.id)?.pairing;
    if (identity?.verdict?.state !== 'fails' || pairing?.turned !== 'as drawn') return undefined;
    const crossings = pairing.pairs.filter((p) => !p.agrees).map((p) => p.a);
    if (crossings.length === 0 || crossings.length > MOST_PAIRED_SWAPS) return undefined;
    return { crossings, label: `Swap ${crossingList(crossings)}`, note: 'lays them as in the pattern' };
  });
  protected readonly noRepair = computed(() => {
    const found = this.insight.identity()?.repairs;
    if (!found || found.repairs.length > 0) return undefined;
    return found.complete
      ? 'No one or two swaps make it what it claims. Compare it with the pattern below.'
      : 'The search for a repair was stopped before it was through.';
  });

  protected setClaim(value: string): void {
    const knot = this.store.knot();
    if (!knot || value === this.claim()) return;
    const { claim: _claim, ...rest } = knot.entry;
    const entry = value === BY_NAME ? rest : { ...rest, claim: value };
    this.store.edit({ kind: 'entry', name: knot.name, entry });
  }

  /** Against one end alone is said of loops in mid-rope. */
  protected readonly loadWays = computed(() => {
    const inMidRope = this.figure().ropes.some((r) => (r.eyes ?? []).length > 0 && !r.ends.includes('tail'));
    return LOAD_WAYS.filter((way) => inMidRope || !isOneEnd(way) || this.loaded().includes(way));
  });
  protected readonly loaded = computed((): readonly LoadWay[] => this.store.knot()?.entry.loaded ?? []);
  protected setLoaded(ways: readonly LoadWay[]): void {
    const knot = this.store.knot();
    if (!knot || JSON.stringify(ways) === JSON.stringify(this.loaded())) return;
    const { loaded: _loaded, ...rest } = knot.entry;
    const entry = ways.length === 0 ? rest : { ...rest, loaded: [...ways] };
    this.store.edit({ kind: 'entry', name: knot.name, entry });
  }

  protected readonly pull = computed(() => this.store.knot()?.entry.pull ?? '');
  /** The ways it may be pulled that its turns tell apart; none where no turn of it grips one way only. */
  protected readonly pulls = computed((): readonly { readonly side: PullSide; readonly says: string }[] => {
    const figure = this.figure();
    const [first] = figure.hosts;
    if (!first) return [];
    const host = hostWord(this.store.vocabulary(), first);
    if (figure.ropes.some((r) => grippingTurns(figure, r)))
      return [
        { side: 'toward', says: `along its standing part, toward the ${host}` },
        { side: 'away', says: `along its standing part, away from the ${host}` },
      ];
    if (figure.ropes.some((r) => figure.hosts.some((h) => ridingTurns(figure, r, h))))
      return [
        { side: 'left', says: `along the ${host}, to the left` },
        { side: 'right', says: `along the ${host}, to the right` },
      ];
    return [];
  });
  protected readonly loosest = computed(() => loosestFace(this.figure())?.across.toFixed(0));

  protected setPull(value: '' | PullSide): void {
    const knot = this.store.knot();
    if (!knot || value === this.pull()) return;
    const { pull: _pull, ...rest } = knot.entry;
    this.store.edit({ kind: 'entry', name: knot.name, entry: value === '' ? rest : { ...rest, pull: value } });
  }

  /** Swaps the crossings of the repair; one undo takes it back. */
  protected mend(): void {
    const numbers = this.repair()?.crossings ?? [];
    const crossings = crossingsOf(this.figure()).filter((c) => numbers.includes(c.number));
    for (const c of crossings) this.editFinished({ kind: 'swap', where: c.over }, `repair-${numbers.join('-')}`);
  }

  /** Rings what a finding speaks of: its crossings when it names them, else its place on the trail. */
  protected point(f: Finding): void {
    this.tab.set(CROSSINGS_TAB);
    const here = f.layout === undefined || f.layout === layoutsOf(this.method()).length - 1;
    this.marked.set(new Set(here ? (f.crossings ?? []) : []));
    this.place.set(f.crossings || !here ? undefined : f.place);
  }

  protected fix(f: Finding): void {
    if (f.fix) this.store.edit(f.fix.edit, { layout: f.fix.layout });
  }
}

const NOTES = {
  front: 'As it is drawn',
  back: 'The same knot seen from behind',
  left: 'Its mirror image',
} as const;
