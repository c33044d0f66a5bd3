/**
 * The laying tools that ask for more than a stroke: wrap, retrace, bight, twist. Each proposes an edit, which the board shows as it
 * would be; laying it makes it the knot.
 */
import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  changeLayout,
  atLength,
  curveOf,
  directionAt,
  lastAt,
  lengthOf,
  lengthTo,
  nearestOn,
  pointAt,
  ropeOf,
  sayRefusal,
  SPACINGS,
  strandWord,
  type BightLeader,
  type Edit,
  type Letter,
  type Point,
  type Rope,
  type TrailPosition,
  type Wrap,
} from '@foxtrail/core';
import { DraftState, type Chosen } from './draft-state';
import { Laying } from './laying';
import { MoveTool, type MoveInHand } from './move-tool';
import { placeAt } from './strand-at';
import { fitStroke, type Sample } from './stroke';
import { UnderKey } from './under-key';

export type LayingTool = 'move' | 'wrap' | 'retrace' | 'bight' | 'twist';

/** A strand or host that a wrap can go round, or that can be followed. */
export interface Choice {
  readonly id: string;
  readonly name: string;
  readonly chosen: boolean;
}

@Injectable()
export class LayingTools {
  private readonly state = inject(DraftState);
  private readonly underKey = inject(UnderKey);
  private readonly laying = inject(Laying);
  readonly moves = inject(MoveTool);

  readonly kind = signal<LayingTool | null>(null);
  /** Which of the rope's wraps is laid anew; none: a new one is laid. */
  readonly wrap = signal<number | null>(null);
  readonly about = signal<readonly TrailPosition[]>([]);
  readonly turns = signal(2);
  readonly direction = signal<Wrap['direction']>('on');
  readonly first = signal<Letter>('O');
  readonly spacing = signal<number>(SPACINGS.usual);
  readonly riding = signal(false);
  /** The rope’s last bight goes round, and not its end. */
  readonly ofBight = signal(false);
  /** The stretch that is followed or turned: lengths along the strand, in diameters. */
  readonly strand = signal<string | null>(null);
  readonly from = signal(0);
  readonly to = signal(0);
  readonly side = signal<'left' | 'right'>('left');
  readonly halfTurns = signal(1);
  /** Where a bight is drawn out, and the way of its apex. */
  readonly place = signal<TrailPosition | null>(null);
  readonly path = signal<readonly Sample[]>([]);

  /** The knot as it is, without what is proposed. */
  private readonly figure = this.state.figureLaid;
  readonly rope = this.state.activeRopeLaid;
  /** The rope's wraps in words. */
  readonly wraps = computed(() =>
    (this.rope()?.wraps ?? []).map((w, i) => ({
      index: i,
      name: `${w.turns} ${w.turns === 1 ? 'turn' : 'turns'} round ${w.about.map((p) => this.nameOf(p.strand)).join(' and ')}`,
    })),
  );
  readonly choices = computed<Choice[]>(() => {
    const kind = this.kind();
    const meant = kind === 'move' ? this.moves.about()?.strand : this.strand();
    const chosen = new Set(kind === 'wrap' ? this.about().map((p) => p.strand) : [meant ?? '']);
    const { ropes, hosts } = this.figure();
    const strands = kind === 'wrap' || kind === 'move' ? [...hosts, ...ropes] : ropes;
    return strands.map((s) => ({ id: s.id, name: this.nameOf(s.id), chosen: chosen.has(s.id) }));
  });
  /** Whole length of the strand that a stretch is chosen on, in diameters. */
  readonly length = computed(() => {
    const s = ropeOf(this.figure(), this.strand() ?? '');
    return s ? Math.round(lengthOf(curveOf(s)) * 10) / 10 : 0;
  });

  readonly edit = computed<Edit | undefined>(() => {
    const rope = this.rope();
    if (this.kind() === 'move') {
      const made = this.moves.edit();
      return made?.ok === true ? made.value : undefined;
    }
    if (!rope) return undefined;
    const options = {
      turns: this.turns(),
      direction: this.direction(),
      first: this.first(),
      spacing: this.spacing(),
      riding: this.riding(),
    };
    switch (this.kind()) {
      case 'wrap': {
        const wrap = this.wrap();
        if (wrap !== null) return { kind: 'rewrap', rope: rope.id, wrap, ...options };
        if (this.about().length === 0) return undefined;
        const bight = this.ofBight() ? this.lastBight() : undefined;
        return bight
          ? { kind: 'wrap-bight', rope: rope.id, from: bight.from, to: bight.to, about: this.about(), ...options }
          : this.state.withTip({ kind: 'wrap', rope: rope.id, about: this.about(), ...options });
      }
      case 'retrace': {
        const strand = this.strand();
        const s = strand === null ? undefined : ropeOf(this.figure(), strand);
        if (!s || strand === null) return undefined;
        const [from, to] = [atLength(curveOf(s), this.from()), atLength(curveOf(s), this.to())];
        return this.state.withTip({
          kind: 'retrace',
          rope: rope.id,
          along: { strand, from, to },
          side: this.side(),
        });
      }
      case 'twist': {
        const s = ropeOf(this.figure(), this.strand() ?? '');
        if (!s) return undefined;
        const at = (length: number): number => Math.round(atLength(curveOf(s), length));
        const [from, to] = [Math.min(this.from(), this.to()), Math.max(this.from(), this.to())];
        return { kind: 'twist', rope: s.id, from: at(from), to: at(to), halfTurns: this.halfTurns() };
      }
      case 'bight': {
        const place = this.place();
        if (!place || this.path().length === 0) return undefined;
        return { kind: 'bight', rope: place.strand, at: place.at, ...this.wovenOr(fitBight(this.path())) };
      }
      case 'move':
      case null:
        return undefined;
    }
  });
  /** With the weave on, what is not drawn under passes over and under by turns. */
  private wovenOr({ points, pass }: { points: Point[]; pass: string }): { points: Point[]; pass: string } {
    return { points, pass: this.underKey.weaving() ? pass.replaceAll('O', 'W') : pass };
  }

  /** Why what is proposed cannot be laid. */
  readonly refusal = computed(() => {
    if (this.kind() === 'move') {
      const made = this.moves.hovering() ? undefined : this.moves.edit();
      if (made && !made.ok) return sayRefusal(made);
    }
    const [edit, method] = [this.edit(), this.state.laid()];
    if (!edit || !method) return '';
    const done = changeLayout(method, edit);
    return done.ok ? '' : sayRefusal(done);
  });

  constructor() {
    effect(() => this.state.proposal.set(this.kind() === null ? undefined : this.edit()));
  }

  private nameOf(id: string): string {
    const [only, ...others] = this.figure().ropes;
    return only?.id === id && others.length === 0 ? 'its own part' : strandWord(this.state.words(), this.figure(), id);
  }

  /** Takes a tool in hand; the same one again puts it away. */
  take(kind: LayingTool): void {
    if (this.kind() === kind && kind !== 'move') {
      this.put();
      return;
    }
    const rope = this.rope();
    if (!rope && kind !== 'move') {
      this.state.message.set('Lay a rope first.');
      return;
    }
    const chosen = this.state.chosen();
    this.state.clear();
    this.state.tool.set('lay');
    this.state.view.set('front');
    this.about.set([]);
    this.wrap.set(null);
    this.ofBight.set(false);
    this.place.set(null);
    this.path.set([]);
    const end = rope ? lengthOf(curveOf(rope)) : 0;
    if (rope && kind === 'retrace') {
      // Most often the end goes back along its own rope, or along the other one, from its tail to its standing part.
      const other = this.figure().ropes.find((r) => r.id !== rope.id) ?? rope;
      this.strand.set(other.id);
      const near = nearestOn(curveOf(other), this.state.tip() ?? (rope.points.at(-1) as Point)).at;
      this.from.set(other === rope ? Math.round(end - 4) : Math.round(lengthTo(curveOf(other), near)));
      this.to.set(this.from() > lengthOf(curveOf(other)) / 2 ? 1 : Math.floor(lengthOf(curveOf(other))));
      if (other !== rope) this.followOnItsSide(other);
    } else if (rope) {
      this.strand.set(rope.id);
      this.from.set(Math.round(end * 0.3));
      this.to.set(Math.round(end * 0.7));
    }
    this.kind.set(kind);
    this.state.message.set(this.hint());
    if (kind === 'bight') this.placeAt(chosen);
  }

  /** Takes a move in hand; the same one again puts it away. */
  takeMove(kind: MoveInHand): void {
    if (this.kind() === 'move' && this.moves.kind() === kind) {
      this.put();
      return;
    }
    this.take('move');
    if (this.kind() === 'move') this.moves.take(kind);
  }

  put(): void {
    this.moves.letGo();
    this.kind.set(null);
    this.state.message.set('');
  }

  /** Chooses what a wrap goes round, or the strand that is followed. */
  choose(id: string, at?: number): void {
    if (this.kind() === 'move') {
      this.moves.choose(id);
      return;
    }
    const strand = ropeOf(this.figure(), id) ?? this.figure().hosts.find((h) => h.id === id);
    const tip = this.state.tip() ?? this.rope()?.points.at(-1);
    if (!strand || !tip) return;
    if (this.kind() !== 'wrap') {
      this.strand.set(id);
      const whole = lengthOf(curveOf(strand));
      this.from.set(Math.min(this.from(), whole));
      this.to.set(Math.min(this.to(), whole));
      return;
    }
    this.wrap.set(null);
    const place: TrailPosition = { strand: id, at: at ?? this.besideTip(strand, tip) };
    const there = this.about().some((p) => p.strand === id && (at === undefined || Math.abs(p.at - at) < 2));
    this.about.update((list) => (there ? list.filter((p) => p.strand !== id) : [...list, place]));
  }

  /** The place on a strand nearest to the end; of its own rope, on the part that was laid before. */
  private besideTip(strand: { readonly id: string; readonly points: readonly Point[] }, tip: Point): number {
    const s = (ropeOf(this.figure(), strand.id) ?? this.figure().hosts.find((h) => h.id === strand.id)) as Rope;
    const curve = curveOf(s);
    if (strand.id !== this.rope()?.id) return nearestOn(curve, tip).at;
    const limit = lengthOf(curve) - 6;
    let best = { at: 0, away: Infinity };
    for (let l = 0; l < limit; l += 0.5) {
      const at = atLength(curve, l);
      const p = curve.line[
        Math.min(
          curve.line.length - 1,
          curve.lineAt.findIndex((x) => x >= at),
        )
      ] as Point;
      const away = Math.hypot(p[0] - tip[0], p[1] - tip[1]);
      if (away < best.away) best = { at, away };
    }
    return best.at;
  }

  /** Takes one of the rope's wraps in hand again. */
  rewrap(index: number | null): void {
    const wrap = index === null ? undefined : this.rope()?.wraps?.[index];
    this.wrap.set(wrap ? index : null);
    if (!wrap) return;
    this.about.set(wrap.about);
    this.turns.set(wrap.turns);
    this.direction.set(wrap.direction);
    this.first.set(wrap.first);
    this.spacing.set(wrap.spacing);
    this.riding.set(wrap.riding === true);
  }

  /** The last bight on the rope in hand. */
  readonly lastBight = computed(() =>
    this.state
      .laid()
      ?.leaders.filter((l): l is BightLeader => l.kind === 'bight' && l.rope === this.rope()?.id)
      .at(-1),
  );

  /** The end is drawn out through the rope's last bight. */
  pullThrough(): void {
    const bight = this.lastBight();
    if (!bight) return;
    if (!this.state.do({ kind: 'pull-through', rope: bight.rope, from: bight.from, to: bight.to })) return;
    this.kind.set(null);
    this.state.message.set('The end is pulled through: nothing is slipped any more.');
  }

  /** A press on the board; tells whether a stroke begins with it, which is the way of a bight. */
  press(at: Point, under: boolean): boolean {
    if (this.kind() === 'move') {
      if (this.moves.point(at)) this.lay();
      else this.state.message.set(this.moves.says());
      return false;
    }
    const nearest = placeAt(this.figure(), at, { hosted: this.kind() === 'wrap' });
    if (this.kind() === 'bight') {
      // Once its place is chosen, a press is a place on its way, however near a strand.
      if (this.place()) this.path.update((p) => [...p, { point: at, under }]);
      else if (nearest) this.place.set(nearest);
      else this.state.message.set(HINTS.bight);
      return this.place() !== null;
    }
    if (!nearest) return false;
    if (this.kind() === 'wrap') this.choose(nearest.strand, nearest.at);
    else {
      const s = ropeOf(this.figure(), nearest.strand);
      if (!s) return false;
      const length = Math.round(lengthTo(curveOf(s), nearest.at) * 10) / 10;
      // Presses set the beginning and the end of the stretch by turns.
      if (this.strand() !== nearest.strand || this.begun) this.from.set(length);
      else this.to.set(length);
      this.begun = !(this.strand() !== nearest.strand || this.begun);
      this.strand.set(nearest.strand);
    }
    return false;
  }
  private begun = true;

  /** The end follows on the side of the strand on which it lies; on the other it would have to cross it first. */
  private followOnItsSide(followed: Rope): void {
    const tip = this.state.tip() ?? this.rope()?.points.at(-1);
    if (!tip) return;
    const curve = curveOf(followed);
    const at = atLength(curve, this.from());
    const [[x, y], [dx, dy]] = [pointAt(curve, at), directionAt(curve, at)];
    this.side.set((tip[0] - x) * dy - (tip[1] - y) * dx >= 0 ? 'left' : 'right');
  }

  /** The stroke of a bight goes on. */
  draw(sample: Sample): void {
    this.path.update((p) => [...p, sample]);
  }

  /** Lays what is proposed. */
  lay(): void {
    const edit = this.edit();
    if (!edit) {
      this.state.message.set(this.refusal() || this.hint());
      return;
    }
    if (this.kind() === 'move') {
      this.layMove(edit);
      return;
    }
    const said = saying(edit);
    const again = this.wrap();
    if (!this.state.do(edit)) return;
    this.kind.set(null);
    if (edit.kind !== 'rewrap' || again === null) this.state.step.set(null);
    this.state.message.set(said);
  }

  /** Lays the move that is shown; the tool stays in hand for the next one. */
  private layMove(edit: Edit): void {
    const before = this.rope()?.points.length ?? 0;
    if (!this.state.do(edit)) return;
    this.moves.letGo();
    this.state.step.set(null);
    this.state.message.set(
      this.laying.saying(edit, before) || 'The sling is laid. Its legs are an eye, meant to stay.',
    );
  }

  private hint(): string {
    const kind = this.kind() ?? 'wrap';
    return kind === 'move' ? this.moves.says() : HINTS[kind];
  }

  /** By keys, a bight is drawn out at the point or place that was chosen; the pencil begins there. */
  private placeAt(chosen: Chosen | null): void {
    const place =
      chosen?.kind === 'point'
        ? { strand: chosen.strand, at: chosen.index }
        : chosen?.kind === 'place'
          ? chosen.place
          : undefined;
    const strand = place && ropeOf(this.figure(), place.strand);
    if (!place || !strand) return;
    const at = Math.min(lastAt(strand) - 0.5, Math.max(0.5, place.at));
    this.place.set({ strand: place.strand, at });
    this.state.cursor.set(pointAt(curveOf(strand), at));
    this.state.message.set('Move the pencil along the way of the apex; Enter goes there, Enter again lays the bight.');
  }
}

const HINTS: Record<Exclude<LayingTool, 'move'>, string> = {
  wrap: 'Press on what the end goes round: a host or a strand; several make a bundle. Enter lays the turns.',
  retrace: 'Press where the end begins to follow, then where it leaves off. Enter lays it.',
  bight: 'Press on the rope where the bight is drawn out, and draw the way of its apex. Enter lays it.',
  twist: 'Press where the part begins and where it ends. Enter turns it.',
};

/** What has been laid, in words. */
function saying(edit: Edit): string {
  switch (edit.kind) {
    case 'first-end':
      return saying(edit.laid);
    case 'wrap':
      return `The end is wrapped ${edit.turns === 1 ? 'once' : `${edit.turns} times`} round. T changes the turns.`;
    case 'wrap-bight':
      return `The bight is wrapped ${edit.turns === 1 ? 'once' : `${edit.turns} times`} round, both its legs. T changes the turns.`;
    case 'rewrap':
      return 'The turns are laid anew; what comes after them has followed.';
    case 'retrace':
      return 'The end follows beside it, with the same overs and unders.';
    case 'bight':
      return 'A bight is drawn out. H places a halt on it.';
    case 'twist':
      return `The part is turned over ${Math.abs(edit.halfTurns) === 1 ? 'once' : `${Math.abs(edit.halfTurns)} times`}.`;
    default:
      return '';
  }
}

/** Few points for the way of a bight, with a letter each. */
export function fitBight(path: readonly Sample[]): { points: Point[]; pass: string } {
  if (path.length < 6)
    return { points: path.map((s) => s.point), pass: path.map((s) => (s.under ? 'U' : 'O')).join('') };
  const { points, pass } = fitStroke(path);
  return { points, pass: `${path[0]?.under === true ? 'U' : 'O'}${pass}` };
}
