/**
 * What is on the reel desk: the demonstration in time, as it is tied or by one of its reels, the knot set for it, and what its author changes
 * of it.
 */
import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  cautionsFor,
  contradictionsOf,
  FILM_SPEEDS,
  figureShown,
  finishedLayout,
  lastAt,
  howToSet,
  layoutsOf,
  leftHanded,
  numberOf,
  REELS,
  sameSetting,
  shownExhibits,
  stepsOf,
  tailAskedOf,
  type Contradiction,
  type Filmed,
  type Pace,
  type Reel,
  type ReelScene,
  type SceneCallout,
  type Setting,
  type TrailPosition,
  type View,
  type Voice,
} from '@foxtrail/core';
import {
  chaptersOf,
  composeReel,
  demonstration,
  lastingFor,
  measurable,
  momentAt,
  outOfSight,
  paceOf,
  splitScene,
  spokenOver,
  tooQuick,
  warnsAt,
  withMoved,
  withPoster,
  withScene,
  type Demonstrated,
  type ReelKind,
  type Tightening,
} from '@foxtrail/core/reel';
import { playedOf, type Footage } from '@foxtrail/core/footage';
import { FormingService } from '../data/forming';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import type { FilmChange } from './film-step';
import { stepRoom } from './paint';
import type { Scene } from './scene';
import type { Insertion } from './scene-editor';
import { writesMp4 } from './export';
import type { FilmKind } from './export-messages';
import { BENEATH_VOICE } from './film-sound';
import { ReelFilms, type FilmNow } from './reel-films';
import { sizeOf, type Shape } from './shape';
import type { SceneMove, SceneTrim, SceneWords } from './tracks';

/** How the knot is in the scenes that finish it. */
export type Hand =
  | { readonly kind: 'none' }
  | { readonly kind: 'setting' }
  | { readonly kind: 'set'; readonly way: Tightening }
  | { readonly kind: 'refused'; readonly reason: string };

export const KIND_NAMES: Readonly<Record<FilmKind, string>> = { webm: 'WebM', mp4: 'MP4' };
export const LINES = [720, 1080] as const;
export const RATES = [25, 30, 60] as const;

/** What may be shown of a film: all that is played of it, and each of its steps. */
function stretchesOf(film: Footage): Insertion[] {
  const [from, to] = playedOf(film);
  const whole: Insertion = { name: `Film: ${film.name}`, scene: { kind: 'film', film: film.film, from, to } };
  const steps = (film.steps ?? []).flatMap(({ step, at }, i, all): Insertion[] => {
    const end = all[i + 1]?.at ?? to;
    return end - at >= REELS.shortest
      ? [{ name: `Film: ${film.name}, step ${step + 1}`, scene: { kind: 'film', film: film.film, from: at, to: end } }]
      : [];
  });
  return [whole, ...steps];
}

@Injectable()
export class ReelDesk {
  private readonly store = inject(BenchStore);
  private readonly theme = inject(Theme);
  readonly pace = signal<Pace>('normal');
  readonly view = signal<View>('front');
  private readonly ownShape = signal<Shape>('wide');
  readonly lines = signal<(typeof LINES)[number]>(720);
  readonly rate = signal<(typeof RATES)[number]>(30);
  readonly size = computed(() => sizeOf(this.shape(), this.lines()));
  /** Whether this browser encodes what an MP4 is made of, at the size of the picture. */
  readonly writesMp4 = signal(false);
  readonly ownKind = signal<FilmKind>('webm');
  readonly kind = computed((): FilmKind => (this.writesMp4() ? this.ownKind() : 'webm'));
  /** Whether what is said stands in the picture. */
  readonly captioned = signal(true);
  /** The place in the demonstration, in seconds. */
  readonly time = signal(0);
  readonly playing = signal(false);
  /** Whether somebody speaks over the scene that is shown: it is played to its end then, and no farther. */
  readonly speaking = signal(false);
  private spokenAt: number | undefined;

  readonly method = computed(() => this.store.method() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] });
  readonly cautions = computed(() => {
    const entry = this.store.knot()?.entry;
    return entry ? cautionsFor(entry.useGrade, entry.cautions) : [];
  });
  /** What is read before the first step, while it is shown. */
  readonly warning = computed(() =>
    warnsAt(this.timeline(), this.time()) ? (this.timeline().cautions?.lines ?? []).join(' ') : undefined,
  );
  /** What the house asks of its tails. */
  readonly tail = computed(() => {
    const entry = this.store.knot()?.entry;
    return entry && tailAskedOf(this.store.practice(), entry);
  });
  /** The films of the method, as they were taken. */
  readonly films = computed(() => layoutsOf(this.method()).flatMap((l) => l.footage ?? []));
  private readonly filmed = inject(ReelFilms);
  readonly reels = computed(() => this.method().reels ?? []);
  /** Which reel is on the desk; none: the steps as they are tied. */
  readonly reelAt = signal<number | undefined>(undefined);
  readonly reel = computed(() => this.reels()[this.reelAt() ?? -1]);
  readonly shape = computed((): Shape => (this.reel() ? (this.reel()?.shape ?? 'wide') : this.ownShape()));
  /** For the left hand the captions are said for it too. */
  readonly shownMethod = computed(() => (this.view() === 'left' ? leftHanded(this.method()) : this.method()));
  private readonly demonstrated = computed((): Demonstrated => {
    return {
      method: this.shownMethod(),
      name: this.store.knot()?.name ?? '',
      words: this.store.vocabulary(),
      pace: this.pace(),
      tail: this.tail(),
      cautions: this.cautions(),
      reel: this.reel() ? this.reelAt() : undefined,
    };
  });
  readonly timeline = computed(() => demonstration(this.demonstrated()));
  /** The scene of the reel that is shown, and how long it lasts. */
  readonly sceneAt = computed(() => this.moment()?.part ?? 0);
  readonly sceneShown = computed(() => this.reel()?.scenes[this.sceneAt()]);
  readonly lasts = computed(() => {
    const chapter = this.chapters()[this.sceneAt()];
    return chapter ? chapter.end - chapter.start : 0;
  });
  readonly wrongWays = computed(() =>
    shownExhibits(finishedLayout(this.method()), this.store.knot()?.name ?? '', this.store.vocabulary()).map(
      (e) => e.becomes,
    ),
  );
  /** What is said in it of a step that its picture does not show. */
  readonly untrue = computed((): readonly Contradiction[] => {
    const scene = this.sceneShown();
    return scene?.kind === 'step' && scene.text !== undefined
      ? contradictionsOf(this.method(), scene.step, this.store.vocabulary(), scene.text)
      : [];
  });
  /** Indices of the steps of the method. */
  readonly steps = computed(() => stepsOf(this.method()).map((s) => s.index));
  /** What is said over it. */
  readonly said = computed(() => spokenOver(this.timeline()).find((s) => s.part === this.sceneAt())?.text ?? '');
  /** What the scene that is shown points out, of which ropes, and where something new is pointed out first. */
  readonly callouts = computed(() => {
    const scene = this.sceneShown();
    return scene && (scene.kind === 'step' || scene.kind === 'look' || scene.kind === 'tail')
      ? (scene.callouts ?? [])
      : undefined;
  });
  readonly ropesShown = computed(() => {
    const scene = this.sceneShown();
    return scene ? figureShown(this.method(), scene).ropes : [];
  });
  readonly pointsFirst = computed((): TrailPosition => {
    const stretch = this.sceneShown()?.kind === 'step' ? this.step()?.stretch : undefined;
    const [rope] = this.ropesShown();
    return stretch
      ? { strand: stretch.rope, at: (stretch.from + stretch.to) / 2 }
      : { strand: rope?.id ?? '', at: rope ? lastAt(rope) / 2 : 0 };
  });
  /** Why the scene that is shown was not cut in two here, where that was asked. */
  readonly notCut = signal<string | undefined>(undefined);
  /** Which of the callouts is put where the picture is pressed. */
  readonly placing = signal<number | undefined>(undefined);
  /** What may be put in after the scene that is shown. */
  readonly insertions = computed((): readonly Insertion[] => {
    const shown = this.sceneShown();
    const speed = (shown?.kind === 'step' ? shown.speed : undefined) ?? this.filmedSo().speed ?? 1;
    return [
      ...(shown?.kind === 'step'
        ? [{ name: 'This step again, slower', scene: { ...shown, speed: Math.max(FILM_SPEEDS.least, speed / 2) } }]
        : []),
      { name: 'The knot from the front', scene: { kind: 'look', side: 'front' } },
      { name: 'The knot from behind', scene: { kind: 'look', side: 'back' } },
      { name: 'The knot from its left', scene: { kind: 'look', side: 'left' } },
      { name: 'The knot from its right', scene: { kind: 'look', side: 'right' } },
      { name: 'The knot end on', scene: { kind: 'look', side: 'end' } },
      ...(measurable(finishedLayout(this.method()).figure).length > 0
        ? [{ name: 'The tail measured', scene: { kind: 'tail' } } as const]
        : []),
      ...this.films().flatMap(stretchesOf),
      { name: 'A card', scene: { kind: 'card', text: 'What to look for' } },
      ...(stepsOf(this.method()).length > 0
        ? [
            {
              name: 'A still picture with words',
              scene: {
                kind: 'card',
                text: 'What to look for',
                step: shown?.kind === 'step' ? shown.step : stepsOf(this.method()).length - 1,
              },
            } as const,
          ]
        : []),
      ...this.wrongWays().map((becomes, exhibit): Insertion => ({
        name: `Wrong: ${becomes}`,
        scene: { kind: 'wrong', exhibit },
      })),
      ...stepsOf(this.method()).map(({ index }): Insertion => ({
        name: `Step ${index + 1}`,
        scene: { kind: 'step', step: index },
      })),
    ];
  });
  /** The steps in time. */
  readonly chapters = computed(() => chaptersOf(this.timeline()));
  readonly perLine = computed(() => numberOf(this.store.practice(), 'caption-line'));
  readonly limits = computed(() => ({
    reading: numberOf(this.store.practice(), 'caption-speed'),
    crossings: numberOf(this.store.practice(), 'film-pace'),
    speaking: numberOf(this.store.practice(), 'voice-pace'),
  }));
  readonly quick = computed(() =>
    tooQuick(this.method(), this.timeline(), this.limits(), ({ part }) => {
      const scene = this.reel()?.scenes[part];
      return scene?.kind === 'step' && (scene.speed ?? scene.hold) !== undefined ? scene : undefined;
    }),
  );
  /** The crossings that are not seen when they matter, in the picture as large as it is. */
  readonly unseen = computed(() => {
    const { width, height } = this.size();
    return outOfSight(this.method(), this.timeline(), this.view(), stepRoom(this.scene(), width, height));
  });
  readonly paced = computed(() => paceOf(this.method(), this.timeline()));
  /** The step that is shown. */
  readonly step = computed(() => stepsOf(this.method())[this.moment()?.step ?? 0]);
  /** How that step is filmed as it is tied. */
  readonly filmedSo = computed((): Filmed => this.step()?.telling.filmed ?? {});
  readonly forming = inject(FormingService);
  /** What is set for the scenes that finish the knot. */
  private readonly toSet = computed(
    () =>
      stepsOf(this.method()).some((s) => s.does !== 'lay') ||
      this.reel()?.scenes.some((s) => s.kind === 'look' || s.kind === 'tail') === true
        ? howToSet(this.method())
        : undefined,
    { equal: sameSetting },
  );
  readonly hand = signal<Hand>({ kind: 'none' });
  readonly moment = computed(() => momentAt(this.method(), this.timeline(), this.time()));
  readonly scene = computed<Scene>(() => ({
    method: this.method(),
    timeline: this.timeline(),
    view: this.view(),
    look: { ...this.theme.look(), banded: this.reel()?.bands },
    title: this.store.knot()?.name ?? '',
    words: this.store.vocabulary(),
    captioned: this.captioned(),
    tail: this.tail(),
    back: this.reel()?.back,
    trail: this.reel()?.trail,
    filmed: (film) => this.filmed.picture(film),
    way: this.way(),
  }));
  /** What is shown of a film, and who is heard over it. */
  private readonly filmNow = computed((): readonly FilmNow[] => {
    const moment = this.moment();
    if (!moment || this.warning() !== undefined) return [];
    const { voice, start = 0 } = this.timeline().scenes.find((s) => s.part === moment.part) ?? {};
    const since = this.time() - start;
    const now: FilmNow[] = [];
    if (moment.shot.kind === 'film') {
      const { film, pieces } = moment.shot;
      const piece = pieces.find((p) => since < p.end) ?? pieces.at(-1);
      const runs = piece && this.playing() && since < piece.end;
      const speed = runs ? (piece.to - piece.from) / (piece.end - piece.start) : 0;
      now.push({ film, time: moment.at, speed, loud: voice ? BENEATH_VOICE : 1 });
    }
    // While one is spoken anew, the one before is not heard.
    if (voice && !this.speaking()) {
      const time = Math.min(voice.to, voice.from + since);
      now.push({ film: voice.sound, time, speed: this.playing() && time < voice.to ? 1 : 0, loud: 1 });
    }
    return now;
  });
  readonly way = computed(() => {
    const hand = this.hand();
    return hand.kind === 'set' ? hand.way : undefined;
  });

  constructor() {
    // A film is brought to what is shown of it; once its picture has come, it is looked at again.
    effect(() => {
      this.filmed.came();
      this.filmed.show(this.filmNow());
    });
    // What is placed belongs to its scene.
    effect(() => {
      this.sceneAt();
      this.reelAt();
      this.placing.set(undefined);
    });
    effect(() => {
      const { width, height } = this.size();
      void writesMp4(width, height).then((writes) => this.writesMp4.set(writes));
    });
    // Elsewhere a scene may be cut.
    effect(() => {
      this.time();
      this.reel();
      this.notCut.set(undefined);
    });
    effect(() => {
      const setting = this.toSet();
      untracked(() => void this.setInHand(setting));
    });
  }

  private async setInHand(setting: Setting | undefined): Promise<void> {
    this.hand.set({ kind: setting ? 'setting' : 'none' });
    if (!setting) return;
    const done = await this.forming.watch(setting);
    if (!done || this.toSet() !== setting) return;
    this.hand.set(
      done.ok ? { kind: 'set', way: done.value } : { kind: 'refused', reason: `${done.reason} ${done.remedy}` },
    );
  }

  /** Changes the pace and stays at the same place within the same step. */
  setPace(pace: Pace): void {
    this.staying(() => this.pace.set(pace));
  }

  /** Does something to the demonstration; what is shown stays the same share of its passage, or of the one that is named. */
  private staying(work: () => void, part = this.moment()?.part ?? 0): void {
    const before = this.chapters()[this.moment()?.part ?? 0];
    const share = before ? (this.time() - before.start) / (before.end - before.start) : 0;
    work();
    const chapter = this.chapters()[Math.min(part, this.chapters().length - 1)];
    if (chapter) this.time.set(Math.max(0, chapter.start + Math.min(0.99, share) * (chapter.end - chapter.start)));
  }

  /** Takes a reel to the desk, or the steps as they are tied. */
  take(reel: number | undefined): void {
    this.playing.set(false);
    this.speaking.set(false);
    this.spokenAt = undefined;
    this.reelAt.set(reel);
    this.time.set(0);
  }

  /** A first reel of its kind, composed from the method. */
  compose(kind: ReelKind): void {
    const knot = this.store.knot();
    if (!knot) return;
    const lead = this.timeline().cautions?.end ?? 0;
    const { reel: _none, ...of } = this.demonstrated();
    const made = composeReel({ ...of, method: this.method() }, kind, knot.entry.summary, lead);
    const names = new Set(this.reels().map((r) => r.name));
    let name = made.name;
    for (let n = 2; names.has(name); n += 1) name = `${made.name} ${n}`;
    const done = this.store.edit({ kind: 'set-reels', reels: [...this.reels(), { ...made, name }] });
    if (done.ok) this.take(this.reels().length - 1);
  }

  rename(name: string): void {
    const reel = this.reel();
    if (reel && name.trim() !== '') this.change({ ...reel, name: name.trim() });
  }

  dropReel(): void {
    const gone = this.reel();
    this.take(undefined);
    this.store.edit({ kind: 'set-reels', reels: this.reels().filter((r) => r !== gone) });
  }

  /** The reel on the desk otherwise; changes of a group that follow one another are undone as one. */
  private change(reel: Reel, group?: string): void {
    const before = this.reel();
    this.store.edit(
      { kind: 'set-reels', reels: this.reels().map((r) => (r === before ? reel : r)) },
      group === undefined ? {} : { group },
    );
  }

  /** Where playing comes to an end: of the demonstration, or of the scene that is spoken over. */
  readonly until = computed(() => {
    const scene = this.speaking() ? this.chapters()[this.spokenAt ?? 0] : undefined;
    return scene ? scene.end - 0.01 : this.timeline().duration;
  });

  /** Somebody speaks over the scene that is shown, from its beginning; or does not any more. */
  speak(begins: boolean): void {
    this.speaking.set(begins);
    if (!begins) return;
    this.spokenAt = this.sceneAt();
    const scene = this.chapters()[this.spokenAt];
    if (scene) this.time.set(scene.start);
  }

  changeScene(scene: ReelScene): void {
    const [reel, at] = [this.reel(), this.sceneAt()];
    if (reel) this.staying(() => this.change(withScene(reel, at, scene), `scene-${at}`));
  }

  /** What the scene that is shown points out. */
  pointOut(callouts: readonly SceneCallout[]): void {
    const scene = this.sceneShown();
    if (!scene || !this.callouts()) return;
    const { callouts: _before, ...rest } = scene as Extract<ReelScene, { kind: 'step' | 'look' | 'tail' }>;
    this.showEnd();
    this.changeScene(callouts.length > 0 ? { ...rest, callouts } : rest);
  }

  /** What is pointed out is seen once its scene has come to rest. */
  private showEnd(): void {
    const scene = this.timeline()
      .scenes.filter((s) => s.part === this.sceneAt() && s.shot.kind !== 'turn')
      .at(-1);
    if (scene && this.time() < scene.laid) this.time.set(Math.min(scene.laid + 0.01, scene.end - 0.01));
  }

  /** Puts what is being placed where the picture is pressed; nothing where no rope is. */
  placeAt(place: TrailPosition | undefined): void {
    const [index, callouts] = [this.placing(), this.callouts()];
    if (index === undefined || !callouts || !place) return;
    this.pointOut(callouts.map((c, i) => (i === index ? { ...c, strand: place.strand, at: place.at } : c)));
  }

  /** What is spoken over a scene: of one that was recorded, the scene that was shown then; nothing: nobody speaks. */
  changeVoice(voice: Voice | undefined): void {
    const [reel, at] = [this.reel(), voice ? this.spokenAt : this.sceneAt()];
    // What was spoken over another reel belongs to none of this one’s scenes.
    const scene = at === undefined ? undefined : reel?.scenes[at];
    if (!reel || !scene || at === undefined) return;
    const { voice: _before, ...rest } = scene;
    this.staying(() => this.change(withScene(reel, at, voice ? { ...rest, voice } : rest)));
  }

  lastScene({ part, seconds }: SceneTrim): void {
    const reel = this.reel();
    const scene = reel?.scenes[part];
    if (!reel || !scene) return;
    const lasting = lastingFor(this.method(), this.timeline(), part, scene, seconds);
    this.staying(() => this.change(withScene(reel, part, lasting), `scene-${part}`), part);
  }

  /** What is said in a scene; nothing: what is usual there. */
  sayInScene({ part, text }: SceneWords): void {
    const reel = this.reel();
    const scene = reel?.scenes[part];
    if (!reel || !scene || (scene.kind === 'card' && text === '')) return;
    const { text: _before, ...rest } = scene;
    // Words that are written are heard.
    const { silent: _silent, ...heard } = rest as Extract<ReelScene, { kind: 'step' }>;
    const now = (text === '' ? rest : { ...heard, text }) as ReelScene;
    this.staying(() => this.change(withScene(reel, part, now), `scene-${part}`));
  }

  moveScene({ from, to }: SceneMove): void {
    const reel = this.reel();
    if (reel && to >= 0 && to < reel.scenes.length) this.staying(() => this.change(withMoved(reel, from, to)), to);
  }

  putScene(scene: ReelScene): void {
    const [reel, at] = [this.reel(), this.sceneAt()];
    const here = reel?.scenes[at];
    if (!reel || !here) return;
    this.change(withScene(reel, at, here, scene));
    const chapter = this.chapters()[at + 1];
    if (chapter) this.time.set(chapter.start);
  }

  /** What is shown now stands for the reel before it is played. */
  standFor(): void {
    const reel = this.reel();
    const chapter = this.chapters()[this.sceneAt()];
    if (reel && chapter) this.change(withPoster(reel, this.sceneAt(), Math.max(0, this.time() - chapter.start)));
  }

  /** Cuts the scene that is shown in two, where it is shown; the second of them is shown then. */
  cutScene(): void {
    const reel = this.reel();
    if (!reel) return;
    const of = { method: this.method(), words: this.store.vocabulary() };
    const done = splitScene(of, reel, this.timeline(), this.sceneAt(), this.time());
    if (!done.ok) {
      this.notCut.set(`${done.reason} ${done.remedy}`);
      return;
    }
    const second = this.sceneAt() + 1;
    this.change(done.value);
    const chapter = this.chapters()[second];
    if (chapter) this.time.set(chapter.start + 0.01);
  }

  repeatScene(at: number): void {
    const scene = this.reel()?.scenes[at];
    const reel = this.reel();
    if (reel && scene) this.staying(() => this.change(withScene(reel, at, scene, scene)), at + 1);
  }

  removeScene(at: number): void {
    const reel = this.reel();
    if (reel && reel.scenes.length > 1) this.staying(() => this.change(withScene(reel, at, undefined)), at);
  }

  /** Whether the other side, or the trail, is shown while steps are tied; whether the rope has bands. */
  show(what: 'back' | 'trail' | 'bands', isShown: boolean): void {
    const reel = this.reel();
    if (!reel) return;
    const { [what]: _was, ...rest } = reel;
    this.change(isShown ? { ...rest, [what]: true } : rest);
  }

  setShape(shape: Shape): void {
    const reel = this.reel();
    if (reel) this.change({ ...reel, shape });
    else this.ownShape.set(shape);
  }

  /** Films a step otherwise; the place within it stays. */
  film({ step: index, filmed }: FilmChange): void {
    const step = stepsOf(this.method())[index];
    if (!step) return;
    this.staying(() =>
      this.store.edit(
        { kind: 'tell', index: step.place, telling: { filmed } },
        { layout: step.layout, group: `film-${index}` },
      ),
    );
  }

  /** A step is drawn whole, no nearer than that. */
  showWhole(index: number): void {
    const step = stepsOf(this.method())[index];
    if (!step) return;
    this.staying(() =>
      this.store.edit({ kind: 'tell', index: step.place, telling: { closeUp: undefined } }, { layout: step.layout }),
    );
  }

  /** Takes back the last change of the knot, or does it again; the place stays. */
  undo(back: boolean): void {
    this.staying(() => (back ? this.store.undo() : this.store.redo()));
  }
}
