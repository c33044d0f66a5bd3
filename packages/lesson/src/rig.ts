/** An assembly on a page: what it is, its cautions, its board, and what is looked at before it is loaded. */
import { cautionsFor, type UseGrade } from '@foxtrail/core';
import { html, raw, type Html } from './html.js';

export interface Rig {
  readonly name: string;
  readonly summary: string;
  readonly useGrade: UseGrade;
  readonly cautions: readonly string[];
  /** Its board, as SVG. */
  readonly board: string;
  readonly groups: readonly {
    readonly title: string;
    readonly number: number | null;
    readonly items: readonly { readonly text: string }[];
  }[];
}

/** Where it is looked at: on paper one draws a tick, on a screen one presses. */
export type Looked = 'on paper' | 'on a screen';

/** What is looked at, group by group. */
export const rigGroups = ({ groups }: Pick<Rig, 'groups'>, looked: Looked): Html =>
  html`${groups.map(
    (g) =>
      html`<section class="card">
        <h3>${g.number !== null && `${g.number}. `}${g.title}</h3>
        <ul class="check">
          ${g.items.map((i) =>
            looked === 'on paper'
              ? html`<li>${i.text}</li>`
              : html`<li>
                  <label><input type="checkbox" /> ${i.text}</label>
                </li>`,
          )}
        </ul>
      </section>`,
  )}`;

/** All of it; `order` is what stands between the board and what is looked at. */
export const rigHtml = (rig: Rig, looked: Looked, order?: Html): Html =>
  html`<article class="lesson">
    <header>
      <h1>${rig.name}</h1>
      <p class="chips"><span class="chip">${rig.useGrade}</span></p>
      ${rig.summary !== '' && html`<p class="summary">${rig.summary}</p>`}
    </header>
    <section class="cautions" aria-label="Cautions">
      <h2>Before you begin</h2>
      <ul>
        ${cautionsFor(rig.useGrade, rig.cautions).map((c) => html`<li>${c}</li>`)}
      </ul>
    </section>
    <div class="rig-board">${raw(rig.board)}</div>
    <p class="soft">Not to scale. The numbers are the order of tying.</p>
    ${order}
    <h2>Look at it before it is loaded</h2>
    ${rigGroups(rig, looked)}
  </article>`;
