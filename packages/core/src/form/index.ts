/** What a form measures, and its file: an entrance of its own, so that pages which show none of it need not load it. */
export { cardFaceSvg } from './card.js';
export * from './file.js';
export * from './flaws.js';
export * from './measure.js';
