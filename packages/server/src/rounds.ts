/**
 * Work over the whole library in the background: one round at a time, and once more when it was asked for meanwhile.
 */
import type pg from 'pg';

/** Told of what failed, and of which row where it was one. */
export type Failed = (error: unknown, id?: string) => void;

/** One round over what is left to do; tells how much it did, and whether there is more. */
export type Round = (pool: pg.Pool, failed: Failed) => Promise<{ readonly done: number; readonly more: boolean }>;

/** The work as it is begun from anywhere. Never throws: what fails is told, and left. */
export function inRounds(round: Round): (pool: pg.Pool, failed?: Failed) => Promise<number> {
  const running = new WeakMap<pg.Pool, { again: boolean }>();
  return async (pool, failed = () => undefined) => {
    const under = running.get(pool);
    if (under) {
      under.again = true;
      return 0;
    }
    const own = { again: true };
    running.set(pool, own);
    let total = 0;
    try {
      while (own.again) {
        own.again = false;
        const { done, more } = await round(pool, failed);
        total += done;
        own.again ||= more;
      }
    } catch (error) {
      failed(error);
    } finally {
      running.delete(pool);
    }
    return total;
  };
}
