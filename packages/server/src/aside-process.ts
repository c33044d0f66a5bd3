/**
 * A process that computes aside: orders in, answers out, one at a time.
 */
import { JOBS } from './aside-jobs.js';
import { UP, type Answer, type Order } from './aside-orders.js';

async function answerTo({ id, job, order }: Order): Promise<Answer> {
  try {
    return { id, answer: await (JOBS[job] as (order: unknown) => unknown)(order) };
  } catch (error) {
    return { id, error: (error as Error).stack ?? String(error) };
  }
}

/** A server that has gone away meanwhile wants no answer. */
const unheard = (): void => undefined;
process.on(
  'message',
  (order: Order) => void answerTo(order).then((answer) => process.send?.(answer, undefined, {}, unheard)),
);
process.on('disconnect', () => process.exit(0));
process.send?.(UP, undefined, {}, unheard);
