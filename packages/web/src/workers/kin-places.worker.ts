/**
 * Places the knots of the kin map: a spring layout by the graph library, away from the page.
 */
import cytoscape from 'cytoscape';
import fcose, { type FcoseLayoutOptions } from 'cytoscape-fcose';

export interface LayoutGraph {
  readonly nodes: readonly Box[];
  readonly edges: readonly { readonly from: string; readonly to: string; readonly length: number }[];
}
export interface Box {
  readonly id: string;
  readonly width: number;
  readonly height: number;
}
export type Places = Readonly<Record<string, { readonly x: number; readonly y: number }>>;

cytoscape.use(fcose);

/** Board left between two boxes, in pixels of the map. */
const CLEAR = 12;
/** Boards are wider than high, and names are too: the layout is drawn out sideways by this factor. */
const WIDER = 1.4;
/** Rounds in which overlapping boxes are pushed apart; a crowded map settles in far fewer. */
const ROUNDS = 200;

/** The places with no box on another: of two that overlap each gives way by half, the shorter way. */
function apart(nodes: readonly Box[], places: Record<string, { x: number; y: number }>): Places {
  for (let round = 0; round < ROUNDS; round += 1) {
    let moved = false;
    for (const [i, a] of nodes.entries())
      for (const b of nodes.slice(i + 1)) {
        const [p, q] = [places[a.id], places[b.id]];
        if (!p || !q) continue;
        const [dx, dy] = [q.x - p.x, q.y - p.y];
        const over = {
          x: (a.width + b.width) / 2 + CLEAR - Math.abs(dx),
          y: (a.height + b.height) / 2 + CLEAR - Math.abs(dy),
        };
        if (over.x <= 0 || over.y <= 0) continue;
        moved = true;
        const axis = over.x < over.y ? 'x' : 'y';
        const way = ((axis === 'x' ? dx : dy) >= 0 ? 1 : -1) * (over[axis] / 2 + 0.5);
        p[axis] -= way;
        q[axis] += way;
      }
    if (!moved) break;
  }
  return places;
}

/** The layout draws lots; they fall the same way each time, so that the same graph is laid out the same way. */
function repeatable(): void {
  let state = 1;
  Math.random = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
}

addEventListener('message', ({ data }: MessageEvent<LayoutGraph>) => {
  const graph = cytoscape({
    headless: true,
    styleEnabled: true,
    elements: [
      ...data.nodes.map(({ id, width, height }) => ({ data: { id, width, height } })),
      ...data.edges.map((e, i) => ({ data: { id: `e${i}`, source: e.from, target: e.to, length: e.length } })),
    ],
    style: [{ selector: 'node', style: { width: 'data(width)', height: 'data(height)' } }],
  });
  repeatable();
  const options: FcoseLayoutOptions = {
    name: 'fcose',
    quality: 'default',
    animate: false,
    randomize: true,
    packComponents: false,
    nodeRepulsion: 4500,
    idealEdgeLength: (e: cytoscape.EdgeSingular) => e.data('length') as number,
    edgeElasticity: 0.45,
    gravity: 0.25,
  };
  const layout = graph.layout(options);
  layout.one('layoutstop', () => {
    const places: Record<string, { x: number; y: number }> = {};
    graph.nodes().forEach((n) => {
      const { x, y } = n.position();
      places[n.id()] = { x: WIDER * x, y };
    });
    graph.destroy();
    postMessage(apart(data.nodes, places));
  });
  layout.run();
});
