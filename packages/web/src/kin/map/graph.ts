/** The map as it is drawn: what is picked is marked, what is filtered out is gone, knots near the eye are figures. */
import { standingOf, type KinKind } from '@foxtrail/core';
import cytoscape from 'cytoscape';
import type { Box, Places } from '../../workers/kin-places.worker';
import { memberships, type MapContent } from './layout';
import { mapLook } from './look';
import { Pictures } from './pictures';

/** Zoom from which knots are shown as figures. */
const NEAR = 1.15;
/** Knots so far out of sight, in pixels of the map, are made figures already. */
const BEYOND = 150;
/** Board left round the whole map, in pixels. */
const EDGE = 24;
/** How long the map takes to go to a knot, in milliseconds. */
const GOING = 250;

export class KinGraph {
  private readonly graph: cytoscape.Core;
  private readonly pictures = new Pictures();

  /** Draws the map into a place of the page; `picked` is told the knot that is pressed, or nothing when the board is. */
  constructor(
    private readonly place: HTMLElement,
    content: MapContent,
    boxes: readonly Box[],
    places: Places,
    picked: (ref: string | undefined) => void,
  ) {
    ownSheet();
    this.graph = cytoscape({
      container: place,
      elements: elementsOf(content, boxes, places),
      style: mapLook(place),
      layout: { name: 'preset', padding: EDGE },
      minZoom: 0.1,
      maxZoom: 4,
      wheelSensitivity: 0.4,
      pixelRatio: 'auto',
      boxSelectionEnabled: false,
      autoungrabify: true,
    });
    this.graph.on('tap', 'node.knot', (e) => picked((e.target as cytoscape.NodeSingular).id()));
    this.graph.on('tap', (e) => {
      if (e.target === this.graph) picked(undefined);
    });
    this.graph.on('viewport', () => this.comeNear());
    this.comeNear();
  }

  destroy(): void {
    this.graph.destroy();
    this.pictures.close();
  }

  /** Takes the colours of the page's theme as they are now. */
  recolour(): void {
    this.graph.style(mapLook(this.place));
  }

  /** Shows some knots and some families, and all kinships but those of some kinds. */
  filter(refs: ReadonlySet<string>, families: ReadonlySet<string>, hidden: ReadonlySet<KinKind>): void {
    this.graph.batch(() => {
      this.graph.nodes('.knot').forEach((n) => void n.toggleClass('out', !refs.has(n.id())));
      this.graph.nodes('.family').forEach((n) => void n.toggleClass('out', !families.has(n.id())));
      this.graph.edges('.kin').forEach((e) => void e.toggleClass('out', hidden.has(e.data('kind') as KinKind)));
    });
  }

  /** Marks a knot and its neighbours; none: everything is as it was. */
  mark(ref: string | undefined): void {
    const node = ref === undefined ? undefined : this.graph.getElementById(ref);
    this.graph.batch(() => {
      this.graph.elements().removeClass('faded picked');
      if (!node || node.empty()) return;
      this.graph.elements().addClass('faded');
      node.closedNeighborhood().removeClass('faded');
      node.addClass('picked');
    });
  }

  /** Brings a knot into the middle, near enough to be seen as a figure. */
  goTo(ref: string): void {
    const node = this.graph.getElementById(ref);
    if (node.empty()) return;
    const reduced = matchMedia('(prefers-reduced-motion: reduce)').matches;
    this.graph.animate(
      { center: { eles: node }, zoom: Math.max(this.graph.zoom(), NEAR) },
      { duration: reduced ? 0 : GOING },
    );
  }

  zoom(by: number): void {
    const { graph } = this;
    graph.zoom({ level: graph.zoom() * by, renderedPosition: { x: graph.width() / 2, y: graph.height() / 2 } });
  }

  /** Moves the map, in pixels of the screen. */
  pan(by: { readonly x: number; readonly y: number }): void {
    this.graph.panBy(by);
  }

  fit(): void {
    this.graph.fit(this.graph.elements(':visible'), EDGE);
  }

  /** Near enough, knots in sight are shown as figures; farther off as names. */
  private comeNear(): void {
    const near = this.graph.zoom() >= NEAR;
    const { x1, y1, x2, y2 } = this.graph.extent();
    this.graph.batch(() => {
      this.graph.nodes('.knot').forEach((n) => {
        const { x, y } = n.position();
        const inSight = near && x > x1 - BEYOND && x < x2 + BEYOND && y > y1 - BEYOND && y < y2 + BEYOND;
        if (inSight === n.hasClass('near')) return;
        n.toggleClass('near', inSight);
        if (inSight) n.style('background-image', this.pictures.of(n.id()));
        else n.removeStyle('background-image');
      });
    });
  }
}

function elementsOf(content: MapContent, boxes: readonly Box[], places: Places): cytoscape.ElementDefinition[] {
  const widths = new Map(boxes.map((b) => [b.id, b.width]));
  const node = (id: string, name: string, classes: string): cytoscape.ElementDefinition => ({
    data: { id, name, width: widths.get(id) },
    position: { ...(places[id] ?? { x: 0, y: 0 }) },
    classes,
  });
  return [
    ...content.hubs.map((f) => node(f.id, f.name, 'family')),
    ...content.nodes.map((n) => node(n.ref, n.name, n.ofBook ? 'knot book' : 'knot')),
    ...memberships(content).map((m) => ({ data: { source: m.from, target: m.to }, classes: 'member' })),
    ...content.links.map((l) => ({
      data: { id: l.id, source: l.from, target: l.to, kind: l.kind },
      classes: `kin ${standingOf(l)}`,
    })),
  ];
}

/** The library would write a style element of its own, which the content policy forbids: its one rule is in our sheet. */
function ownSheet(): void {
  const id = '__________cytoscape_stylesheet';
  if (document.getElementById(id)) return;
  const stand = document.createElement('meta');
  stand.id = id;
  document.head.append(stand);
}
