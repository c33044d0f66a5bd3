/** Every route of the contract, by an entrance of its own: who only calls some of them need not load the others. */
import { ASSEMBLY_ROUTES } from './assemblies.js';
import { CLASS_ROUTES } from './classes.js';
import { COURSE_ROUTES } from './courses.js';
import { DRILL_ROUTES } from './drill.js';
import { FILM_ROUTES } from './films.js';
import { HOUSE_ROUTES } from './house.js';
import { KIN_ROUTES } from './kin.js';
import { KNOT_ROUTES, PUBLIC_ROUTES } from './knots.js';
import { REVIEW_ROUTES } from './reviews.js';
import { LOAD_CELL_ROUTES, PHOTOGRAPH_ROUTES, ROPE_ROUTES } from './ropes.js';
import type { Route } from './route.js';
import { WORD_ROUTES } from './words.js';

export const ROUTES: readonly Route[] = [
  HOUSE_ROUTES,
  KNOT_ROUTES,
  WORD_ROUTES,
  REVIEW_ROUTES,
  KIN_ROUTES,
  FILM_ROUTES,
  ...Object.values(ROPE_ROUTES),
  PHOTOGRAPH_ROUTES,
  LOAD_CELL_ROUTES,
  DRILL_ROUTES,
  ASSEMBLY_ROUTES,
  COURSE_ROUTES,
  CLASS_ROUTES,
  PUBLIC_ROUTES,
].flatMap((subject) => Object.values<Route>(subject as unknown as Readonly<Record<string, Route>>));
