/**
 * A learner's own knot, traced over its photograph: what it is tied to, then its ropes, each from where it comes in to its end. What the trace is,
 * however the knot lies there, is told as of any figure; that it looks like the lesson's drawing is not asked.
 */
import { weaveFigure } from '../figure/crossings.js';
import { curveOf, nearestOn } from '../figure/curve.js';
import { hostIsClosed, hostOf, type Figure, type Host, type Rope, type TrailPosition } from '../figure/figure.js';
import { overPost } from '../figure/hosts.js';
import { add, type Point } from '../figure/point.js';
import { accept, type Result } from '../figure/refusal.js';
import { repairOf } from '../identity/atlas.js';
import type { KeyBook } from '../identity/book.js';
import { signatureOf } from '../identity/signature.js';
import { verdictOf, type Verdict } from '../identity/verdict.js';
import { mirror } from '../topology/views.js';
import type { Led } from './lay.js';

/** What is traced, one after the other. */
export type TraceTask =
  /** Along its middle; of what closes on itself all round, of a post its middle alone. */
  | { readonly kind: 'host'; readonly host: Host; readonly how: 'along' | 'round' | 'press' }
  | { readonly kind: 'rope'; readonly rope: Rope }
  /** Where a loop lies that is meant to stay: pressed on its rope. */
  | { readonly kind: 'eye'; readonly rope: Rope };

/** All that is to be traced of a knot. */
export const tracing = ({ hosts, ropes }: Figure): readonly TraceTask[] => [
  ...hosts.map((host): TraceTask => ({
    kind: 'host',
    host,
    how: host.kind === 'post' ? 'press' : hostIsClosed(host) ? 'round' : 'along',
  })),
  ...ropes.map((rope): TraceTask => ({ kind: 'rope', rope })),
  ...ropes.flatMap((rope) => (rope.eyes ?? []).map((): TraceTask => ({ kind: 'eye', rope }))),
];

/** What was traced of a strand. */
export interface Traced extends Led {
  readonly strand: string;
}
/** A place that was pressed on a rope. */
export interface PressedEye {
  readonly rope: string;
  readonly point: Point;
}

/** How far the line of a post goes from its middle, in diameters. */
const POST_LINE = 200;

/** The passage that decides which is over where two meet: that which was traced later. */
export function decidedBy(
  like: Figure,
  traces: readonly Traced[],
  { first, second }: { readonly first: TrailPosition; readonly second: TrailPosition },
): TrailPosition {
  const late = ({ strand }: TrailPosition): number =>
    hostOf(like, strand) ? -1 : traces.findIndex((t) => t.strand === strand);
  return (late(second) - late(first) || second.at - first.at) > 0 ? second : first;
}

/**
 * The figure that was traced, as far as it has come: what is not traced yet is not in it. A strand goes over what was traced before it, where it was
 * not told to go under; and of its own passages, the later. `like` says which strands there are.
 */
export function tracedFigure(like: Figure, traces: readonly Traced[], eyes: readonly PressedEye[] = []): Figure {
  const of = (id: string): readonly Point[] => traces.find((t) => t.strand === id)?.points.map((p) => p.point) ?? [];
  const ropes = like.ropes.flatMap((rope): Rope[] => {
    const points = of(rope.id);
    if (points.length < 2) return [];
    const { id, closed, ends, trimmed, cordage } = rope;
    const bare: Rope = {
      id,
      closed,
      ends,
      points,
      curve: 'straight',
      weave: '',
      ...(trimmed ? { trimmed } : {}),
      ...(cordage ? { cordage } : {}),
    };
    const pressed = eyes.filter((e) => e.rope === id).map((e) => nearestOn(curveOf(bare), e.point).at);
    return [pressed.length === 0 ? bare : { ...bare, eyes: pressed.sort((a, b) => a - b) }];
  });
  const hosts = like.hosts.flatMap((host): Host[] => {
    const points = of(host.id);
    const [middle] = points;
    if (host.kind === 'post' && middle)
      return [{ ...host, points: [add(middle, [0, -POST_LINE]), middle, add(middle, [0, POST_LINE])] }];
    return points.length < 2 ? [] : [{ ...host, points }];
  });
  const bare: Figure = { ropes, hosts };
  return weaveFigure(bare, (m) => {
    const post = hostOf(bare, m.second.strand);
    if (post?.kind === 'post') return overPost(post, m.second.at);
    const own = decidedBy(like, traces, m);
    const trace = traces.find((t) => t.strand === own.strand);
    const under = trace?.points[Math.min(trace.points.length - 1, Math.ceil(own.at))]?.under ?? false;
    const isTurned = trace?.turned.some((at) => Math.abs(at - own.at) < 1e-3) ?? false;
    return (under === isTurned) === (own === m.first);
  });
}

export interface TraceVerdict {
  readonly verdict: Verdict;
  /** Crossings of the trace that make the knot of it when they are turned over; several sets where one is as good as another. */
  readonly repairs: readonly (readonly number[])[];
  /** So mended it is the mirror image. */
  readonly mendedMirrored: boolean;
}

/** What a learner's knot is, held against the knot that it is meant to be. */
export function judgeTrace(
  traced: Figure,
  meant: { readonly id: string; readonly name: string; readonly figure: Figure },
  book: KeyBook,
): Result<TraceVerdict> {
  const verdict = verdictOf(traced, meant, book);
  if (!verdict.ok) return verdict;
  if (verdict.value.state !== 'fails') return accept({ verdict: verdict.value, repairs: [], mendedMirrored: false });
  const own = signatureOf(meant.figure);
  const turned = signatureOf(mirror(meant.figure));
  const mends = own.ok && turned.ok ? repairOf(traced, { key: own.value.key, mirrorKey: turned.value.key }) : undefined;
  const found = mends?.ok === true ? mends.value.repairs : [];
  const mirrored = found[0]?.mirrored ?? false;
  return accept({
    verdict: verdict.value,
    repairs: found.filter((r) => r.mirrored === mirrored).map((r) => r.crossings),
    mendedMirrored: mirrored,
  });
}
