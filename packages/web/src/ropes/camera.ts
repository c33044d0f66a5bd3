/**
 * For the camera: whether ropes are large enough in the picture, whether they are told apart by whoever looks, and what is to be filmed, shot by
 * shot.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { KNOT_ROUTES } from '@foxtrail/contract';
import { readKnot, WORKSHOP_WORDS, type KnotDocument } from '@foxtrail/core';
import { shotList, type ShotToFilm } from '@foxtrail/core/reel';
import {
  contrastOf,
  distanceFor,
  fittingDiameters,
  handlingAdvice,
  inPicture,
  LEAST_ROPE_PX,
  isTakenFor,
  ropesForTakes,
  toldApartFrom,
  type StockRope,
  type Vision,
} from '@foxtrail/core/ropes';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { WordsService } from '../data/words';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { MeasureField } from './measure-field';
import { RopeSwatch } from './rope-swatch';
import { lengthsSaid } from './lengths-said';

/** Boards that are laid under ropes, by what they are. */
const BOARDS = [
  { value: '#f4eee2', name: 'paper board' },
  { value: '#ffffff', name: 'white' },
  { value: '#8a8f93', name: 'grey cloth' },
  { value: '#b08d57', name: 'wood' },
  { value: '#23282d', name: 'black cloth' },
] as const;
const FILMED = [1280, 1920, 3840].map((value) => ({ value, name: `${value} pixels` }));
const SEEN = [
  { value: 390, name: 'a phone, upright' },
  { value: 844, name: 'a phone, lying' },
  { value: 1280, name: 'a laptop' },
];
const LOST: Readonly<Record<Vision, string>> = {
  usual: 'nobody',
  protanopia: 'not by who does not see red',
  deuteranopia: 'not by who does not see green',
  tritanopia: 'not by who does not see blue',
};
const ticksKey = (knot: string, reel: string): string => `shots ${knot} ${reel}`;

@Component({
  selector: 'ft-camera',
  imports: [
    RouterLink,
    MatButtonModule,
    MatCheckboxModule,
    MatSelectModule,
    MeasureField,
    RopeSwatch,
    Select,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './camera.html',
  styleUrl: './camera.scss',
})
export class CameraPage {
  private readonly kept = inject(RopesService);
  private readonly kin = inject(KinService);
  private readonly api = inject(Api);
  private readonly words = inject(WordsService);
  protected readonly sayMm = lengthsSaid();
  protected readonly boards = BOARDS;
  protected readonly filmedWidths = FILMED;
  protected readonly seenWidths = SEEN;

  protected readonly field = signal<number | null>(320);
  protected readonly angle = signal(60);
  protected readonly filmedPx = signal(1920);
  protected readonly seenPx = signal(390);
  private readonly framing = computed(() => ({
    fieldMm: this.field() ?? 320,
    filmedPx: this.filmedPx(),
    seenPx: this.seenPx(),
  }));
  protected readonly distance = computed(() =>
    this.sayMm(distanceFor(this.framing().fieldMm, (this.angle() * Math.PI) / 180)),
  );
  protected readonly fitting = computed(() => {
    const [least, most] = fittingDiameters(this.framing());
    return least < most ? `${least.toFixed(0)} to ${most.toFixed(0)} mm` : undefined;
  });
  protected readonly sizes = computed(() =>
    this.kept.ropes.list().map(({ id, is }) => {
      const seen = inPicture(is.diameterMm, this.framing());
      return {
        id,
        is,
        seen,
        pixels: `${seen.seenPx.toFixed(0)} px`,
        filmed: `${seen.filmedPx.toFixed(0)} px filmed`,
        gap: this.sayMm(seen.leastGapMm),
        handling: handlingAdvice(is),
      };
    }),
  );

  // Colours.
  protected readonly board = signal<string>(BOARDS[0].value);
  protected readonly stock = computed(() => this.kept.ropes.list());
  private readonly picked = signal<readonly string[] | undefined>(undefined);
  protected readonly chosenIds = computed(
    () =>
      this.picked() ??
      this.stock()
        .filter((k) => k.is.condition !== 'retired')
        .slice(0, 3)
        .map((k) => k.id),
  );
  protected pick(ids: readonly string[]): void {
    this.picked.set(ids);
  }
  private readonly chosen = computed(() =>
    this.stock()
      .filter((k) => this.chosenIds().includes(k.id))
      .map((k) => k.is),
  );
  protected readonly pairs = computed(() => {
    const [ropes, board] = [this.chosen(), this.board()];
    const boardName = BOARDS.find((b) => b.value === board)?.name ?? 'the board';
    const told = (a: string, b: string, first: string, second: string) => {
      const { ratio, lost } = contrastOf(first, second);
      return {
        key: `${a} ${b}`,
        a,
        b,
        first,
        second,
        ratio: `${ratio.toFixed(1)} to 1`,
        lost: lost.includes('usual') ? ['taken for each other by everybody'] : lost.map((v) => LOST[v]),
      };
    };
    return ropes.flatMap((rope, i) => [
      told(rope.name, boardName, rope.colour, board),
      ...ropes.slice(0, i).map((other) => told(rope.name, other.name, rope.colour, other.colour)),
    ]);
  });
  /** For a rope that is not told apart: others of the stock that would be. */
  protected readonly better = computed(() => {
    const [ropes, board] = [this.chosen(), this.board()];
    return ropes.flatMap((rope) => {
      const others = ropes.filter((o) => o !== rope);
      if (!isTakenFor(rope, others, board)) return [];
      const fit = (r: StockRope): boolean => r.name !== rope.name && r.condition !== 'retired';
      const found = toldApartFrom(
        this.stock()
          .map((k) => k.is)
          .filter(fit),
        others,
        board,
        rope.diameterMm,
      );
      return [
        {
          rope: rope.name,
          says:
            found.length === 0
              ? 'none of the stock of about its size would be told apart by everybody'
              : found
                  .slice(0, 3)
                  .map((r) => r.name)
                  .join(', or '),
        },
      ];
    });
  });

  // Shots.
  protected readonly attempt = new Attempt();
  protected readonly knots = computed(() =>
    this.kin
      .nodes()
      .filter((n) => !n.ofBook)
      .map((n) => ({ value: n.id, name: n.name })),
  );
  private readonly knot = signal<{ id: string; document: KnotDocument } | undefined>(undefined);
  protected readonly knotId = computed(() => this.knot()?.id ?? '');
  protected readonly reels = computed(() => (this.knot()?.document.method.reels ?? []).map((r) => r.name));
  protected readonly reel = signal('');
  private readonly ticked = signal<readonly number[]>([]);
  /** The rope that is filmed; absent: the knot's own cord. */
  protected readonly take = signal('');
  protected readonly takes = computed(() =>
    this.stock()
      .filter((k) => k.is.condition !== 'retired')
      .map((k) => ({ value: k.id, name: `${k.is.name}, ${k.is.diameterMm} mm` })),
  );
  protected readonly shots = computed(() => {
    const knot = this.knot();
    if (!knot) return [];
    const { method, name, entry } = knot.document;
    const reel = method.reels?.find((r) => r.name === this.reel());
    const words = this.words.vocabulary(entry) ?? WORKSHOP_WORDS;
    const cordMm = this.kept.ropes.find(this.take())?.is.diameterMm ?? entry.cord.diameterMm;
    return shotList({ method, name, words, pace: 'normal' }, reel).map((shot) => ({
      ...shot,
      wideSays: this.sayMm(shot.wide * cordMm),
      pixels: `${(this.seenPx() / shot.wide).toFixed(0)} px`,
      thin: this.seenPx() / shot.wide < LEAST_ROPE_PX,
      freeSays:
        shot.free.length === 0 ? '' : `${shot.free.length === 1 ? 'crossing' : 'crossings'} ${shot.free.join(', ')}`,
      done: this.ticked().includes(shot.number),
    }));
  });
  /** The ropes that plans have for this knot, of which a take is tied. */
  protected readonly ropesPlanned = computed(() =>
    this.knotId() === ''
      ? []
      : ropesForTakes(
          this.kept.plans.list().map((p) => p.is),
          { ref: `knot:${this.knotId()}`, name: this.knot()?.document.name ?? '' },
          this.kept.tiesOf(),
        ).map((r) => ({
          key: `${r.plan} ${r.rope}`,
          says: `${r.rope} (plan “${r.plan}”): ${this.sayMm(r.oneMm)} for a take${r.takes > 1 ? `, ${this.sayMm(r.allMm)} for the ${r.takes} it is planned for` : ''}`,
        })),
  );
  protected readonly done = computed(() => this.shots().filter((s) => s.done).length);

  constructor() {
    if (!this.kin.kin()) void this.attempt.run(this.kin.load());
    this.words.load().subscribe({ error: () => undefined });
  }

  protected open(id: string): void {
    if (id === '') return;
    void this.attempt.run(this.api.call(KNOT_ROUTES.read, { parameters: { id } }), ({ document }) => {
      const read = readKnot(document);
      if (!read.ok) {
        this.attempt.trouble.set(`${read.reason} ${read.remedy}`);
        return;
      }
      this.knot.set({ id, document: read.value });
      this.reel.set('');
      this.readTicks();
    });
  }
  protected openReel(name: string): void {
    this.reel.set(name);
    this.readTicks();
  }

  private readTicks(): void {
    // Numbers with commas between: what is none of them is passed over.
    const kept = localStorage.getItem(ticksKey(this.knotId(), this.reel())) ?? '';
    this.ticked.set(
      kept
        .split(',')
        .map(Number)
        .filter((n) => Number.isInteger(n) && n > 0),
    );
  }
  protected tick({ number }: ShotToFilm, done: boolean): void {
    this.ticked.update((t) => (done ? [...t, number] : t.filter((n) => n !== number)));
    localStorage.setItem(ticksKey(this.knotId(), this.reel()), this.ticked().join(','));
  }

  protected print(): void {
    globalThis.print();
  }
}
