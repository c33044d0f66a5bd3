/** What is pulled and lifted, what a form measures, what is not dressed on it, and its file: an entrance of its own, so that pages which show none of it need not load it. */
export { cardFaceSvg, cardLayout, heatFaceSvg, type Heat } from './card.js';
export * from './eats.js';
export * from './file.js';
export * from './flaws.js';
export { lift, type Lift } from './lift.js';
export * from './measure.js';
export * from './picture.js';
export * from './slips.js';
export { namesOfParts, partsPulled, spelledOut, type PulledPart } from './pulls.js';
