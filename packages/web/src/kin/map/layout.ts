/** The layout of the map: boxes as wide as their names, lines as long as what they join is apart; placed in a worker. */
import type { Family, KinRelation } from '@foxtrail/contract';
import { Observable } from 'rxjs';
import type { KinNode } from '../../data/kin';
import type { Box, LayoutGraph, Places } from '../../workers/kin-places.worker';
import { FAMILY_FONT, FAMILY_SIZE, KNOT_FONT, KNOT_SIZE } from './look';

/** Lengths of lines, from box to box: kin lie near, members not far from their family's name. */
const KIN_LENGTH = 80;
const FAMILY_LENGTH = 60;
/** Heights kept free: for a name, and for a knot's figure when one comes near. */
const NAME_HEIGHT = 44;
const FIGURE_HEIGHT = 84;
/** Width of a letter where it cannot be measured. */
const LETTER = 9;

/** What is on the map. */
export interface MapContent {
  readonly nodes: readonly KinNode[];
  /** Kinships between two of the nodes. */
  readonly links: readonly KinRelation[];
  /** Families that have a knot, or a family below them. */
  readonly hubs: readonly Family[];
}

export function contentOf(
  nodes: readonly KinNode[],
  links: readonly KinRelation[],
  families: readonly Family[],
): MapContent {
  const refs = new Set(nodes.map((n) => n.ref));
  return {
    nodes,
    links: links.filter((l) => refs.has(l.from) && refs.has(l.to)),
    hubs: families.filter((f) => nodes.some((n) => n.family === f.id) || families.some((o) => o.parent === f.id)),
  };
}

/** The lines from families to what is in them. */
export function memberships({ nodes, hubs }: MapContent): readonly { readonly from: string; readonly to: string }[] {
  const known = new Set(hubs.map((f) => f.id));
  return [
    ...nodes.flatMap((n) => (n.family === null ? [] : [{ from: n.family, to: n.ref }])),
    ...hubs.flatMap((f) => (f.parent !== null && known.has(f.parent) ? [{ from: f.parent, to: f.id }] : [])),
  ];
}

export function boxesOf({ nodes, hubs }: MapContent): readonly Box[] {
  const pen = document.createElement('canvas').getContext('2d');
  const widthOf = (text: string, font: string): number => {
    if (!pen) return LETTER * text.length;
    pen.font = font;
    return Math.ceil(pen.measureText(text).width);
  };
  return [
    ...hubs.map((f) => ({
      id: f.id,
      width: widthOf(f.name, `600 ${FAMILY_SIZE}px ${FAMILY_FONT}`) + 26,
      height: NAME_HEIGHT,
    })),
    ...nodes.map((n) => ({
      id: n.ref,
      width: widthOf(n.name, `${KNOT_SIZE}px ${KNOT_FONT}`) + 22,
      height: FIGURE_HEIGHT,
    })),
  ];
}

/** Has the map laid out away from the page; who lets go of it stops the work. */
export function layOut(content: MapContent, boxes: readonly Box[]): Observable<Places> {
  const { links, hubs } = content;
  const families = new Set(hubs.map((f) => f.id));
  const graph: LayoutGraph = {
    nodes: boxes,
    edges: [
      ...links.map((l) => ({ from: l.from, to: l.to, length: KIN_LENGTH })),
      ...memberships(content).map((m) => ({ ...m, length: FAMILY_LENGTH * (families.has(m.to) ? 2 : 1) })),
      // Families that nothing leads to are kept in the circle.
      ...hubs.map((f, i) => ({ from: f.id, to: (hubs[(i + 1) % hubs.length] ?? f).id, length: 3 * FAMILY_LENGTH })),
    ].filter((e) => e.from !== e.to),
  };
  return new Observable((placed) => {
    const worker = new Worker(new URL('../../workers/kin-places.worker', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<Places>): void => {
      placed.next(data);
      placed.complete();
    };
    worker.onerror = (): void => placed.error(new Error('the layout failed'));
    worker.postMessage(graph);
    return () => worker.terminate();
  });
}
