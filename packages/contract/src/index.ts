/**
 * The HTTP contract: Zod schemas shared by server and web. Types are inferred, never written twice.
 */
import { FILM_ROUTES } from './films.js';
import { HOUSE_ROUTES } from './house.js';
import { KIN_ROUTES } from './kin.js';
import { KNOT_ROUTES, PUBLIC_ROUTES } from './knots.js';
import { REVIEW_ROUTES } from './reviews.js';
import type { Route } from './route.js';
import { WORD_ROUTES } from './words.js';

export * from './films.js';
export * from './house.js';
export * from './kin.js';
export * from './knots.js';
export * from './reviews.js';
export * from './route.js';
export * from './words.js';

export const ROUTES: readonly Route[] = [
  HOUSE_ROUTES,
  KNOT_ROUTES,
  WORD_ROUTES,
  REVIEW_ROUTES,
  KIN_ROUTES,
  FILM_ROUTES,
  PUBLIC_ROUTES,
].flatMap((subject: Readonly<Record<string, Route>>) => Object.values(subject));
