/**
 * Routes of films.
 */
import { FILM_ROUTES } from '@foxtrail/contract';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { beginFilm, sendFilm, takeFilm, takePiece } from './films.js';
import { Desk } from './serve.js';

export function filmRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  desk.serve(FILM_ROUTES.begin, ({ parameters: { film }, body: { size } }) => beginFilm(pool, film, size));
  desk.serve(FILM_ROUTES.piece, ({ parameters: { film, piece }, req }) => takePiece(pool, film, piece, req));
  desk.serve(FILM_ROUTES.take, ({ parameters: { film } }) => takeFilm(pool, film));
  desk.send(FILM_ROUTES.read, ({ parameters: { film }, req, res }) => sendFilm(pool, film, req, res));
  return desk.routes;
}
