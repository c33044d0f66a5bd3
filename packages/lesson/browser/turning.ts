/** The knot of a page, to be turned in the hand: fetched, with what draws it, when a learner asks for it. */
import type { InSpace } from '@foxtrail/contract';
import type { Station } from '@foxtrail/core/mesh';
import { press } from './press.js';

const SIDES: readonly (readonly [Station, string])[] = [
  ['front', 'As tied'],
  ['back', 'From behind'],
  ['left', 'From the left'],
  ['right', 'From the right'],
  ['end', 'End on'],
];
const NEARER = 1.25;

/** Offers to turn the knot, where the page has one. */
export function offerTurning(within: HTMLElement): void {
  const space = within.querySelector<HTMLElement>('[data-space]');
  const button = space?.querySelector<HTMLButtonElement>('[data-turn]');
  if (!space || !button) return;
  space.hidden = false;
  button.hidden = false;
  button.addEventListener('click', () => {
    button.disabled = true;
    button.textContent = 'Fetching …';
    showIn(space).then(
      (shown) => {
        if (!shown) say(space, 'This browser draws nothing in space. The sides below show the same knot.');
      },
      () => {
        button.disabled = false;
        button.textContent = 'Turn it in your hand';
        say(space, 'It could not be fetched. Press again when the connection is back.');
      },
    );
  });
}

function say(space: HTMLElement, text: string): void {
  const told = space.querySelector('p') ?? space.appendChild(document.createElement('p'));
  told.setAttribute('role', 'status');
  told.textContent = text;
}

async function showIn(space: HTMLElement): Promise<boolean> {
  const answer = await fetch(space.dataset.space ?? '');
  if (!answer.ok) throw new Error(String(answer.status));
  const [{ form, ropes }, { turntable }, { meshesOf, unpacked, PAPER_LOOK, STATION_TURNS }] = await Promise.all([
    answer.json() as Promise<InSpace>,
    import('./turntable.js'),
    import('@foxtrail/core/mesh'),
  ]);
  const paper = document.createElement('div');
  paper.className = 'paper';
  const sides = document.createElement('p');
  sides.className = 'stations';
  space.replaceChildren(paper, sides);
  const table = turntable(paper, meshesOf(ropes, unpacked(form), PAPER_LOOK), {
    ink: PAPER_LOOK.ink,
    label: `${form.name}, dressed and set, in space.`,
  });
  if (!table) {
    space.replaceChildren();
    return false;
  }
  sides.append(
    ...SIDES.map(([side, name]) => press(name, () => table.lookFrom(STATION_TURNS[side]))),
    press('Nearer', () => table.nearer(NEARER)),
    press('Farther', () => table.nearer(1 / NEARER)),
  );
  space.querySelector('canvas')?.focus();
  return true;
}
