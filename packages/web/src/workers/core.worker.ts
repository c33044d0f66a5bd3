/**
 * The core away from the page: takes one order at a time and works on it piece by piece; between two pieces a newer order, or a stop, is
 * heard.
 */
import { analysis } from './jobs/analysis';
import { choose } from './jobs/choose';
import { footage } from './jobs/footage';
import { flaws, set, tighten } from './jobs/form';
import { identity } from './jobs/identity';
import { derive, discover, turns } from './jobs/kin';
import { lay, read } from './jobs/layout';
import { Stopped, type Bench, type Job, type JobName, type Order, type Report } from './jobs/protocol';

const JOBS: { readonly [J in JobName]: Job<J> } = {
  analysis,
  identity,
  lay,
  flaws,
  footage,
  set,
  tighten,
  read,
  derive,
  turns,
  discover,
  choose,
};

/** Work goes on for this long before messages are looked at; in milliseconds. */
const SLICE = 40;
/** Time after which work that can leave something unfinished does so; in milliseconds. */
const BUDGET = 10_000;

const post = (report: Report): void => postMessage(report);

/** The order that is worked on; any other is given up. */
let current = 0;

function benchFor(id: number): Bench<unknown> {
  const pause = async (): Promise<void> => {
    await new Promise((done) => setTimeout(done));
    if (id !== current) throw new Stopped();
  };
  const share = (done: number, doing = ''): void => post({ kind: 'progress', id, share: done, doing });
  return {
    pause,
    share,
    tell: (what) => post({ kind: 'told', id, what }),
    drive: async (work, shareOf, { doing, seen } = {}) => {
      const began = performance.now();
      let slice = began;
      let step = work.next();
      while (step.done !== true) {
        seen?.(step.value);
        if (performance.now() - slice > SLICE) {
          share(shareOf(step.value), doing);
          await pause();
          slice = performance.now();
        }
        step = work.next(performance.now() - began < BUDGET);
      }
      return step.value;
    },
  };
}

async function work(id: number, job: JobName, order: unknown): Promise<void> {
  const bench = benchFor(id);
  try {
    // Orders that came in together are one: only the last of them is begun.
    await bench.pause();
    const result = await (JOBS[job] as (order: unknown, bench: Bench<unknown>) => ReturnType<Job<JobName>>)(
      order,
      bench,
    );
    post({ kind: 'done', id, result });
  } catch (error) {
    // Anything else is a bug: it reaches the page as an error of this worker.
    if (!(error instanceof Stopped))
      setTimeout(() => {
        throw error;
      });
  }
}

addEventListener('message', ({ data }: MessageEvent<Order>) => {
  if ('stop' in data) {
    current = 0;
    return;
  }
  current = data.id;
  void work(data.id, data.job, data.order);
});
