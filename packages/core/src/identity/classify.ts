/**
 * The class of a knot, computed from what it is tied to and whether it stays when that is taken out; and the spill test itself.
 *
 * The class is that of the strict school: a bend joins two ropes, a hitch holds to an object, a knot is tied in the rope itself.
 */
import { applyEdit } from '../figure/edit.js';
import type { Figure, Host } from '../figure/figure.js';
import type { Result } from '../figure/refusal.js';
import type { Tangle } from '../topology/tangle.js';
import type { KnotClass } from '../words/classes.js';
import { strandsAlone } from './facts.js';
import { liftedTangles, orDecline, signatureOf } from './signature.js';

export interface Spill {
  readonly host: string;
  /** True when nothing of the knot stays in the rope. */
  readonly spills: boolean;
  readonly text: string;
}

const without = (figure: Figure, hosts: readonly Host[]): Figure =>
  hosts.reduce((f, h) => {
    const done = applyEdit(f, { kind: 'remove-host', host: h.id });
    return done.ok ? done.value.figure : f;
  }, figure);

/** What is left of the knot when a host is taken out. */
export function spillTest(figure: Figure): readonly Spill[] {
  return figure.hosts.flatMap((h): Spill[] => {
    const left = signatureOf(without(figure, [h]));
    if (!left.ok) return [];
    const spills = left.value.fallsApart;
    const text = spills
      ? `Take the ${h.kind} out and nothing stays: the rope pulls straight.`
      : `Take the ${h.kind} out and a knot stays in the rope: the hitches hold to its own standing part, as a noose does.`;
    return [{ host: h.id, spills, text }];
  });
}

export interface Classified {
  readonly class: KnotClass;
  /** The facts the class rests on, one sentence each. */
  readonly because: readonly string[];
  /** Of a running loop: the part that runs through or slips out when it is pulled. */
  readonly runs?: 'standing part' | 'tail';
  /** What the computation cannot decide, if it matters. */
  readonly undecided?: string;
}

const UNDECIDED_LOOP =
  'Whether the loop is fixed or runs depends on friction and load; neither strand is knotted by itself, so the computation takes it as fixed.';

/** The computed class of a figure. */
export function classOf(figure: Figure): Result<Classified> {
  const signature = signatureOf(figure);
  if (!signature.ok) return signature;
  const { ropes, hosts } = figure;
  const eyes = ropes.reduce((n, r) => n + (r.eyes?.length ?? 0), 0);
  if (signature.value.fallsApart)
    return { ok: true, value: { class: 'not classed', because: ['Nothing holds: every strand pulls straight.'] } };
  return orDecline((): Classified => {
    if (ropes.some((r) => r.closed)) return { class: 'sling', because: ['A closed rope is wound on something.'] };
    if (hosts.length > 0) {
      const spill = spillTest(figure);
      return { class: 'hitch', because: ['It is tied to an object.', ...spill.map((s) => s.text)] };
    }
    const tails = ropes.filter((r) => r.ends.includes('tail')).length;
    const isHeld = ({ closed, ends }: Figure['ropes'][number]): boolean => !closed && !ends.includes('tail');
    if (ropes.length === 2 && tails === 1 && ropes.some(isHeld))
      return { class: 'hitch', because: ['It makes one rope fast to another, both ends of which are held.'] };
    if (ropes.length > 1)
      return tails === ropes.length && ropes.length === 2
        ? {
            class: 'bend',
            because: ['It joins two ropes, each with a standing part and a tail.'],
            undecided:
              'Tied with the two ends of one rope round something, the same knot is a binding: that is its use, not its shape.',
          }
        : { class: 'not classed', because: [`It is made of ${ropes.length} ropes.`] };
    if (eyes === 0)
      return tails === 1
        ? { class: 'stopper', because: ['It is tied in one rope, and no loop of it is meant to stay.'] }
        : { class: 'not classed', because: ['It lies in mid-rope and no loop of it is meant to stay.'] };
    const strands = strandsAlone(liftedTangles(figure).tangles[0] as Tangle);
    const knotted = strands.filter((s) => s.knotted);
    if (tails === 0)
      return { class: 'loop in mid-rope', because: ['Both parts run on, and a loop stays between them.'] };
    const [only] = knotted.length === 1 ? knotted : [];
    if (only) {
      const runs = only.roles.includes('t') ? 'standing part' : 'tail';
      return {
        class: 'noose',
        runs,
        because: [
          runs === 'standing part'
            ? 'The tail’s strand is knotted round the standing part, which is plain: it runs through.'
            : 'The standing part’s strand is knotted round the tail’s, which is plain: it slips out.',
        ],
      };
    }
    return {
      class: 'loop in the end',
      because: [
        knotted.length === 0
          ? 'A loop stays in the end; neither of its strands is knotted by itself.'
          : 'A loop stays in the end; both of its strands are knotted, so neither runs through the other.',
      ],
      ...(knotted.length === 0 ? { undecided: UNDECIDED_LOOP } : {}),
    };
  });
}
