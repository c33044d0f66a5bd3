/**
 * Proof of a form: it is looked at from several sides, its crossings are read from what lies over what, and the knot that is read must be
 * the drawn figure's.
 */
import { meetings, weaveFigure, type Meeting } from '../figure/crossings.js';
import type { Figure, Host, Rope } from '../figure/figure.js';
import { overPost } from '../figure/hosts.js';
import type { Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { signatureOf } from '../identity/signature.js';
import { placeOf, type Form } from './form.js';
import { STATIONS, type Sight } from './sight.js';
import { dotOf } from './vector.js';

/** A view turned about the board's upright axis and tilted: sine and cosine of an eighth or so of a turn are given by the tangent of its half. */
function turned(half: number, tilt: number): Sight {
  const [c, s] = [(1 - half * half) / (1 + half * half), (2 * half) / (1 + half * half)];
  const [d, t] = [(1 - tilt * tilt) / (1 + tilt * tilt), (2 * tilt) / (1 + tilt * tilt)];
  return { right: [c, 0, -s], down: [-s * t, d, -c * t], near: [s * d, t, c * d] };
}

/** The sides a form is proved from: as tied, and turned a little to either side. */
const PROVED_FROM: readonly Sight[] = [STATIONS.front, turned(0.11, 0.05), turned(-0.09, -0.12)];

const seenFrom = (x: Float64Array, view: Sight): Point[] =>
  Array.from({ length: x.length / 3 }, (_, i): Point => [
    dotOf(placeOf(x, i), view.right),
    dotOf(placeOf(x, i), view.down),
  ]);

/** How near a strand is to the reader at a place between its points. */
function depthAt(x: Float64Array, at: number, view: Sight): number {
  const n = x.length / 3;
  const i = Math.min(n - 1, Math.floor(at));
  const [a, b] = [dotOf(placeOf(x, i), view.near), dotOf(placeOf(x, (i + 1) % n), view.near)];
  return a + (at - i) * (b - a);
}

/** The crossings of a form from a side, as a figure of straight pieces. A post seen from the end stays as it is drawn. */
export function figureSeen(figure: Figure, { chains, solids }: Form, view: Sight): Figure {
  const depth = new Map<string, Float64Array>();
  const ropes = figure.ropes.map((rope): Rope => {
    const chain = chains.find((c) => c.rope === rope.id);
    const x = chain?.x ?? solids.find((s) => s.host === rope.id)!.x;
    depth.set(rope.id, x);
    return {
      id: rope.id,
      points: seenFrom(x, view),
      curve: 'straight',
      closed: rope.closed,
      ends: rope.ends,
      weave: '',
      ...(chain && rope.eyes
        ? { eyes: chain.outlets.flatMap((o) => (o.kind === 'eye' ? [(o.first + o.last) / 2] : [])) }
        : {}),
    };
  });
  const hosts = solids.flatMap((s): Host[] => {
    const drawn = figure.hosts.find((h) => h.id === s.host);
    if (!drawn) return [];
    if (drawn.kind === 'post') {
      const middle = seenFrom(s.x, STATIONS.front)[0]!;
      return [{ ...drawn, points: [[middle[0], middle[1] - 400], middle, [middle[0], middle[1] + 400]] }];
    }
    depth.set(s.host, s.x);
    // A spar is told by its kind; any other host is drawn through many points, so that its curve is as good as straight between them.
    return [{ ...drawn, points: seenFrom(s.x, view) }];
  });
  const nearness = ({ strand, at }: Meeting['first']): number => depthAt(depth.get(strand)!, at, view);
  const seen: Figure = { ropes, hosts };
  return weaveFigure(seen, (m) => {
    const post = hosts.find((h) => h.id === m.second.strand && h.kind === 'post');
    return post ? overPost(post, m.second.at) : nearness(m.first) > nearness(m.second);
  });
}

export interface FormProof {
  /** From how many sides the form was read as the figure's knot. */
  readonly sides: number;
  /** Crossings that are seen from the front. */
  readonly crossings: number;
  /** Whether the drawn figure holds nothing: pulled, it comes apart. */
  readonly fallsApart: boolean;
}

/** Proves that a form is the knot of its figure, or refuses it. */
export function proveForm(figure: Figure, form: Form): Result<FormProof> {
  const drawn = signatureOf(figure);
  if (!drawn.ok) return drawn;
  // A post's line does not turn with the view.
  const views = figure.hosts.some((h) => h.kind === 'post') ? [STATIONS.front] : PROVED_FROM;
  let crossings = 0;
  for (const [i, view] of views.entries()) {
    const seen = figureSeen(figure, form, view);
    if (i === 0) crossings = meetings(seen).length;
    const read = signatureOf(seen);
    if (!read.ok) return read;
    if (read.value.key !== drawn.value.key)
      return refuse(
        'form',
        'The ropes came to lie as another knot than the drawing, so the result is not shown.',
        'Give the drawing more room where its strands lie close, or set it with other parts pulled first.',
      );
  }
  return accept({ sides: views.length, crossings, fallsApart: drawn.value.fallsApart });
}
