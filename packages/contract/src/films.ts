/**
 * Films of knots being tied, named by their contents. Knots say which of them they show.
 */
import * as z from 'zod';
import { route } from './route.js';

/** Largest film taken, what a house keeps of them all, and the pieces in which they are sent, in bytes. */
export const FILM_LIMIT = 256 * 1024 * 1024;
export const FILMS_LIMIT = 16 * 1024 * 1024 * 1024;
export const FILM_PIECE = 1024 * 1024;

/** A film as far as it has come. */
export const filmStateSchema = z.object({
  size: z.number().int(),
  /** What it was found to be; absent until all of it has come. */
  type: z.enum(['video/webm', 'video/mp4']).nullable(),
  /** The numbers of the pieces that have come, from 0. */
  pieces: z.array(z.number().int()),
});
export type FilmState = z.infer<typeof filmStateSchema>;

export const FILM_ROUTES = {
  begin: route({
    method: 'put',
    path: '/api/films/{film}',
    access: 'author',
    summary: 'Begin to send a film, named by the SHA-256 of its bytes, or go on with it: which pieces have come',
    body: z.object({ size: z.number().int().min(1) }),
    answer: filmStateSchema,
    refusals: [400, 401, 403, 404, 413],
  }),
  piece: route({
    method: 'put',
    path: '/api/films/{film}/pieces/{piece}',
    access: 'author',
    summary: `A piece of a film, ${FILM_PIECE} bytes but for the last`,
    costly: 'sending',
    refusals: [400, 401, 403, 404, 413, 415],
  }),
  take: route({
    method: 'post',
    path: '/api/films/{film}/whole',
    access: 'author',
    summary: 'All pieces of a film have been sent: it is checked and kept',
    answer: filmStateSchema,
    costly: 'sending',
    refusals: [400, 401, 403, 404, 409],
  }),
  read: route({
    method: 'get',
    path: '/api/films/{film}',
    summary: 'A film (WebM or MP4)',
    media: 'video/*',
    refusals: [401, 404],
  }),
} as const;
