/** Shapes that rope is laid in: turns of a coil, barrels, slings. An entrance of its own: what only shows knots need not carry it. */
export { barrel, barrelWeave, coil, CORE, halfCircle, PITCH, throughBarrel } from './barrel.js';
export { slingRound } from './sling.js';
