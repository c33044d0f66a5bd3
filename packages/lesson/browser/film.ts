/**
 * The desk under a film: slowly, frame by frame. One that is played the other way round than it was filmed has no controls of the browser,
 * which would be turned with it, but a press to play it and a place in it. Films play without the script.
 */
import { press } from './press.js';
import { framesOf, group, speedsOf } from './video-desk.js';

/** Sets the desks under the films of a page. */
export function offerFilms(within: HTMLElement): void {
  for (const section of within.querySelectorAll<HTMLElement>('.film')) {
    const video = section.querySelector('video');
    const desk = section.querySelector<HTMLElement>('.desk');
    if (!video || !desk) continue;
    const turned = section.classList.contains('turned');
    video.controls = !turned;
    desk.append(...(turned ? [playing(video)] : []), speedsOf(video), framesOf(video, section));
    desk.hidden = false;
  }
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
