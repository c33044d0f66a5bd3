/**
 * The page on which a learner lays a knot, a move at a time (see `browser/lay`). Without a script it says what is to be laid in rope.
 */
import type { PublicKnot } from '@foxtrail/contract';
import { leftHanded, stepText, theKnot, type KnotDocument } from '@foxtrail/core';
import { isToLay, stepsToLay } from '@foxtrail/core/drill';
import { html } from './html.js';
import { shownOf, type Shown } from './lesson.js';
import { frame, type PageFrame } from './page-frame.js';
import { stepWords } from './parts.js';
import { consent } from './practice.js';

/** Whether there is something of a knot that a learner may lay: a move by an end. */
export const mayBeLaid = ({ entry, method }: KnotDocument): boolean =>
  entry.wrongWayOf === undefined && stepsToLay(method).some(isToLay);

/** The page on which a published knot is laid; the method and the hand as the address asks. */
export function layPage(
  { slug, revision, house, vocabulary }: PublicKnot,
  knot: KnotDocument,
  shown: Shown,
  with_: PageFrame,
): string {
  const the = theKnot(knot.name);
  const { method, index, isLeft, queryFor } = shownOf(knot, shown);
  const said = isLeft ? leftHanded(method) : method;
  return frame(
    {
      title: `Lay ${the}`,
      description: `Lay ${the} yourself, a move at a time; each is looked at.`,
      isDesk: true,
      main: html`<main
        class="lay"
        data-lay="${slug}"
        data-name="${knot.name}"
        data-revision="${revision}"
        data-method="${index}"
        ${isLeft && html`data-left=""`}
        data-words="${JSON.stringify(vocabulary)}"
      >
        <article>
          <header>
            <h1>Lay ${the}</h1>
            <p>
              Lead the end with your finger; press a crossing to turn it over.
              <a href="/learn/${slug}${queryFor(shown.view)}">The lesson</a> ·
              <a href="/learn/${slug}/lay${queryFor(isLeft ? 'front' : 'left')}"
                >${isLeft ? 'Right-handed' : 'Left-handed'}</a
              >
            </p>
          </header>
          <div class="laying" hidden></div>
          <noscript><p>To be laid on the screen it wants a script. Lay it in rope, move by move:</p></noscript>
          <ol class="moves">
            ${stepsToLay(method).map((s) => html`<li data-step="${s.index}">${stepWords(stepText(said, s.index, vocabulary))}</li>`)}
          </ol>
          ${consent(house.name)}
          <p class="soft">
            What is looked at is which strand goes over which. Lying, dressing and the tail want the rope in your hand:
            where somebody could be hurt, have yours checked by a qualified instructor.
          </p>
        </article>
      </main>`,
    },
    with_,
  );
}
