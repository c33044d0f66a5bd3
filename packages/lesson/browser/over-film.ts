/**
 * What an author laid over a film, shown while it plays: words and rings that stay with their places, stretches played slowly, nearer, or
 * after standing still, and the drawing of the step where hands hide the knot. The same on the author's desk and on the learner's page.
 */
import {
  calloutsAt,
  nearAt,
  nearOf,
  passageAt,
  RULER_PARTS,
  steadied,
  steadyAt,
  stepAt,
  WORDS_ABOVE,
  type FilmCallout,
  type FilmPassage,
  type FramePlace,
  type Near,
  type OnFilm,
} from '@foxtrail/core/on-film';

/** A film and what is laid over it. */
export interface LaidOver extends OnFilm {
  /** It is played the other way round than it was filmed. */
  readonly turned?: boolean | undefined;
  readonly steps?: readonly { readonly step: number; readonly at: number }[] | undefined;
}

export interface Overlay {
  /** The film as it is now. */
  readonly film: () => LaidOver;
  /** Address of the drawing of a step, by its index; nothing where there is none. */
  readonly picture: (step: number) => string | undefined;
  /** A film that stands still is seen whole. */
  readonly wholeAtRest?: boolean;
}

/** Words stand to the side of their place where there is more room: left of it beyond this share of the width. */
const TO_THE_LEFT = 0.6;
/** Beside the drawing of a step, which takes the upper right, beyond this one; and the drawing’s lower edge, as a share of the height. */
const BESIDE_DRAWING = 0.26;
const DRAWING = 0.5;
/** Words whose places are nearer than this, as a share of the height, go below each other. */
const LINE = 0.085;
/** How far words stand beside their place, as a share of the width. */
const ASIDE = 0.02;

const styled = <E extends HTMLElement>(element: E, style: Partial<CSSStyleDeclaration>): E => {
  Object.assign(element.style, style);
  return element;
};

const percent = (share: number): string => `${(100 * share).toFixed(2)}%`;

const MARKED = '#ff8b3d';
const BAR = `transparent 43%, ${MARKED} 43% 57%, transparent 57%`;

/** What marks a place, by its kind: a dot, a ring, an arrow down to it, a cross; or what lies there is blurred. */
const MARKS: Readonly<Record<Exclude<FilmCallout['kind'], 'ruler'>, Partial<CSSStyleDeclaration>>> = {
  label: { width: '2.4cqh', border: `0.4cqh solid ${MARKED}`, borderRadius: '50%', background: '#22303a' },
  ring: { width: '16cqh', border: `0.9cqh solid ${MARKED}`, borderRadius: '50%' },
  arrow: {
    width: '9cqh',
    aspectRatio: '9 / 16',
    background: MARKED,
    clipPath: 'polygon(50% 100%, 0 62%, 32% 62%, 32% 0, 68% 0, 68% 62%, 100% 62%)',
    transform: 'translate(-50%, -100%)',
  },
  cross: { width: '17cqh', background: `linear-gradient(45deg, ${BAR}), linear-gradient(-45deg, ${BAR})` },
  blur: { width: '20cqh', borderRadius: '50%', backdropFilter: 'blur(2.6cqh)' },
};

/** A ruler from one place to another, of a layer so many pixels large. */
function rulerAt([x, y]: FramePlace, [u, v]: FramePlace, width: number, height: number): HTMLElement {
  const [dx, dy] = [(u - x) * width, (v - y) * height];
  const part = `${(100 / RULER_PARTS).toFixed(3)}%`;
  return styled(document.createElement('span'), {
    position: 'absolute',
    left: percent(x),
    top: percent(y),
    boxSizing: 'border-box',
    width: `${Math.hypot(dx, dy)}px`,
    height: '7cqh',
    border: `solid ${MARKED}`,
    borderWidth: '0 0.9cqh',
    background: [
      `linear-gradient(${MARKED}, ${MARKED}) center / 100% 0.9cqh no-repeat`,
      `repeating-linear-gradient(90deg, ${MARKED} 0 0.4cqh, transparent 0.4cqh ${part}) center / 100% 2.4cqh no-repeat`,
    ].join(', '),
    filter: 'drop-shadow(0 0 2px rgb(16 24 30 / 80%))',
    transformOrigin: '0 50%',
    transform: `translateY(-50%) rotate(${Math.atan2(dy, dx)}rad)`,
  });
}

const markAt = (kind: keyof typeof MARKS, [x, y]: FramePlace): HTMLElement => {
  const mark = styled(document.createElement('span'), {
    position: 'absolute',
    left: percent(x),
    top: percent(y),
    aspectRatio: '1',
    boxShadow: kind === 'label' || kind === 'ring' ? '0 0 0 2px rgb(16 24 30 / 60%)' : 'none',
    transform: 'translate(-50%, -50%)',
  });
  return styled(mark, MARKS[kind]);
};

/** Words beside a place, at a height of their own. */
function wordsAt(words: string, x: number, line: number, isLeft: boolean): HTMLElement {
  const label = styled(document.createElement('span'), {
    position: 'absolute',
    top: percent(Math.min(0.94, Math.max(0.02, line))),
    ...(isLeft ? { right: percent(1 - x + ASIDE) } : { left: percent(x + ASIDE) }),
    maxWidth: '46%',
    padding: '0.6cqh 1.6cqh',
    borderRadius: '1cqh',
    background: 'rgb(16 24 30 / 86%)',
    color: '#fff',
    fontSize: 'max(14px, 4.4cqh)',
    fontWeight: '600',
    lineHeight: '1.2',
    transform: 'translateY(-50%)',
  });
  label.textContent = words;
  return label;
}

/** Lays what belongs over a film into the box that holds it; both keep to what the film is until it is let go. */
export function layOver(
  video: HTMLVideoElement,
  stage: HTMLElement,
  overlay: Overlay,
): { show: () => void; letGo: () => void } {
  const layer = styled(document.createElement('div'), {
    position: 'absolute',
    inset: '0',
    overflow: 'hidden',
    pointerEvents: 'none',
    containerType: 'size',
  });
  layer.className = 'over-film';
  layer.setAttribute('aria-hidden', 'true');
  const inset = styled(document.createElement('img'), {
    position: 'absolute',
    top: '3%',
    right: '2%',
    width: '36%',
    padding: '6px',
    border: '2px solid #22303a',
    borderRadius: '10px',
    background: '#f6efe3',
  });
  inset.hidden = true;
  stage.append(layer);

  /** Speed that was chosen by whoever watches. */
  let chosen = video.playbackRate;
  let slowed = 1;
  /** The passage at whose beginning it has stood still, and what waits until it goes on. */
  let stood: FilmPassage | undefined;
  /** The passage that was played last, the one that is played once more, and whether it is on its way back to its beginning. */
  let last: FilmPassage | undefined;
  let repeated: FilmPassage | undefined;
  let returning = false;
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let written = '';

  const goOn = (): void => {
    clearTimeout(waiting);
    waiting = undefined;
  };

  const pace = (passage: FilmPassage | undefined): void => {
    const speed = passage?.speed ?? 1;
    if (speed !== slowed) {
      slowed = speed;
      video.playbackRate = chosen * speed;
    }
    if (passage === stood) return;
    if (passage === undefined) stood = undefined;
    else if (!video.paused) {
      stood = passage;
      // Only what is come upon stands still, not what is gone into, nor what is played once more.
      if (passage === repeated) return;
      if (passage.still !== undefined && passage.still > 0 && video.currentTime - passage.from < 0.4 * chosen) {
        video.pause();
        waiting = setTimeout(() => {
          goOn();
          // A browser that does not let it go on by itself leaves it standing: a press plays it.
          video.play().catch(() => undefined);
        }, 1000 * passage.still);
      }
    }
  };

  /** Goes back once to the beginning of what is played once more, when it has come to its end by itself. */
  const returns = (passage: FilmPassage | undefined, time: number): boolean => {
    const ended = last;
    last = passage;
    if (ended?.again !== true || passage === ended || repeated === ended || video.paused) return false;
    if (time < ended.to || time - ended.to > 0.5 * video.playbackRate + 0.2) return false;
    repeated = ended;
    returning = true;
    video.currentTime = ended.from;
    return true;
  };

  const frame = (
    film: LaidOver,
    time: number,
    near: Near | undefined,
    isStill: boolean,
  ): ((place: FramePlace) => FramePlace) => {
    const shape = video.videoHeight > 0 ? video.videoWidth / video.videoHeight : 16 / 9;
    const still = isStill ? steadyAt(film, time, shape) : undefined;
    const seen = (place: FramePlace): FramePlace => {
      const [x, y] = steadied(place, still, shape);
      return [film.turned === true ? 1 - x : x, y];
    };
    const { times, left, top } = nearOf(near ? { ...near, place: seen(near.place) } : { place: [0.5, 0.5], times: 1 });
    const moves = [
      `translate(${percent(-left * times)}, ${percent(-top * times)}) scale(${times})`,
      ...(film.turned === true ? ['translateX(100%) scaleX(-1)'] : []),
      ...(still
        ? [
            `translate(${percent(still.dx / shape)}, ${percent(still.dy)})`,
            `matrix(${still.cos}, ${still.sin}, ${-still.sin}, ${still.cos}, 0, 0)`,
          ]
        : []),
    ];
    styled(video, { transformOrigin: '0 0', transform: moves.join(' ') });
    return (place) => {
      const [x, y] = seen(place);
      return [(x - left) * times, (y - top) * times];
    };
  };

  const draw = (film: LaidOver, time: number, at: (place: FramePlace) => FramePlace): void => {
    const now = calloutsAt(film, time).map((c) => ({ ...c, place: at(c.place), end: at(c.end ?? c.place) }));
    const { clientWidth, clientHeight } = layer;
    const text = JSON.stringify([now, inset.hidden, clientWidth, clientHeight]);
    if (text === written) return;
    written = text;
    const taken: number[] = [];
    layer.replaceChildren(
      inset,
      ...now.flatMap(({ kind, text: words, place, end }) => {
        // Words of a ruler stand beyond that end of it which has room beside it.
        const [first, last] = place[0] < end[0] ? [place, end] : [end, place];
        const isLeft = last[0] > (inset.hidden || last[1] > DRAWING ? TO_THE_LEFT : BESIDE_DRAWING);
        const [x, y] = kind === 'ruler' ? (isLeft ? first : last) : place;
        let line = y - WORDS_ABOVE[kind];
        while (taken.some((t) => Math.abs(t - line) < LINE)) line += LINE;
        taken.push(line);
        const mark = kind === 'ruler' ? rulerAt(place, end, clientWidth, clientHeight) : markAt(kind, place);
        return words === '' ? [mark] : [mark, wordsAt(words, x, line, isLeft)];
      }),
    );
  };

  const show = (): void => {
    const film = overlay.film();
    const time = video.currentTime;
    const passage = passageAt(film, time);
    if (returns(passage, time)) return;
    pace(passage);
    const isAtRest = video.paused && waiting === undefined;
    const isWhole = overlay.wholeAtRest === true && isAtRest;
    const at = frame(film, time, isWhole || !passage ? undefined : nearAt(passage, time), !isWhole);
    const step = passage?.hidden === true ? stepAt(film.steps, time) : undefined;
    const picture = step === undefined ? undefined : overlay.picture(step);
    inset.hidden = picture === undefined;
    if (picture !== undefined && inset.getAttribute('src') !== picture) {
      inset.src = picture;
      inset.alt = `Step ${(step ?? 0) + 1}, as it is drawn`;
    }
    draw(film, time, at);
  };

  let going = 0;
  const follow = (): void => {
    show();
    if (!video.paused) going = requestAnimationFrame(follow);
  };
  const events = new AbortController();
  const on = (event: keyof HTMLMediaElementEventMap, does: () => void): void =>
    video.addEventListener(event, does, { signal: events.signal });
  on('play', () => {
    goOn();
    cancelAnimationFrame(going);
    follow();
  });
  for (const event of ['pause', 'seeked', 'timeupdate', 'loadeddata'] as const) on(event, show);
  on('seeking', () => {
    goOn();
    stood = undefined;
    // Whoever goes elsewhere sees it twice anew.
    if (!returning) repeated = last = undefined;
    returning = false;
  });
  on('ratechange', () => {
    const asked = video.playbackRate / slowed;
    // What was set here is what was chosen, slowed.
    if (Math.abs(asked - chosen) < 1e-6) return;
    chosen = video.playbackRate;
    if (slowed !== 1) video.playbackRate = chosen * slowed;
  });
  show();
  return {
    show,
    letGo: () => {
      events.abort();
      goOn();
      cancelAnimationFrame(going);
      layer.remove();
    },
  };
}
