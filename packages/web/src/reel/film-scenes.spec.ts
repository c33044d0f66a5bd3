import { PAPER_LOOK, WORKSHOP_WORDS, changeMethod, layoutsOf, type Method } from '@foxtrail/core';
import { steadied, steadyAt, type FilmCallout, type Footage } from '@foxtrail/core/footage';
import { reelTimeline, type Timeline } from '@foxtrail/core/reel';
import { overhand } from '../testing/knots';
import { BENEATH_VOICE, heardIn, mixedSound, SOUND_RATE } from './film-sound';
import { momentKey, paintMoment } from './paint';
import type { FilmPicture, Scene } from './scene';

const FILM = 'a'.repeat(64);
const film = (more: Partial<Footage> = {}): Footage => ({
  film: FILM,
  name: 'Take 1',
  duration: 10,
  frames: [],
  ...more,
});

function filmed(footage: Footage): Method {
  const { method } = overhand();
  const done = changeMethod(method, layoutsOf(method).length - 1, { kind: 'show', shown: { footage: [footage] } });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}
const timelineOf = (method: Method, from: number, to: number, beside?: boolean): Timeline =>
  reelTimeline(
    { method, name: 'Overhand knot', words: WORKSHOP_WORDS, pace: 'normal' },
    { name: 'R', scenes: [{ kind: 'film', film: FILM, from, to, ...(beside === true ? { beside } : {}) }] },
  );

/** A picture, red on its left and blue on its right. */
function picture(): FilmPicture {
  const image = document.createElement('canvas');
  [image.width, image.height] = [320, 180];
  const context = image.getContext('2d')!;
  context.fillStyle = '#c00000';
  context.fillRect(0, 0, 160, 180);
  context.fillStyle = '#0000c0';
  context.fillRect(160, 0, 160, 180);
  return { image, width: 320, height: 180 };
}

describe('A stretch of film in a reel', () => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [640, 360];
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const colour = (x: number, y: number): string => {
    const [r, g, b] = context.getImageData(x, y, 1, 1).data;
    return r! > 150 && b! < 60
      ? 'red'
      : b! > 150 && r! < 60
        ? 'blue'
        : r! > 200 && g! > 90 && g! < 190
          ? 'mark'
          : 'other';
  };
  const painted = (footage: Footage, time: number, more: Partial<Scene> = {}): Scene => {
    const method = filmed(footage);
    const scene: Scene = {
      method,
      timeline: timelineOf(method, 0, 10),
      view: 'front',
      look: PAPER_LOOK,
      title: 'Overhand knot',
      words: WORKSHOP_WORDS,
      filmed: () => picture(),
      ...more,
    };
    paintMoment(context, scene, time, 640, 360);
    return scene;
  };

  it('fills the picture as it was filmed; turned, and for the left hand, it is the other way round', () => {
    painted(film(), 1);
    expect([colour(100, 180), colour(540, 180)]).toEqual(['red', 'blue']);
    painted(film({ turned: true }), 1);
    expect([colour(100, 180), colour(540, 180)]).toEqual(['blue', 'red']);
    painted(film(), 1, { view: 'left' });
    expect([colour(100, 180), colour(540, 180)]).toEqual(['blue', 'red']);
    painted(film({ turned: true }), 1, { view: 'left' });
    expect([colour(100, 180), colour(540, 180)]).toEqual(['red', 'blue']);
  });
  it('is seen nearer where its author says so, and only then', () => {
    const near = { place: [1, 0.5], times: 2 } as const;
    const footage = film({ passages: [{ from: 2, to: 4, near }] });
    painted(footage, 3);
    expect(colour(100, 180)).toBe('blue');
    painted(footage, 5);
    expect(colour(100, 180)).toBe('red');
  });
  it('has a ring where its place is then, in the picture that is shown', () => {
    const keys = [{ at: 0, place: [0.25, 0.5] as const }];
    const ringed = film({ callouts: [{ kind: 'ring', text: '', keys, until: 5 }] });
    const edge = 0.08 * 360;
    painted(ringed, 1);
    expect(colour(160, 180 - edge)).toBe('mark');
    painted({ ...ringed, turned: true }, 1);
    expect([colour(160, 180 - edge), colour(480, 180 - edge)]).toEqual(['blue', 'mark']);
    painted(ringed, 6);
    expect(colour(160, 180 - edge)).toBe('red');
  });
  it('is held still by two places, what is pointed out with it, and no edge of a frame comes into the picture', () => {
    // The camera goes to the right: its picture is moved to the right again, as far.
    const steady = [0, 1, 2, 3, 4].map((at) => {
      const x = 0.6 - 0.02 * at;
      return { at, a: [x - 0.3, 0.4] as const, b: [x, 0.6] as const };
    });
    const boundary = (footage: Footage, time: number): number => {
      painted(footage, time);
      let x = 60;
      while (x < 600 && colour(x, 60) === 'red') x += 1;
      return x;
    };
    expect(Math.abs(boundary(film(), 1) - 320)).toBeLessThanOrEqual(1);
    const still = film({ steady });
    expect(boundary(still, 3) - boundary(still, 1)).toBeGreaterThan(20);
    for (const time of [0, 2, 4]) {
      painted(still, time);
      expect([colour(1, 180), colour(638, 180)]).toEqual(['red', 'blue']);
    }
    const place = steadied([0.5, 0.5], steadyAt(still, 3, 320 / 180), 320 / 180);
    expect(Math.abs(boundary(still, 3) - 640 * place[0])).toBeLessThanOrEqual(2);
  });
  it('has an arrow down to a place, a cross over it, or is blurred there', () => {
    const pointed = (kind: FilmCallout['kind']): void => {
      const keys = [{ at: 0, place: [0.25, 0.5] as const }];
      painted(film({ callouts: [{ kind, text: '', keys, until: 5 }] }), 1);
    };
    pointed('arrow');
    // Its point is at the place, its shaft above.
    expect([colour(160, 180 - 0.03 * 360), colour(160, 180 - 0.12 * 360), colour(160, 180 + 8)]).toEqual([
      'mark',
      'mark',
      'red',
    ]);
    pointed('cross');
    expect([colour(160, 180), colour(160 - 10, 180 - 10), colour(160, 180 - 14)]).toEqual(['mark', 'mark', 'red']);
    // Where red meets blue, blurred, neither is left; beyond it both are.
    const keys = [{ at: 0, place: [0.5, 0.5] as const }];
    painted(film({ callouts: [{ kind: 'blur', text: '', keys, until: 5 }] }), 1);
    expect([colour(318, 180), colour(322, 180)]).toEqual(['other', 'other']);
    expect([colour(318, 120), colour(322, 120)]).toEqual(['red', 'blue']);
  });
  it('says that it is being fetched until its picture is there, and another frame is another picture', () => {
    const scene = painted(film(), 1, { filmed: () => undefined });
    expect(colour(100, 100)).toBe('other');
    const fetched = context.getImageData(0, 0, 640, 360).data.join();
    painted(film(), 1, { filmed: () => 'lost' });
    expect(context.getImageData(0, 0, 640, 360).data.join()).not.toBe(fetched);
    expect(momentKey(scene, 1)).not.toBe(momentKey(scene, 1.05));
  });
  it('shows the drawing of the step where a hand hides the knot', () => {
    const hidden = film({ steps: [{ step: 0, at: 0 }], passages: [{ from: 2, to: 4, hidden: true }] });
    painted(hidden, 1);
    expect(colour(600, 30)).toBe('blue');
    painted(hidden, 3);
    expect(colour(600, 30)).toBe('other');
    expect(colour(100, 180)).toBe('red');
  });
  it('has the drawing of its step beside it where that is asked for, farther laid as the film goes on', () => {
    const footage = film({
      steps: [
        { step: 0, at: 0 },
        { step: 1, at: 4 },
      ],
    });
    const timeline = timelineOf(filmed(footage), 0, 10, true);
    const laid = (time: number): number => {
      painted(footage, time, { timeline });
      const { data } = context.getImageData(420, 0, 220, 360);
      const [r, g, b] = [1, 3, 5].map((i) => parseInt(PAPER_LOOK.working.slice(i, i + 2), 16));
      let n = 0;
      for (let i = 0; i < data.length; i += 4)
        if (Math.abs(data[i]! - r!) + Math.abs(data[i + 1]! - g!) + Math.abs(data[i + 2]! - b!) < 24) n += 1;
      return n;
    };
    expect(laid(3.9)).toBeGreaterThan(laid(1));
    // The film is whole, smaller, and nothing lies over it.
    expect([colour(40, 180), colour(380, 180), colour(40, 30)]).toEqual(['red', 'blue', 'other']);
  });
});

/** A film that sounds for so many seconds, as a WAVE file: 16 bits, one channel. */
function sounding(seconds: number, rate = 8000): ArrayBuffer {
  const count = seconds * rate;
  const bytes = new DataView(new ArrayBuffer(44 + 2 * count));
  const text = (at: number, s: string): void =>
    new TextEncoder().encode(s).forEach((code, i) => bytes.setUint8(at + i, code));
  text(0, 'RIFF');
  bytes.setUint32(4, 36 + 2 * count, true);
  text(8, 'WAVEfmt ');
  bytes.setUint32(16, 16, true);
  bytes.setUint16(20, 1, true);
  bytes.setUint16(22, 1, true);
  bytes.setUint32(24, rate, true);
  bytes.setUint32(28, 2 * rate, true);
  bytes.setUint16(32, 2, true);
  bytes.setUint16(34, 16, true);
  text(36, 'data');
  bytes.setUint32(40, 2 * count, true);
  // Loud in its second half only.
  for (let i = 0; i < count; i += 1) bytes.setInt16(44 + 2 * i, i < count / 2 ? 0 : i % 16 < 8 ? 12000 : -12000, true);
  return bytes.buffer;
}

describe('What is heard of films in a reel', () => {
  const stop = new AbortController().signal;
  it('lies where the film is shown, as quick as it is played', async () => {
    spyOn(window, 'fetch').and.callFake(() => Promise.resolve(new Response(sounding(10))));
    const method = filmed(film({ passages: [{ from: 6, to: 8, speed: 0.5, still: 1 }] }));
    const timeline = timelineOf(method, 4, 10);
    expect(heardIn(timeline).map(({ start, lasts, speed }) => [start, lasts, speed])).toEqual([
      [0, 2, 1],
      [3, 4, 0.5],
      [7, 2, 1],
    ]);
    const sound = (await mixedSound(timeline, stop))!;
    expect(sound.channels[0]!.length).toBe(9 * SOUND_RATE);
    const loud = (at: number): boolean =>
      sound.channels[0]!.subarray(at * SOUND_RATE, (at + 0.2) * SOUND_RATE).some((v) => Math.abs(v) > 0.2);
    // From 5 seconds of the film on; while it stands still there is silence.
    expect([0.4, 1.4, 2.4, 3.4, 5, 8].map(loud)).toEqual([false, true, false, true, true, true]);
  });
  it('is a voice over its scene, the film low beneath it', async () => {
    spyOn(window, 'fetch').and.callFake(() => Promise.resolve(new Response(sounding(10))));
    const method = filmed(film());
    const voice = { sound: 'b'.repeat(64), from: 5, to: 7 };
    const timeline = reelTimeline(
      { method, name: 'Overhand knot', words: WORKSHOP_WORDS, pace: 'normal' },
      {
        name: 'R',
        scenes: [
          { kind: 'card', text: 'Look.', seconds: 4, voice },
          { kind: 'film', film: FILM, from: 5, to: 9, voice },
        ],
      },
    );
    expect(heardIn(timeline).map(({ film: of, start, lasts, loud }) => [of[0], start, lasts, loud])).toEqual([
      ['b', 0, 2, 1],
      ['b', 4, 2, 1],
      ['a', 4, 4, BENEATH_VOICE],
    ]);
    const sound = (await mixedSound(timeline, stop))!;
    const loud = (at: number): number =>
      sound.channels[0]!.subarray(at * SOUND_RATE, (at + 0.2) * SOUND_RATE).reduce(
        (m, v) => Math.max(m, Math.abs(v)),
        0,
      );
    expect(loud(1)).toBeGreaterThan(0.3);
    expect(loud(3)).toBe(0);
    // The voice alone, of a film that is as loud as it is: a fifth of that is left when it has ended.
    expect(loud(7) / loud(1)).toBeCloseTo(BENEATH_VOICE, 1);
    expect(loud(5)).toBeGreaterThan(0.3);
  });
  it('is nothing where no film sounds, and a film that cannot be fetched is told', async () => {
    const timeline = timelineOf(filmed(film()), 0, 2);
    spyOn(window, 'fetch').and.returnValues(
      Promise.resolve(new Response(new ArrayBuffer(10))),
      Promise.resolve(new Response('', { status: 404 })),
    );
    expect(await mixedSound(timeline, stop)).toBeUndefined();
    await expectAsync(mixedSound(timeline, stop)).toBeRejectedWithError(/cannot be fetched/);
  });
});
