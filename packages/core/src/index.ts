/**
 * The core: everything that decides whether a knot is shown correctly. No interface, no I/O.
 */
export * from './figure/point.js';
export * from './figure/refusal.js';
export * from './figure/figure.js';
export * from './figure/curve.js';
export * from './figure/crossings.js';
export * from './figure/mapping.js';
export * from './figure/edit.js';
export * from './figure/history.js';
export * as laurent from './topology/laurent.js';
export { sayJones, TooWide, type Laurent } from './topology/laurent.js';
export * from './topology/bracket.js';
export * from './topology/planar-map.js';
export * from './topology/tangle.js';
export * from './topology/skein.js';
export * from './topology/pd.js';
export * from './topology/views.js';
export * from './topology/strands.js';
export * from './topology/simplify.js';
export * from './identity/signature.js';
export * from './tying/method.js';
export * from './tying/method-edit.js';
export * from './tying/compose.js';
export * from './dressing/tail.js';
export * from './dressing/findings.js';
export * from './drawing/drawing.js';
export * from './drawing/look.js';
export * from './drawing/svg.js';
export * from './drawing/steps.js';
export * from './ropes/tail-rule.js';
export * from './reel/timeline.js';
export * from './reel/captions.js';
export * from './words/vocabulary.js';
export * from './words/classes.js';
export * from './words/cautions.js';
export * from './formats/figure-json.js';
