/** The steps of a video, by its chapters: each to go to, the one that is shown again and again. */
import { press } from './press.js';
import { framesOf, group, speedsOf } from './video-desk.js';

/** A step that is shown again is left this long before its end, in seconds: its last frame is not yet the next one's. */
const BEFORE_END = 0.05;

const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** The steps of a video as a desk offers them; `written` is told how many there are. */
export function stepsOf(
  video: HTMLVideoElement,
  source: HTMLTrackElement,
  written: (count: number) => void,
): readonly HTMLElement[] {
  const said = document.createElement('ol');
  const steps = (): readonly TextTrackCue[] => [...(source.track.cues ?? [])];
  const isNow = (cue: TextTrackCue): boolean => video.currentTime >= cue.startTime && video.currentTime < cue.endTime;

  /** The step that is shown again and again. */
  let again: TextTrackCue | undefined;
  const repeat = press('This step again and again', () => {
    again = again ? undefined : steps().find(isNow);
    repeat.setAttribute('aria-pressed', String(again !== undefined));
    if (again) void video.play();
  });
  repeat.setAttribute('aria-pressed', 'false');
  const goTo = (cue: TextTrackCue): void => {
    if (again) again = cue;
    video.currentTime = cue.startTime;
    void video.play();
  };

  const shown = (): void => {
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
    written(steps().length);
    shown();
  };
  // A chapter track is read only when it is asked for.
  source.track.mode = 'hidden';
  source.addEventListener('load', write);
  video.addEventListener('timeupdate', keepTo);
  video.addEventListener('ended', atEnd);
  video.addEventListener('seeked', shown);
  if (source.readyState === HTMLTrackElement.LOADED) write();
  return [group('Repeat', repeat), said];
}

/** Sets the desk under the clip of a page, where it has one. The clip plays without it. */
export function offerClip(within: HTMLElement): void {
  const section = within.querySelector<HTMLElement>('.clip');
  const video = section?.querySelector('video');
  const desk = section?.querySelector<HTMLElement>('.desk');
  const source = video?.querySelector<HTMLTrackElement>('track[kind="chapters"]');
  if (!section || !video || !desk || !source) return;
  const steps = stepsOf(video, source, (count) => (desk.hidden = count === 0));
  desk.append(speedsOf(video), framesOf(video, section), ...steps);
}
