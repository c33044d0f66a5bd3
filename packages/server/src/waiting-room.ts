/**
 * Work that costs much is done a little at a time: so many at once, so many more wait, and who comes after those is asked to come again.
 */
import { HttpProblem } from './problem.js';

const busy = (): HttpProblem =>
  new HttpProblem(
    503,
    'busy',
    'server',
    'Too many ask for the same at once.',
    'Try again in a few seconds.',
    {},
    { 'Retry-After': '3' },
  );

export class WaitingRoom {
  private busy = 0;
  private readonly waiting: (() => void)[] = [];

  /** `most`: how many work at once; `seats`: how many more wait; `full`: what is said to who comes after those. */
  constructor(
    private readonly most: number,
    private readonly seats: number,
    private readonly full: () => HttpProblem = busy,
  ) {}

  /** Nobody is in it. */
  get isEmpty(): boolean {
    return this.busy === 0;
  }

  async enter<T>(work: () => Promise<T>): Promise<T> {
    if (this.busy >= this.most) {
      if (this.waiting.length >= this.seats) throw this.full();
      await new Promise<void>((free) => this.waiting.push(free));
    } else this.busy += 1;
    try {
      return await work();
    } finally {
      // Whoever waits takes over the place.
      const next = this.waiting.shift();
      if (next) next();
      else this.busy -= 1;
    }
  }
}
