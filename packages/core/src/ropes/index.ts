/** Ropes: stock, measures, planning, loads and tests, by an entrance of their own. */
export * from './body.js';
export * from './cut-list.js';
export * from './knot-ref.js';
export * from './load-cell.js';
export * from './loads.js';
export * from './plan.js';
export * from './rope-use.js';
export * from './shoot.js';
export * from './statistics.js';
export * from './stock-csv.js';
export * from './stock.js';
export * from './tail-rule.js';
export * from './pull-test.js';
export * from './units.js';
