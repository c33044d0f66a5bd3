/**
 * The key book: signatures of named knots, so that a figure is looked up by its key and not compared with each of them.
 */
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import { mirror } from '../topology/views.js';
import type { Relation } from './compare.js';
import { signatureOf, type Signature } from './signature.js';

/** The keys by which a knot is found again. All of them are the same for every drawing of it. */
export interface KnotKeys {
  readonly key: string;
  readonly mirrorKey: string;
  readonly lays: readonly string[];
  readonly body: string;
  readonly mirrorBody: string;
}

export interface NamedKeys extends KnotKeys {
  readonly id: string;
  readonly name: string;
  /** Its end goes through as a bight, which the keys do not show: of a drawing they may tell the knot without it. */
  readonly slipped?: boolean | undefined;
}

/** The keys of a figure, for storing. */
export function keysOf(figure: Figure): Result<KnotKeys> {
  const own = signatureOf(figure);
  if (!own.ok) return own;
  const turned = signatureOf(mirror(figure));
  if (!turned.ok) return turned;
  const { key, lays, body } = own.value;
  return accept({ key, mirrorKey: turned.value.key, lays, body, mirrorBody: turned.value.body });
}

export interface Match {
  readonly id: string;
  readonly name: string;
  readonly relation: Exclude<Relation, 'different' | 'same from behind'>;
}

/** Relations from the closest to the loosest. */
const CLOSENESS: readonly Match['relation'][] = [
  'same',
  'mirror',
  'same, a tail laid to the other side',
  'same body, other ends',
];

export class KeyBook {
  private readonly index = new Map<string, { entry: NamedKeys; relation: Match['relation'] }[]>();

  constructor(readonly entries: readonly NamedKeys[]) {
    for (const entry of entries) {
      this.put(entry.key, entry, 'same');
      this.put(entry.mirrorKey, entry, 'mirror');
      for (const lay of entry.lays) this.put(`lay ${lay}`, entry, 'same, a tail laid to the other side');
      for (const body of new Set([entry.body, entry.mirrorBody]))
        this.put(`body ${body}`, entry, 'same body, other ends');
    }
  }

  private put(key: string, entry: NamedKeys, relation: Match['relation']): void {
    const there = this.index.get(key);
    if (there) there.push({ entry, relation });
    else this.index.set(key, [{ entry, relation }]);
  }

  private under(key: string, counts: (entry: NamedKeys) => boolean = () => true): readonly Match[] {
    const there = (this.index.get(key) ?? []).filter(({ entry }) => counts(entry));
    return there.map(({ entry: { id, name }, relation }) => ({ id, name, relation }));
  }

  /** Knots with exactly this key, or whose mirror image has it. */
  named(key: string): readonly Match[] {
    return this.best(this.under(key));
  }

  /** As `named`, for what comes of a slip of the hand: nobody draws a bight through by a wrong crossing. */
  cameUpon(key: string): readonly Match[] {
    return this.best(this.under(key, (entry) => entry.slipped !== true));
  }

  /** Every knot of the book that a figure is, or is kin to, the closest first. */
  matches(signature: Pick<Signature, 'key' | 'lays' | 'body'>): readonly Match[] {
    const keys = [signature.key, ...signature.lays.map((l) => `lay ${l}`), `body ${signature.body}`];
    return this.best(keys.flatMap((k) => this.under(k)));
  }

  /** One match a knot: its closest relation. */
  private best(all: readonly Match[]): readonly Match[] {
    const closest = new Map<string, Match>();
    for (const m of all) {
      const known = closest.get(m.id);
      if (!known || CLOSENESS.indexOf(m.relation) < CLOSENESS.indexOf(known.relation)) closest.set(m.id, m);
    }
    return [...closest.values()].sort((a, b) => CLOSENESS.indexOf(a.relation) - CLOSENESS.indexOf(b.relation));
  }
}
