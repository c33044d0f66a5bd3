/**
 * The desk at which heavy work is ordered: one worker with the core in it, one order at a time, the latest wins. An order tells what
 * it finds on its way and how far it is, is stopped between any two pieces, and is answered whatever happens to its worker.
 */
import { signal } from '@angular/core';
import { accept, refuse, type Result } from '@foxtrail/core';
import type { JobName, Jobs, Order, Report } from '../workers/jobs/protocol';

/** Progress is shown of work that takes longer than this; in milliseconds. */
const PATIENCE = 500;

const openWorker = (): Worker => new Worker(new URL('../workers/core.worker', import.meta.url), { type: 'module' });

export interface Progress {
  readonly share: number;
  readonly doing: string;
}

interface InHand {
  readonly id: number;
  readonly began: number;
  readonly told: (what: unknown) => void;
  readonly end: (result: Result<unknown> | undefined) => void;
}

export class WorkDesk {
  private worker: Worker | undefined;
  private next = 0;
  private inHand: InHand | undefined;
  private readonly progressState = signal<Progress | undefined>(undefined);
  /** How far the order in hand is; nothing while none is. */
  readonly progress = this.progressState.asReadonly();
  private readonly slowState = signal<Progress | undefined>(undefined);
  /** The same, once it has taken longer than half a second. */
  readonly slow = this.slowState.asReadonly();

  /**
   * Orders a piece of work; an order that is in hand is stopped. Resolves to what comes of it, to a refusal where it was refused or broke
   * down, and to nothing when it was stopped.
   */
  order<J extends JobName>(
    job: J,
    order: Jobs[J]['order'],
    told: (what: Jobs[J]['told']) => void = () => undefined,
  ): Promise<Result<Jobs[J]['result']> | undefined> {
    this.leave();
    const id = (this.next += 1);
    this.say({ share: 0, doing: '' }, false);
    return new Promise((resolve) => {
      this.inHand = {
        id,
        began: performance.now(),
        told: told as (what: unknown) => void,
        end: resolve as (result: Result<unknown> | undefined) => void,
      };
      this.running().postMessage({ id, job, order } satisfies Order);
    });
  }

  /** Stops the order in hand; what it has told stays. */
  stop(): void {
    this.worker?.postMessage({ stop: true } satisfies Order);
    this.leave();
  }

  close(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.leave();
  }

  private leave(): void {
    const { inHand } = this;
    this.inHand = undefined;
    this.say(undefined, false);
    inHand?.end(undefined);
  }

  private say(progress: Progress | undefined, slow: boolean): void {
    this.progressState.set(progress);
    this.slowState.set(slow ? progress : undefined);
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = openWorker();
    worker.onmessage = ({ data }: MessageEvent<Report>): void => this.take(data);
    // Work that breaks down is a bug; whoever waits for it is told, and the next order gets a worker of its own.
    worker.onerror = (): void => {
      worker.terminate();
      this.worker = undefined;
      this.end(refuse('work', 'The work stopped with an error of its own; nothing has changed.', 'Try it again.'));
    };
    return (this.worker = worker);
  }

  private take(report: Report): void {
    const { inHand } = this;
    if (inHand?.id !== report.id) return;
    switch (report.kind) {
      case 'progress':
        this.say(report, performance.now() - inHand.began > PATIENCE);
        break;
      case 'told':
        inHand.told(report.what);
        break;
      case 'done':
        this.end(report.result);
    }
  }

  private end(result: Result<unknown>): void {
    const { inHand } = this;
    this.inHand = undefined;
    this.say(undefined, false);
    inHand?.end(result.ok ? accept(result.value) : result);
  }
}
