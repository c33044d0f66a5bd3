/** The page on which a learner traces the own knot over a photograph of it (see `browser/yours`). */
import type { PublicKnot } from '@foxtrail/contract';
import { crossingsOf, finishedFigure, theKnot, type KnotDocument } from '@foxtrail/core';
import { html } from './html.js';
import { shownOf, type Shown } from './lesson.js';
import { frame, type PageFrame } from './page-frame.js';

/** Knots of more crossings than this are not traced by hand: their signature would take long, and a finger slips. */
const MOST_TRACED = 24;

/** Whether a learner's own knot may be held against this one. */
export function mayBeTraced({ entry, method }: KnotDocument): boolean {
  const count = crossingsOf(finishedFigure(method)).length;
  return entry.wrongWayOf === undefined && count > 0 && count <= MOST_TRACED;
}

/** The page on which a learner's own knot is held against a published one. */
export function yoursPage(
  { slug, vocabulary }: PublicKnot,
  knot: KnotDocument,
  shown: Shown,
  with_: PageFrame,
): string {
  const the = theKnot(knot.name);
  const { method, index, isLeft, queryFor } = shownOf(knot, shown);
  return frame(
    {
      title: `Show your ${knot.name.toLowerCase()}`,
      description: `Is yours ${the}? Trace it over a photograph: what it is, and where it is wrong, is told.`,
      isDesk: true,
      main: html`<main
        class="lay yours"
        data-yours="${slug}"
        data-name="${knot.name}"
        data-method="${index}"
        ${isLeft && html`data-left=""`}
        data-words="${JSON.stringify(vocabulary)}"
        data-crossings="${crossingsOf(finishedFigure(method)).length}"
      >
        <article>
          <header>
            <h1>Show your knot</h1>
            <p>
              Is it ${the}? Lay it flat and loose, photograph it from above, and trace it with your finger.
              <a href="/learn/${slug}${queryFor(shown.view)}">The lesson</a>
            </p>
          </header>
          <div class="laying" hidden></div>
          <noscript><p>To look at your knot it wants a script.</p></noscript>
          <p class="soft">
            Your photograph and what you trace stay on this device: nothing of them is sent. What is told rests on your
            trace: which strand goes over which. Where somebody could be hurt, have the knot itself checked by a
            qualified instructor.
          </p>
        </article>
      </main>`,
    },
    with_,
  );
}
