import type { FilmCallout } from '@foxtrail/core/footage';
import { layOver, type LaidOver } from '@foxtrail/lesson/over-film';

/** A video whose time and play are set by the spec. */
class Screen {
  readonly video = document.createElement('video');
  readonly stage = document.createElement('div');
  private at = 0;
  private isPaused = true;
  plays = 0;

  constructor() {
    Object.defineProperties(this.video, {
      currentTime: {
        get: () => this.at,
        set: (time: number) => {
          this.at = time;
          this.video.dispatchEvent(new Event('seeking'));
        },
      },
      paused: { get: () => this.isPaused },
    });
    this.video.play = (): Promise<void> => {
      this.isPaused = false;
      this.plays += 1;
      this.video.dispatchEvent(new Event('play'));
      return Promise.resolve();
    };
    this.video.pause = (): void => {
      this.isPaused = true;
      this.video.dispatchEvent(new Event('pause'));
    };
    this.stage.append(this.video);
    document.body.append(this.stage);
  }

  show(time: number): void {
    this.at = time;
    this.video.dispatchEvent(new Event('timeupdate'));
  }
  get words(): string[] {
    return [...this.stage.querySelectorAll('.over-film span')].map((s) => s.textContent).filter((t) => t !== '');
  }
  get inset(): HTMLImageElement {
    return this.stage.querySelector('img')!;
  }
}

const laid: LaidOver = {
  steps: [
    { step: 0, at: 0 },
    { step: 3, at: 5 },
  ],
  callouts: [
    {
      kind: 'label',
      text: 'Collar',
      keys: [
        { at: 1, place: [0.2, 0.5] },
        { at: 3, place: [0.4, 0.5] },
      ],
      until: 4,
    },
  ],
  passages: [
    { from: 4, to: 5, speed: 0.5, still: 1 },
    { from: 6, to: 8, hidden: true, near: { place: [0.5, 0.5], times: 2 } },
  ],
};

describe('What is laid over a film, played', () => {
  let screen: Screen;
  let over: ReturnType<typeof layOver>;
  const begin = (film: LaidOver, wholeAtRest = false): void => {
    screen = new Screen();
    over = layOver(screen.video, screen.stage, { film: () => film, picture: (s) => `/step-${s}.svg`, wholeAtRest });
  };
  afterEach(() => {
    over.letGo();
    screen.stage.remove();
  });

  it('has its words at their place as it moves, at its own side when the film is turned, and gone after their end', () => {
    const left = (): string => screen.stage.querySelector<HTMLElement>('.over-film span')!.style.left;
    begin(laid);
    screen.show(2);
    expect(screen.words).toEqual(['Collar']);
    expect(left()).toBe('30%');
    screen.show(4.5);
    expect(screen.words).toEqual([]);
    over.letGo();
    screen.stage.remove();
    begin({ ...laid, turned: true });
    screen.show(2);
    expect(left()).toBe('70%');
    expect(screen.video.style.transform).toContain('scaleX(-1)');
  });

  it('has its words clear of the drawing of a step', () => {
    const callouts = [{ kind: 'label', text: 'Collar', keys: [{ at: 0, place: [0.5, 0.3] }], until: 9 }] as const;
    begin({ ...laid, callouts, passages: [{ from: 6, to: 8, hidden: true }] });
    const label = (): HTMLElement =>
      [...screen.stage.querySelectorAll<HTMLElement>('.over-film span')].find((s) => s.textContent !== '')!;
    screen.show(5);
    expect([label().style.left, label().style.right]).toEqual(['52%', '']);
    screen.show(7);
    expect([label().style.left, label().style.right]).toEqual(['', '52%']);
  });

  it('is slow where it is to be, and again as quick as whoever watches has chosen', async () => {
    begin({ ...laid, passages: [{ from: 4, to: 5, speed: 0.5 }] });
    screen.video.playbackRate = 0.5;
    await new Promise((done) => setTimeout(done, 50));
    screen.show(4.2);
    expect(screen.video.playbackRate).toBe(0.25);
    screen.show(5.2);
    expect(screen.video.playbackRate).toBe(0.5);
  });

  it('stands still where it comes to, once, and goes on by itself; not where one goes into the midst of it', () => {
    jasmine.clock().install();
    begin(laid);
    void screen.video.play();
    screen.show(4.01);
    expect(screen.video.paused).toBeTrue();
    jasmine.clock().tick(1100);
    expect(screen.video.paused).toBeFalse();
    screen.show(4.3);
    expect(screen.video.paused).toBeFalse();
    screen.show(5.5);
    screen.video.dispatchEvent(new Event('seeking'));
    screen.show(4.8);
    expect(screen.video.paused).toBeFalse();
    jasmine.clock().uninstall();
  });

  it('is played once more where it is to be, when it has come to its end by itself; it does not stand still again', () => {
    begin({ passages: [{ from: 4, to: 5, still: 1, again: true }] });
    void screen.video.play();
    const play = (...times: readonly number[]): number => {
      for (const t of times) screen.show(t);
      return screen.video.currentTime;
    };
    jasmine.clock().install();
    play(3.9, 4.02);
    expect(screen.video.paused).toBeTrue();
    jasmine.clock().tick(1100);
    jasmine.clock().uninstall();
    expect(play(4.5, 4.98, 5.01)).toBe(4);
    expect(play(4.02)).toBe(4.02);
    expect(screen.video.paused).toBeFalse();
    expect(play(4.6, 5.02, 5.3)).toBe(5.3);
    // Whoever goes back sees it twice again; who leaves it by going elsewhere, does not.
    screen.video.currentTime = 4.4;
    expect(play(4.9, 5.03)).toBe(4);
    screen.video.currentTime = 4.4;
    expect(play(4.5)).toBe(4.5);
    screen.video.currentTime = 9;
    expect(play(9.1)).toBe(9.1);
  });

  it('looks from one place to another where it is to go on, and has a ruler as long as it lies in the picture', () => {
    begin({ passages: [{ from: 0, to: 10, near: { place: [0.25, 0.5], times: 2, to: [0.75, 0.5] } }] });
    const moved = (): number => parseFloat(/translate\((-?[\d.]+)%/.exec(screen.video.style.transform)![1]!);
    screen.show(0);
    expect(moved()).toBeCloseTo(0, 3);
    screen.show(5);
    expect(moved()).toBeCloseTo(-50, 3);
    screen.show(9.999);
    expect(moved()).toBeCloseTo(-100, 1);
    over.letGo();
    screen.stage.remove();
    const keys = [{ at: 0, place: [0.2, 0.5], end: [0.5, 0.9] }] as const;
    begin({ callouts: [{ kind: 'ruler', text: '8 diameters', keys, until: 9 }] });
    Object.assign(screen.stage.style, { position: 'relative', width: '400px', height: '200px' });
    screen.show(2);
    const ruler = screen.stage.querySelector<HTMLElement>('.over-film span')!;
    expect(parseFloat(ruler.style.width)).toBeCloseTo(Math.hypot(120, 80), 3);
    expect(parseFloat(/rotate\((.*)rad/.exec(ruler.style.transform)![1]!)).toBeCloseTo(Math.atan2(80, 120), 5);
    expect(screen.words).toEqual(['8 diameters']);
  });

  it('shows the drawing of the step where a hand hides it, and what is near; a desk sees a frame at rest whole', () => {
    begin(laid);
    screen.show(5.5);
    expect(screen.inset.hidden).toBeTrue();
    screen.show(7);
    expect(screen.inset.hidden).toBeFalse();
    expect(screen.inset.getAttribute('src')).toBe('/step-3.svg');
    expect(screen.video.style.transform).toContain('scale(2)');
    over.letGo();
    screen.stage.remove();
    begin(laid, true);
    screen.show(7);
    expect(screen.video.style.transform).toContain('scale(1)');
  });

  it('has an arrow down to a place, a cross over it, and what is blurred is not sharp', () => {
    const marked = (kind: FilmCallout['kind']): CSSStyleDeclaration => {
      over.letGo();
      screen.stage.remove();
      begin({ callouts: [{ kind, text: '', keys: [{ at: 0, place: [0.5, 0.5] }], until: 9 }] });
      screen.show(2);
      return screen.stage.querySelector<HTMLElement>('.over-film span')!.style;
    };
    begin({});
    // An arrow stands on its place; the others lie about it.
    expect(marked('arrow').transform).toBe('translate(-50%, -100%)');
    expect(marked('cross').background).toContain('gradient');
    expect(marked('cross').transform).toBe('translate(-50%, -50%)');
    expect(marked('blur').backdropFilter).toContain('blur');
  });

  it('is held still while it plays: what does not move stays in its place, with what is laid on it', () => {
    // The camera goes to the right: what does not move goes to the left in the frame.
    const steady = [0, 1, 2, 3, 4].map((at) => {
      const x = 0.6 - 0.02 * at;
      return { at, a: [x - 0.3, 0.4] as const, b: [x, 0.6] as const };
    });
    const callouts = [
      { kind: 'label', text: 'Mark', keys: steady.map(({ at, a }) => ({ at, place: a })), until: 4 },
    ] as const;
    const left = (): number => parseFloat(screen.stage.querySelector<HTMLElement>('.over-film span')!.style.left);
    begin({ steady, callouts });
    screen.show(0.5);
    const first = left();
    const before = screen.video.style.transform;
    screen.show(3.5);
    expect(left()).toBeCloseTo(first, 3);
    expect(screen.video.style.transform).not.toBe(before);
    expect(before).toContain('matrix(');
    over.letGo();
    screen.stage.remove();
    begin({ steady, callouts }, true);
    screen.show(0.5);
    expect(screen.video.style.transform).not.toContain('matrix(');
    const shaken = left();
    screen.show(3.5);
    expect(left()).toBeLessThan(shaken - 3);
  });
});
