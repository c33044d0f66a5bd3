/** How much is let in from an address in a time. Kept in this process, and forgotten as soon as the time is over. */
export class Allowance {
  private readonly spent = new Map<string, { count: number; since: number }>();
  private readonly window: number;

  constructor(
    private readonly most: number,
    minutes: number,
  ) {
    this.window = minutes * 60_000;
  }

  /** How many milliseconds it is until there is room for anything again; undefined where there is. */
  wait(address: string, now = Date.now()): number | undefined {
    const known = this.spent.get(address);
    return known && known.count >= this.most && now - known.since < this.window
      ? known.since + this.window - now
      : undefined;
  }

  /** Spends so much; or how many milliseconds it is until there is room again. */
  spend(address: string, count: number, now = Date.now()): number | undefined {
    const known = this.spent.get(address);
    const own = known && now - known.since < this.window ? known : { count: 0, since: now };
    if (own.count + count > this.most) return own.since + this.window - now;
    own.count += count;
    // Put last again: those at the front have been there longest.
    this.spent.delete(address);
    this.spent.set(address, own);
    for (const [other, { since }] of this.spent) {
      if (now - since < this.window) break;
      this.spent.delete(other);
    }
    return undefined;
  }
}
