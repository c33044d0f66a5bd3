/** The step player of a lesson that is on the page: goes from step to step by buttons and keys, and asks for other views and methods. */
import { bringNear } from './near.js';
import { offerRoom } from './room.js';
import { VIEW_NAMES, type ViewName } from './views.js';

export interface Asked {
  readonly method: number;
  readonly view: ViewName;
}

export interface PlayerOptions {
  /** Step that is shown first, from 0. */
  readonly step?: number;
  /** Told of every step that is gone to. */
  readonly moved?: (step: number) => void;
  /** It may fill the screen. */
  readonly forRooms?: boolean;
  /** Another view or method was asked for; the lesson is to be written anew, and played again. */
  readonly ask: (asked: Asked) => void;
}

/** Plays the lesson within an element; what is returned lets go of it. */
export function playLesson(within: HTMLElement, { step = 0, moved, forRooms = false, ask }: PlayerOptions): () => void {
  const ended = new AbortController();
  const { signal } = ended;
  const player = within.querySelector<HTMLElement>('.player');
  const slides = [...within.querySelectorAll<HTMLElement>('.player .slide')];
  let at = Math.min(step, slides.length - 1);

  const show = (to: number): void => {
    at = Math.min(slides.length - 1, Math.max(0, to));
    const slide = slides[at];
    moved?.(at);
    if (!player || !slide) return;
    slide.hidden = false;
    // One step is there at a time: for the eye, for the keyboard and for a screen reader.
    player.querySelector('.slides')?.replaceChildren(slide);
    for (const button of player.querySelectorAll<HTMLButtonElement>('[data-go]')) {
      button.hidden = false;
      button.disabled = Number(button.dataset.go) < 0 ? at === 0 : at === slides.length - 1;
    }
    const enlarge = player.querySelector<HTMLElement>('[data-near]');
    if (enlarge) enlarge.hidden = false;
    const of = player.querySelector<HTMLElement>('.of');
    if (of) {
      of.hidden = false;
      of.textContent = `Step ${at + 1} of ${slides.length}`;
    }
  };

  /** The picture of the step that is shown. */
  const nearest = (): HTMLElement | undefined => player?.querySelector<HTMLElement>('.slide .paper') ?? undefined;

  const asked = (link: HTMLElement): Asked => ({
    method: Number(link.dataset.method),
    view: link.dataset.view as ViewName,
  });
  within.addEventListener(
    'click',
    (event) => {
      const target = event.target instanceof Element ? event.target : undefined;
      const go = target?.closest<HTMLElement>('[data-go]');
      const to = target?.closest<HTMLElement>('[data-step]');
      const other = target?.closest<HTMLElement>('[data-view]');
      const near = target?.closest('[data-near]') ? nearest() : target?.closest<HTMLElement>('.paper');
      if (go) show(at + Number(go.dataset.go));
      else if (to) {
        show(Number(to.dataset.step));
        player?.focus();
        player?.scrollIntoView({ block: 'nearest' });
      } else if (other && !event.ctrlKey && !event.metaKey) ask(asked(other));
      else if (near && !near.closest('a, dialog')) bringNear(near);
      else return;
      event.preventDefault();
    },
    { signal },
  );
  player?.addEventListener(
    'keydown',
    (event) => {
      const { key } = event;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (key === 'ArrowRight' || key === '.') show(at + 1);
      else if (key === 'ArrowLeft' || key === ',') show(at - 1);
      else if (key === 'Home') show(0);
      else if (key === 'End') show(slides.length - 1);
      else if (key === '+' || key === '=') {
        const paper = nearest();
        if (paper) bringNear(paper);
      } else if (key.toLowerCase() === 'v') {
        const here = player.querySelector<HTMLElement>('.views [aria-current]');
        if (!here) return;
        const { method, view } = asked(here);
        ask({ method, view: VIEW_NAMES[(VIEW_NAMES.indexOf(view) + 1) % VIEW_NAMES.length] as ViewName });
      } else return;
      event.preventDefault();
    },
    { signal },
  );
  if (player && forRooms) offerRoom(player, (by) => show(at + by), signal);
  show(at);
  return () => ended.abort();
}
