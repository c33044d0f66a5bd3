/**
 * Computation aside: the server's one thread only answers. Four processes work beside it: one reads what somebody waits for, which is
 * short; one draws pages and sheets for readers; one examines knots; one tries kinships, which
 * nobody waits for, and sets knots, whose pictures come into a page when they are there. Each has one job at a time and a queue, in which what somebody
 * waits for goes first. The time of a job begins when the work on it does, and counts what its process works, not what it waits for a busy
 * machine; a job that is late ends with its process and fails alone: the next has a new one.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { constants, getPriority, setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { processorTime } from './processor-time.js';
import { UP, type Answer, type AnswerOf, type JobName, type Order, type OrderOf } from './aside-orders.js';

/** A process is let go when it had nothing to do for so long, in milliseconds. */
const IDLE = 300_000;

/** On a machine that others keep busy a job may take so many times as long; and how often it is looked at then, in milliseconds. */
const BUSY = 6;
const LOOK = 50;

type LaneName = 'reading' | 'drawing' | 'examining' | 'kinship';

/** Most time for a job, in milliseconds, and the process that does it. */
const KINDS: Readonly<Record<JobName, { readonly most: number; readonly lane: LaneName }>> = {
  ready: { most: 60_000, lane: 'reading' },
  read: { most: 10_000, lane: 'reading' },
  edition: { most: 10_000, lane: 'reading' },
  words: { most: 10_000, lane: 'reading' },
  page: { most: 20_000, lane: 'drawing' },
  knotFacts: { most: 20_000, lane: 'drawing' },
  patternFacts: { most: 20_000, lane: 'drawing' },
  lessons: { most: 60_000, lane: 'drawing' },
  practice: { most: 20_000, lane: 'drawing' },
  yours: { most: 20_000, lane: 'drawing' },
  lay: { most: 20_000, lane: 'drawing' },
  patternForm: { most: 20_000, lane: 'drawing' },
  picture: { most: 20_000, lane: 'drawing' },
  examine: { most: 60_000, lane: 'examining' },
  kin: { most: 20_000, lane: 'kinship' },
  form: { most: 60_000, lane: 'kinship' },
  slips: { most: 20_000, lane: 'kinship' },
  slip: { most: 60_000, lane: 'kinship' },
};

/** A job took longer than it may. */
export class TooLong extends Error {
  constructor(
    readonly job: JobName,
    readonly most: number,
  ) {
    super(`It took longer than ${most / 1000} seconds and was stopped.`);
  }
}

interface Waiting {
  readonly job: JobName;
  readonly order: unknown;
  readonly most: number;
  readonly ahead: boolean;
  readonly done: (answer: unknown) => void;
  readonly failed: (error: Error) => void;
}

/** A job was taken back before it was begun. */
export class TakenBack extends Error {
  constructor() {
    super('It is not wanted any more.');
  }
}

class Lane {
  /** `priority`: of its process, beside those that answer. */
  constructor(private readonly priority: number) {}

  private child: ChildProcess | undefined;
  /** The process has read its program. */
  private up = false;
  private readonly queue: Waiting[] = [];
  private current: { readonly id: number; readonly work: Waiting } | undefined;
  private late: NodeJS.Timeout | undefined;
  private idle: NodeJS.Timeout | undefined;
  private next = 0;

  /** How many jobs are in hand or wait. */
  get load(): number {
    return this.queue.length + (this.current ? 1 : 0);
  }

  put(work: Waiting): void {
    const behind = work.ahead ? this.queue.findIndex((w) => !w.ahead) : -1;
    this.queue.splice(behind < 0 ? this.queue.length : behind, 0, work);
    this.begin();
  }

  /** Takes a job back that has not been begun. */
  takeBack(work: Waiting): void {
    const at = this.queue.indexOf(work);
    if (at < 0) return;
    this.queue.splice(at, 1);
    work.failed(new TakenBack());
  }

  private begin(): void {
    if (this.current) return;
    clearTimeout(this.idle);
    if (this.queue.length === 0) {
      this.idle = setTimeout(() => this.letGo(), IDLE).unref();
      this.child?.unref();
      this.child?.channel?.unref();
      return;
    }
    const child = this.running();
    // What waits for it must not end meanwhile for having nothing else to do, as a server that only starts would.
    child.ref();
    child.channel?.ref();
    // A process that has just been started reads its own program first; then it says so.
    const work = this.up ? this.queue.shift() : undefined;
    if (!work) return;
    const id = (this.next += 1);
    this.current = { id, work };
    this.watch(work, child.pid);
    child.send({ id, job: work.job, order: work.order } satisfies Order);
  }

  /** Stops the job in hand once its process has worked on it for as long as it may, or has had so little of the machine that it never ends. */
  private watch(work: Waiting, pid: number | undefined): void {
    const [began, worked] = [Date.now(), processorTime(pid) ?? 0];
    const look = (): void => {
      const done = (processorTime(pid) ?? Infinity) - worked;
      const isLate = done >= work.most || Date.now() - began >= BUSY * work.most;
      if (isLate) this.fail(new TooLong(work.job, work.most));
      else this.late = setTimeout(look, Math.max(LOOK, work.most - done));
    };
    this.late = setTimeout(look, work.most);
  }

  private settle(then: (work: Waiting) => void): void {
    const ended = this.current;
    this.current = undefined;
    if (ended) {
      clearTimeout(this.late);
      then(ended.work);
    }
    this.begin();
  }

  /** The job in hand has failed, and its process with it. */
  private fail(error: Error): void {
    this.letGo();
    this.settle((work) => work.failed(error));
  }

  /** The process is gone. One that never came up would not come up for the next job either: all that wait are told. */
  private lost(error: Error): void {
    const waiting = this.up ? [] : this.queue.splice(0);
    this.fail(error);
    for (const work of waiting) work.failed(error);
  }

  private letGo(): void {
    const left = this.child;
    this.child = undefined;
    this.up = false;
    left?.kill('SIGKILL');
  }

  private running(): ChildProcess {
    if (this.child) return this.child;
    // It has the loader that this process was started with, and goes away with it.
    const made = fork(fileURLToPath(new URL('./aside-process.ts', import.meta.url)), {
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    // Whoever asks for a page goes first.
    // A server that was itself put back may not put its processes before it.
    if (made.pid !== undefined) setPriority(made.pid, Math.max(getPriority(), this.priority));
    made.on('message', (said: Answer | typeof UP) => {
      if (this.child !== made) return;
      if (said === UP) {
        this.up = true;
        this.begin();
        return;
      }
      if (said.id !== this.current?.id) return;
      this.settle(({ done, failed }) => ('error' in said ? failed(new Error(said.error)) : done(said.answer)));
    });
    for (const end of ['error', 'exit'])
      made.on(end, () => {
        if (this.child === made) this.lost(new Error('The process that computes aside has ended.'));
      });
    this.child = made;
    return made;
  }
}

const { PRIORITY_NORMAL, PRIORITY_BELOW_NORMAL, PRIORITY_LOW } = constants.priority;
/** A save waits for its reading, which is short; for what is found nobody has to wait. */
const lanes: Readonly<Record<LaneName, Lane>> = {
  reading: new Lane(PRIORITY_NORMAL),
  drawing: new Lane(PRIORITY_BELOW_NORMAL),
  examining: new Lane(PRIORITY_BELOW_NORMAL),
  kinship: new Lane(PRIORITY_LOW),
};

export interface Urgency {
  /** Somebody waits for it: it goes before what nobody waits for. */
  readonly ahead?: boolean;
  /** Most milliseconds, where they are not those of its kind. */
  readonly most?: number;
  /** Takes it back, where it has not been begun: it is rejected with `TakenBack`. */
  readonly signal?: AbortSignal;
}

/** Has a job done aside. Rejected with `TooLong` when it is late, or with an error of its own. */
export function aside<J extends JobName>(
  job: J,
  order: OrderOf<J>,
  { ahead = false, most = KINDS[job].most, signal }: Urgency = {},
): Promise<AnswerOf<J>> {
  return new Promise((done, failed) => {
    const work: Waiting = { job, order, most, ahead, done: done as (answer: unknown) => void, failed };
    const lane = lanes[KINDS[job].lane];
    lane.put(work);
    signal?.addEventListener('abort', () => lane.takeBack(work), { once: true });
  });
}

/** How many jobs go before another of this kind. */
export const loadOf = (job: JobName): number => lanes[KINDS[job].lane].load;

/** Starts what the first who saves or reads would wait for. */
export async function warmUp(): Promise<void> {
  await Promise.all(
    [lanes.reading, lanes.drawing, lanes.examining].map(
      (lane) =>
        new Promise<unknown>((done, failed) =>
          lane.put({ job: 'ready', order: {}, most: KINDS.ready.most, ahead: true, done, failed }),
        ),
    ),
  );
}
