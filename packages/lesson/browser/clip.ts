/** The desk under a clip: its steps to go to, slowly, a step again and again, frame by frame. The clip plays without it. */
import { press } from './press.js';

/** Speeds that are offered, and how each is called. */
const SPEEDS: readonly (readonly [speed: number, name: string])[] = [
  [1, 'Full speed'],
  [0.5, 'Half speed'],
  [0.25, 'Quarter speed'],
];
/** A frame of the slowest rate that Reel exports, in seconds. */
const FRAME = 1 / 25;
/** A step that is shown again is left this long before its end, in seconds: its last frame is not yet the next one's. */
const BEFORE_END = 0.05;

const group = (name: string, ...buttons: readonly HTMLButtonElement[]): HTMLElement => {
  const made = document.createElement('div');
  made.setAttribute('role', 'group');
  made.setAttribute('aria-label', name);
  made.append(...buttons);
  return made;
};

const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** Sets the desk under the clip of a page, where it has one. */
export function offerClip(within: HTMLElement): void {
  const video = within.querySelector<HTMLVideoElement>('.clip video');
  const desk = within.querySelector<HTMLElement>('.clip .desk');
  const source = video?.querySelector<HTMLTrackElement>('track[kind="chapters"]');
  if (!video || !desk || !source) return;
  const said = document.createElement('ol');
  const steps = (): readonly TextTrackCue[] => [...(source.track.cues ?? [])];
  const isNow = (cue: TextTrackCue): boolean => video.currentTime >= cue.startTime && video.currentTime < cue.endTime;

  /** The step that is shown again and again. */
  let again: TextTrackCue | undefined;
  const speeds = SPEEDS.map(([speed, name]) =>
    press(name, () => {
      video.playbackRate = speed;
    }),
  );
  const repeat = press('This step again and again', () => {
    again = again ? undefined : steps().find(isNow);
    repeat.setAttribute('aria-pressed', String(again !== undefined));
    if (again) void video.play();
  });
  repeat.setAttribute('aria-pressed', 'false');
  const step = (by: 1 | -1): void => {
    video.pause();
    video.currentTime = Math.min(video.duration, Math.max(0, video.currentTime + by * FRAME));
  };
  const goTo = (cue: TextTrackCue): void => {
    if (again) again = cue;
    video.currentTime = cue.startTime;
    void video.play();
  };

  const shown = (): void => {
    SPEEDS.forEach(([speed], i) => speeds[i]?.setAttribute('aria-pressed', String(video.playbackRate === speed)));
    steps().forEach((cue, i) => {
      const line = said.children[i]?.querySelector('button');
      if (isNow(cue)) line?.setAttribute('aria-current', 'step');
      else line?.removeAttribute('aria-current');
    });
    repeat.disabled = !again && !steps().some(isNow);
  };
  const keepTo = (): void => {
    if (again && !video.paused && video.currentTime >= again.endTime - BEFORE_END) video.currentTime = again.startTime;
    shown();
  };
  // The last step ends where the clip does, which stops there.
  const atEnd = (): void => {
    if (again) goTo(again);
  };
  const write = (): void => {
    said.replaceChildren(
      ...steps().map((cue) => {
        const line = document.createElement('li');
        const button = press('', () => goTo(cue));
        button.className = 'line';
        const at = document.createElement('span');
        at.textContent = clock(cue.startTime);
        button.append(at, ` ${(cue as VTTCue).text}`);
        line.append(button);
        return line;
      }),
    );
    desk.hidden = steps().length === 0;
    shown();
  };
  desk.append(
    group('Speed', ...speeds),
    group(
      'Frames',
      press('One frame back', () => step(-1)),
      press('One frame on', () => step(1)),
    ),
    group('Repeat', repeat),
    said,
  );
  // A chapter track is read only when it is asked for.
  source.track.mode = 'hidden';
  source.addEventListener('load', write);
  video.addEventListener('timeupdate', keepTo);
  video.addEventListener('ended', atEnd);
  video.addEventListener('seeked', shown);
  video.addEventListener('ratechange', shown);
  video.closest('.clip')?.addEventListener('keydown', (event) => {
    const { key, ctrlKey, metaKey, altKey } = event as KeyboardEvent;
    if (ctrlKey || metaKey || altKey) return;
    if (key === ',') step(-1);
    else if (key === '.') step(1);
    else return;
    event.preventDefault();
  });
  if (source.readyState === HTMLTrackElement.LOADED) write();
}
