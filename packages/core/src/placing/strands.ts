/**
 * A figure as nodes and segments in the plane: crossings are nodes shared by two strands, with nodes between them along every
 * strand. This is what Tidy relaxes and what a code is laid out as.
 */
import { onRing } from '../ground/ring.js';
import type { Point } from '../figure/point.js';

/** What a node may do when the drawing is relaxed. */
export type Hold = 'free' | 'fixed' | Point;

export interface Node {
  x: number;
  y: number;
  /** `fixed`, or the one direction it may slide along (a unit vector), or free. */
  readonly hold: Hold;
}

/** A strand as the nodes along it. A closed one does not repeat its first node. */
export interface Line {
  readonly id: string;
  readonly closed: boolean;
  /** How much broader than an ordinary rope it is, in diameters; absent: as broad. */
  readonly broader?: number;
  /** A straight strand that only its crossings divide: they slide along it, and no node is put in between them. */
  readonly bare?: boolean;
  nodes: number[];
}

export interface Net {
  readonly nodes: Node[];
  readonly lines: Line[];
  /** Nodes that are crossings; the others may be taken out or put in along a strand. */
  readonly crossings: ReadonlySet<number>;
}

/** The node before and after each place of a line. */
export const neighbour = ({ nodes, closed }: Line, i: number): number | undefined =>
  closed ? nodes[onRing(i, nodes.length)] : nodes[i];
