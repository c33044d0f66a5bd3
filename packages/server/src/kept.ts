/**
 * What was worked out and may be asked for again, by what it was worked out of; what was asked for last is kept. What is being worked out
 * is worked out once for all who ask; what failed, or came to nothing, is tried again for the next.
 */
export class Kept<T> {
  private readonly known = new Map<string, Promise<T | undefined>>();

  constructor(private readonly room: number) {}

  of<V extends T | undefined>(key: string, work: () => Promise<V>): Promise<V> {
    const before = this.known.get(key) as Promise<V> | undefined;
    const found = before ?? work();
    // Put last again: the first of the map is the one longest not asked for.
    this.known.delete(key);
    this.known.set(key, found);
    if (!before) {
      const drop = (): void => {
        if (this.known.get(key) === found) this.known.delete(key);
      };
      found.then((value) => (value === undefined ? drop() : undefined), drop);
    }
    const [oldest] = this.known.keys();
    if (this.known.size > this.room && oldest !== undefined) this.known.delete(oldest);
    return found;
  }
}
