/** A picture of the lesson brought near: over the whole window, moved with a finger, closer and farther by buttons, pinch or keys. */

import { press } from './press.js';

/** How much closer one press brings it; the most it is brought near against a picture that fills the window. */
const CLOSER = 1.5;
const MOST = 8;
/** How near it is at first, against the picture that just fits: where the window is much taller or wider, it fills it. */
const AT_FIRST = 3;

/** Brings a picture near, by taking it out of its place; it is put back when it is let go of. */
export function bringNear(paper: HTMLElement): void {
  const picture = paper.querySelector<SVGSVGElement | HTMLImageElement>('svg, img');
  if (!picture) return;
  const place = document.createComment('brought near');
  const dialog = document.createElement('dialog');
  dialog.className = 'near';
  dialog.setAttribute('aria-label', picture.getAttribute('aria-label') ?? picture.getAttribute('alt') ?? 'Picture');
  const field = document.createElement('div');
  field.className = 'field';
  field.tabIndex = 0;
  const bar = document.createElement('div');
  bar.className = 'bar';
  const { width, height } =
    picture instanceof SVGSVGElement
      ? picture.viewBox.baseVal
      : { width: picture.naturalWidth, height: picture.naturalHeight };
  const shape = width > 0 && height > 0 ? width / height : 1;
  let near = 1;
  /** Sets how near it is; what was in the middle stays there. */
  const bring = (to: number): void => {
    const fits = Math.min(field.clientWidth, field.clientHeight * shape);
    const [x, y] = [
      (field.scrollLeft + field.clientWidth / 2) / Math.max(1, field.scrollWidth),
      (field.scrollTop + field.clientHeight / 2) / Math.max(1, field.scrollHeight),
    ];
    near = Math.min(MOST, Math.max(1, to));
    picture.style.width = `${fits * near}px`;
    picture.style.height = `${(fits * near) / shape}px`;
    field.scrollLeft = x * field.scrollWidth - field.clientWidth / 2;
    field.scrollTop = y * field.scrollHeight - field.clientHeight / 2;
    farther.disabled = near <= 1;
    closer.disabled = near >= MOST;
  };
  const closer = press('Closer', () => bring(near * CLOSER));
  const farther = press('Farther', () => bring(near / CLOSER));
  bar.append(
    farther,
    closer,
    press('Close', () => dialog.close()),
  );
  dialog.append(field, bar);
  const style = picture.getAttribute('style');
  dialog.addEventListener('close', () => {
    if (style === null) picture.removeAttribute('style');
    else picture.setAttribute('style', style);
    place.replaceWith(picture);
    dialog.remove();
  });
  dialog.addEventListener('keydown', (event) => {
    if (event.key === '+' || event.key === '=') bring(near * CLOSER);
    else if (event.key === '-') bring(near / CLOSER);
    else return;
    event.preventDefault();
  });
  paper.closest('.lesson')?.append(dialog);
  picture.replaceWith(place);
  field.append(picture);
  dialog.showModal();
  const [w, h] = [field.clientWidth, field.clientHeight];
  const fits = Math.min(w, h * shape);
  bring(Math.min(AT_FIRST, Math.max(w / fits, (h * shape) / fits)));
  field.focus();
}
