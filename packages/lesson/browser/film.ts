/**
 * The desk under a film: slowly, frame by frame. One that is played the other way round than it was filmed has no controls of the browser,
 * which would be turned with it, but a press to play it and a place in it, and its captions beneath. So has one that is seen nearer at times.
 * What its author laid over it is shown. Films play without the script.
 */
import { stepsOf } from './clip.js';
import { layOver, type LaidOver } from './over-film.js';
import { press } from './press.js';
import { framesOf, group, speedsOf } from './video-desk.js';

/** Sets the desks under the films of a page. */
export function offerFilms(within: HTMLElement): void {
  for (const section of within.querySelectorAll<HTMLElement>('.film')) {
    const video = section.querySelector('video');
    const desk = section.querySelector<HTMLElement>('.desk');
    if (!video || !desk) continue;
    const turned = section.classList.contains('turned');
    const laid = laidOver(section);
    const own = turned || laid?.passages?.some((p) => p.near !== undefined) === true;
    video.controls = !own;
    const source = video.querySelector<HTMLTrackElement>('track[kind="chapters"]');
    const steps = source ? stepsOf(video, source, () => undefined) : [];
    desk.append(...(own ? [playing(video)] : []), speedsOf(video), framesOf(video, section), ...steps);
    if (own) readBeneath(video);
    if (laid) lay(video, laid, section.dataset.steps ?? '');
    desk.hidden = false;
  }
}

/** What the page says is laid over a film. */
function laidOver({ dataset: { over } }: HTMLElement): LaidOver | undefined {
  return over === undefined ? undefined : (JSON.parse(over) as LaidOver);
}

/** Lays it over; `steps` is the address of the drawing of a step, its number left out. */
function lay(video: HTMLVideoElement, laid: LaidOver, steps: string): void {
  const stage = document.createElement('div');
  stage.className = 'stage';
  video.replaceWith(stage);
  stage.append(video);
  layOver(video, stage, { film: () => laid, picture: (step) => steps.replace('{step}', String(step + 1)) });
}

/** Captions that the browser draws are turned with the film: what is said stands beneath it instead. */
function readBeneath(video: HTMLVideoElement): void {
  const track = [...video.textTracks].find((t) => t.kind === 'captions');
  if (!track) return;
  track.mode = 'hidden';
  const line = document.createElement('p');
  line.className = 'now-said';
  track.addEventListener('cuechange', () => {
    const cues = Array.from(track.activeCues ?? []) as VTTCue[];
    line.textContent = cues.map((c) => c.text.replace(/\s+/g, ' ')).join(' ');
  });
  video.after(line);
}

/** Play, pause, and the place in a film. */
function playing(video: HTMLVideoElement): HTMLElement {
  const play = press('Play', () => {
    if (video.paused) void video.play();
    else video.pause();
  });
  const place = document.createElement('input');
  place.type = 'range';
  place.min = '0';
  place.step = '0.01';
  place.setAttribute('aria-label', 'Place in the film');
  const shown = (): void => {
    play.textContent = video.paused ? 'Play' : 'Pause';
    if (Number.isFinite(video.duration)) place.max = String(video.duration);
    place.value = String(video.currentTime);
  };
  place.addEventListener('input', () => {
    video.currentTime = Number(place.value);
  });
  for (const event of ['play', 'pause', 'timeupdate', 'loadedmetadata', 'durationchange'] as const)
    video.addEventListener(event, shown);
  video.addEventListener('click', () => play.click());
  shown();
  return group('Film', play, place);
}
