/**
 * Disjoint sets: things that are found to belong together, group by group.
 *
 * Source: R. E. Tarjan, "Efficiency of a good but not linear set union algorithm", J. ACM 22 (1975); paths are halved.
 */
export class DisjointSets<T> {
  private readonly parent = new Map<T, T>();

  constructor(things: Iterable<T> = []) {
    for (const thing of things) this.parent.set(thing, thing);
  }

  /** The thing that stands for the group of another; one that was never named is a group by itself. */
  root(thing: T): T {
    let at = thing;
    for (let up = this.parent.get(at) ?? at; up !== at; up = this.parent.get(at) ?? at) {
      const further = this.parent.get(up) ?? up;
      this.parent.set(at, further);
      at = further;
    }
    return at;
  }

  /** Joins the groups of two things: the second's stands for both. */
  join(a: T, b: T): void {
    const [p, q] = [this.root(a), this.root(b)];
    if (!this.parent.has(q)) this.parent.set(q, q);
    this.parent.set(p, q);
  }

  /** The groups of some things, each in the order given. */
  groups(things: Iterable<T>): T[][] {
    const byRoot = new Map<T, T[]>();
    for (const thing of things) {
      const root = this.root(thing);
      const group = byRoot.get(root);
      if (group) group.push(thing);
      else byRoot.set(root, [thing]);
    }
    return [...byRoot.values()];
  }
}
