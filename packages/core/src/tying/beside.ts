/**
 * A stretch that is laid beside another: which strand it follows, on how much of its way, which way along it.
 */
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import { lastAt, ropeOf, type TrailPosition } from '../figure/figure.js';
import { cross, distance, dot, subtract, type Point } from '../figure/point.js';
import { Cells } from '../ground/cells.js';
import { passagesOf } from '../figure/crossings.js';
import { extentsAt, isReached, type Layout, type Stretch } from './method.js';

export interface Beside {
  /** A place on the strand that is followed. */
  readonly strand: TrailPosition;
  /** Share of the stretch that keeps beside it, from its first passage of the strand to its last. */
  readonly share: number;
  /** Length over which it does, in diameters. */
  readonly length: number;
  /** Whether it goes along the strand as that was laid, or back along it. */
  readonly back: boolean;
  /** On one side all the way. */
  readonly oneSide: boolean;
}

/** Distance between samples, and from which to which distance strands are side by side, in diameters. */
const SAMPLE = 0.75;
const NEAREST = 0.75;
const FARTHEST = 2.8;
/** Cosine of the greatest angle between strands that run side by side: 35°. */
const PARALLEL = Math.cos((35 * Math.PI) / 180);
/** A rope is not beside itself nearer along it than this, in diameters. */
const SELF = 9;
/** So many samples may be missed where something crosses between, and the strand gone on by so much more than the leader. */
const MISSED = 4;
const AHEAD = 3;

/** A place of a strand that is laid. */
interface Place {
  readonly strand: string;
  readonly at: number;
  readonly along: number;
  readonly point: Point;
  readonly way: Point;
}

/** A sample of the stretch that lies beside a place of a strand, and the run of samples that it ends. */
interface Link {
  readonly sample: number;
  readonly strand: string;
  readonly at: number;
  /** Length along the strand. */
  readonly along: number;
  readonly back: boolean;
  readonly side: number;
  readonly count: number;
  readonly before: Link | undefined;
}

/** The strand that a stretch keeps beside over the longest part of its way; nothing when it is beside none. */
export function besideOf(layout: Layout, step: Stretch): Beside | undefined {
  const rope = ropeOf(layout.figure, step.rope);
  if (!rope) return undefined;
  const curve = curveOf(rope);
  const extents = extentsAt(layout, step.index, step.to);
  const passed = passagesOf(layout.figure, step.rope).filter((p) => p.at > step.from && p.at <= step.to);
  const [start, end] = [
    lengthTo(curve, passed[0]?.at ?? step.from),
    lengthTo(curve, passed.at(-1)?.at ?? Math.min(step.to, lastAt(rope))),
  ];
  const laid = new Cells<Place>(FARTHEST);
  for (const r of layout.figure.ropes) {
    const own = curveOf(r);
    for (let along = 0; along <= lengthOf(own); along += SAMPLE) {
      const at = atLength(own, along);
      if (!isReached(extents, { strand: r.id, at })) continue;
      const point = pointAt(own, at);
      laid.put({ strand: r.id, at, along, point, way: directionAt(own, at) }, point[0], point[1]);
    }
  }
  const links: Link[][] = [];
  let best: Link | undefined;
  let samples = 0;
  for (let s = start; s <= end; s += SAMPLE, samples += 1) {
    const at = atLength(curve, s);
    const [p, d] = [pointAt(curve, at), directionAt(curve, at)];
    const here: Link[] = [];
    laid.near(p[0], p[1], FARTHEST, (q) => {
      if (q.strand === step.rope && q.along > s - SELF) return;
      const away = distance(p, q.point);
      const turned = dot(d, q.way);
      if (away < NEAREST || away > FARTHEST || Math.abs(turned) < PARALLEL) return;
      const back = turned < 0;
      // The longest run that this goes on: along the strand one way, without leaps.
      let before: Link | undefined;
      for (const l of links.slice(-MISSED).flat()) {
        const on = (q.along - l.along) * (back ? -1 : 1);
        const most = (samples - l.sample) * SAMPLE + AHEAD;
        if (l.strand === q.strand && l.back === back && on > 0 && on <= most && l.count > (before?.count ?? 0))
          before = l;
      }
      const side = Math.sign(cross(d, subtract(q.point, p)));
      const count = (before?.count ?? 0) + 1;
      here.push({ sample: samples, strand: q.strand, at: q.at, along: q.along, back, side, count, before });
    });
    for (const link of here) if (link.count > (best?.count ?? 0)) best = link;
    links.push(here);
  }
  if (!best) return undefined;
  const run: Link[] = [];
  for (let l: Link | undefined = best; l; l = l.before) run.push(l);
  const right = run.filter((l) => l.side > 0).length;
  return {
    strand: { strand: best.strand, at: run[run.length >> 1]?.at ?? best.at },
    share: run.length / Math.max(1, samples),
    length: run.length * SAMPLE,
    back: best.back,
    oneSide: Math.min(right, run.length - right) <= run.length / 10,
  };
}
