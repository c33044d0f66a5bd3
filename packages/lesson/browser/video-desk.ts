/** What every desk under a video has: its speed, and one frame back and on, with the keys , and . */
import { press } from './press.js';

/** Speeds that are offered, and how each is called. */
const SPEEDS: readonly (readonly [speed: number, name: string])[] = [
  [1, 'Full speed'],
  [0.5, 'Half speed'],
  [0.25, 'Quarter speed'],
];
/** A frame of the slowest usual rate, in seconds. */
const FRAME = 1 / 25;

export const group = (name: string, ...buttons: readonly HTMLElement[]): HTMLElement => {
  const made = document.createElement('div');
  made.setAttribute('role', 'group');
  made.setAttribute('aria-label', name);
  made.append(...buttons);
  return made;
};

/** Speeds of a video; the one in hand is seen. */
export function speedsOf(video: HTMLVideoElement): HTMLElement {
  const speeds = SPEEDS.map(([speed, name]) =>
    press(name, () => {
      video.playbackRate = speed;
    }),
  );
  const shown = (): void =>
    SPEEDS.forEach(([speed], i) => speeds[i]?.setAttribute('aria-pressed', String(video.playbackRate === speed)));
  video.addEventListener('ratechange', shown);
  shown();
  return group('Speed', ...speeds);
}

/** A video frame by frame; the keys work anywhere in its section. */
export function framesOf(video: HTMLVideoElement, section: HTMLElement): HTMLElement {
  const step = (by: 1 | -1): void => {
    video.pause();
    video.currentTime = Math.min(video.duration, Math.max(0, video.currentTime + by * FRAME));
  };
  section.addEventListener('keydown', (event) => {
    const { key, ctrlKey, metaKey, altKey } = event;
    if (ctrlKey || metaKey || altKey) return;
    if (key === ',') step(-1);
    else if (key === '.') step(1);
    else return;
    event.preventDefault();
  });
  return group(
    'Frames',
    press('One frame back', () => step(-1)),
    press('One frame on', () => step(1)),
  );
}
