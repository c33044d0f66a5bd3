/**
 * Where a film is read from.
 */
import { addressOf, FILM_ROUTES } from '@foxtrail/contract';

export const filmAddress = (film: string): string => addressOf(FILM_ROUTES.read.path, { film });
