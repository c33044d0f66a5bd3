/**
 * What is laid over a film: words and rings at places that are followed, and stretches that are played otherwise. Each is begun at the frame
 * that is shown, gone to with a press, and changed where it stands.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import {
  calloutFrom,
  endedAt,
  FILM_CALLOUTS,
  keyed,
  keysOf,
  mayKey,
  onFilm,
  ON_FILM,
  passageFrom,
  playedOf,
  steadyKeys,
  withPassage,
  type FilmCallout,
  type FilmPassage,
  type Footage,
  type FramePlace,
  type PlaceKey,
  type SteadyKey,
} from '@foxtrail/core/footage';
import { FilmFollowing } from './following';

/** What the next press in the frame is the place of. */
export type Placing =
  | { readonly kind: 'new'; readonly callout: FilmCallout['kind'] }
  | { readonly kind: 'callout'; readonly index: number }
  | { readonly kind: 'end'; readonly index: number }
  | { readonly kind: 'near'; readonly index: number }
  | { readonly kind: 'near-to'; readonly index: number }
  /** One of the two places by which the film is held still, and the first of them once it has been pressed. */
  | { readonly kind: 'still'; readonly first?: FramePlace | undefined };

/** A film with what a press in its frame places. */
export function placedOn(
  film: Footage,
  placing: Exclude<Placing, { readonly kind: 'still' }>,
  time: number,
  place: FramePlace,
): Footage {
  const { callouts = [], passages = [] } = film;
  if (placing.kind === 'new') {
    const made = calloutFrom(placing.callout, '', time, place, film.duration);
    return onFilm(film, { callouts: [...callouts, made].sort(byTime), passages });
  }
  if (placing.kind === 'callout')
    return onFilm(film, {
      callouts: callouts.map((c, i) => (i === placing.index ? keyed(c, time, place) : c)).sort(byTime),
      passages,
    });
  if (placing.kind === 'end')
    return onFilm(film, {
      callouts: callouts.map((c, i) => (i === placing.index ? endedAt(c, time, place) : c)),
      passages,
    });
  const where = placing.kind === 'near' ? { place } : { to: place };
  const near = passages.map((p, i) =>
    i === placing.index ? { ...p, near: { place: [0.5, 0.5] as const, times: 2, ...p.near, ...where } } : p,
  );
  return onFilm(film, { callouts, passages: near });
}

const byTime = (a: FilmCallout, b: FilmCallout): number => (a.keys[0]?.at ?? 0) - (b.keys[0]?.at ?? 0);

/** What each kind of callout is called, and how it is begun. */
const NAMES: Readonly<Record<FilmCallout['kind'], string>> = {
  label: 'words',
  ring: 'ring',
  arrow: 'arrow',
  cross: 'crossed out',
  ruler: 'ruler',
  blur: 'blurred',
};
const BEGINS: Readonly<Record<FilmCallout['kind'], string>> = {
  label: 'Words here',
  ring: 'Ring here',
  arrow: 'Arrow here',
  cross: 'Cross this out',
  ruler: 'Ruler here',
  blur: 'Blur this',
};

const within = (share: number): number => Math.min(1, Math.max(0, share));

/** A frame is at a time where it is no farther off, in seconds. */
const AT = 0.05;

@Component({
  selector: 'ft-over-film',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
  ],
  providers: [FilmFollowing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './over-film.html',
  styleUrl: './over-film.scss',
})
export class OverFilm {
  readonly film = input.required<Footage>();
  /** What its pictures are read from: a file of this machine, or where it is fetched from. */
  readonly source = input<Blob | string | undefined>();
  /** The time of the frame that is shown. */
  readonly time = input.required<number>();
  readonly mayWrite = input.required<boolean>();
  /** What the next press in the frame is the place of. */
  readonly placing = input<Placing | undefined>();
  readonly changed = output<Footage>();
  /** A place in the film, in seconds. */
  readonly wanted = output<number>();
  readonly place = output<Placing | undefined>();

  protected readonly kinds = FILM_CALLOUTS;
  protected readonly names = NAMES;
  protected readonly begins = BEGINS;
  protected readonly most = ON_FILM.text;
  protected readonly mayKey = mayKey;
  protected readonly speeds = ON_FILM.speeds;
  protected readonly stills = ON_FILM.stills;
  protected readonly nears = ON_FILM.nears;
  protected readonly callouts = computed(() => this.film().callouts ?? []);
  protected readonly passages = computed(() => this.film().passages ?? []);
  protected readonly isFull = computed(() => this.callouts().length >= ON_FILM.callouts);
  protected readonly hasSteps = computed(() => (this.film().steps?.length ?? 0) > 0);
  /** A passage as it would begin here, where there is room for one. */
  protected readonly next = computed(() =>
    this.passages().length >= ON_FILM.passages || this.passages().some((p) => Math.abs(p.from - this.time()) < AT)
      ? undefined
      : passageFrom(this.time(), this.film().duration),
  );

  protected readonly finder = inject(FilmFollowing);
  protected readonly following = computed(() => {
    const state = this.finder.state();
    return state.kind === 'on' ? state : undefined;
  });
  protected readonly trouble = computed(() => {
    const state = this.finder.state();
    return state.kind === 'failed' ? state.reason : undefined;
  });
  protected readonly asks = computed(() => {
    const placing = this.placing();
    if (placing?.kind === 'end') return 'Press where the ruler ends.';
    if (placing?.kind !== 'still') return 'Press the place in the picture.';
    return placing.first
      ? 'Press another thing that does not move, far from the first.'
      : 'Press something that does not move and is seen all the time: a mark on the bench, a corner.';
  });

  /** Holds a film still by two places of the frame that is shown. */
  async holdStill(first: FramePlace, second: FramePlace): Promise<void> {
    const [film, source] = [this.film(), this.source()];
    if (source === undefined) return;
    const [from, to] = playedOf(film);
    const found = await this.finder.follow({ film: source, places: [first, second], at: this.time(), from, to });
    // Another film may be on the desk by now.
    if (!found || this.film().film !== film.film) return;
    if (found.lost) {
      const which = found.lost.place === 0 ? 'first' : 'second';
      this.finder.fail(
        `The ${which} place is not seen any more at ${this.clock(found.lost.at)}. Choose one that is seen all the time.`,
      );
      return;
    }
    const keys = found.keys.flatMap(({ at, places: [a, b] }): SteadyKey[] => (a && b ? [{ at, a, b }] : []));
    const steady = steadyKeys(keys);
    if (steady.length > ON_FILM.steady) {
      this.finder.fail('The film is too long to be held still. Play less of it, then try again.');
      return;
    }
    this.changed.emit({ ...this.film(), steady });
  }

  protected letShake(): void {
    const { steady: _before, ...film } = this.film();
    this.changed.emit(film);
  }

  /** A callout follows what lies beneath it, from its first place until it ends. */
  protected async followIt(index: number): Promise<void> {
    const [callout, source] = [this.callouts()[index], this.source()];
    const key = callout?.keys[0];
    if (!callout || !key || source === undefined) return;
    const found = await this.finder.follow({
      film: source,
      places: [key.place],
      at: key.at,
      from: key.at,
      to: callout.until,
    });
    const places = found?.keys.flatMap(({ at, places: [place] }) => (place ? [{ at, place }] : [])) ?? [];
    // It may have been changed or taken off meanwhile.
    if (!found || places.length === 0 || this.callouts()[index] !== callout) return;
    // A ruler goes along as long as it is.
    const keys = keysOf(places, ON_FILM.keys).map((k): PlaceKey => {
      const end: FramePlace | undefined = key.end && [
        within(k.place[0] + key.end[0] - key.place[0]),
        within(k.place[1] + key.end[1] - key.place[1]),
      ];
      return end ? { ...k, end } : k;
    });
    this.lay(
      this.callouts().map((c, i) => (i === index ? { ...c, keys } : c)),
      this.passages(),
    );
    if (found.lost)
      this.finder.fail(`It is followed until ${this.clock(found.lost.at)}; then it is not seen any more.`);
  }

  protected clock(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;
  }

  protected places({ keys }: FilmCallout): string {
    return keys.length === 1 ? 'at one place' : `followed over ${keys.length} places`;
  }

  protected isShown({ keys, until }: FilmCallout): boolean {
    return this.time() >= (keys[0]?.at ?? 0) - AT && this.time() < until;
  }

  protected begin(callout: FilmCallout['kind']): void {
    this.place.emit({ kind: 'new', callout });
  }

  private lay(callouts: readonly FilmCallout[], passages: readonly FilmPassage[]): void {
    this.changed.emit(onFilm(this.film(), { callouts, passages }));
  }

  private exchange(index: number, change: (c: FilmCallout) => FilmCallout): void {
    this.lay(
      this.callouts().map((c, i) => (i === index ? change(c) : c)),
      this.passages(),
    );
  }

  protected say(index: number, text: string): void {
    this.exchange(index, (c) => ({ ...c, text: text.replace(/[<>\p{Cc}]/gu, '').trim() }));
  }

  protected until(index: number): void {
    this.exchange(index, (c) => ({ ...c, until: this.time() }));
  }

  protected drop(index: number): void {
    this.lay(
      this.callouts().filter((_, i) => i !== index),
      this.passages(),
    );
  }

  protected otherwise(): void {
    const made = this.next();
    if (made) this.lay(this.callouts(), withPassage(this.passages(), made));
  }

  protected asFilmed(index: number): void {
    this.lay(
      this.callouts(),
      this.passages().filter((_, i) => i !== index),
    );
  }

  protected change(index: number, changed: Partial<FilmPassage>): void {
    const passage = this.passages()[index];
    if (!passage) return;
    const others = this.passages().filter((p) => p !== passage);
    const said: readonly (readonly [string, unknown])[] = Object.entries({ ...passage, ...changed });
    const next = Object.fromEntries(said.filter(([, v]) => v !== undefined)) as unknown as FilmPassage;
    this.lay(this.callouts(), withPassage(others, next));
  }

  protected nearer(index: number, times: number): void {
    const near = this.passages()[index]?.near ?? { place: [0.5, 0.5] };
    this.change(index, { near: times === 1 ? undefined : { ...near, times } });
  }

  /** It stays where it looks first. */
  protected stay(index: number): void {
    const near = this.passages()[index]?.near;
    if (!near) return;
    const { to: _before, ...still } = near;
    this.change(index, { near: still });
  }
}
