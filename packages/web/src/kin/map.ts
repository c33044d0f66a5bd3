/**
 * The kin map: families as names, knots about them, what leads from one to another as lines. Pan, zoom, filter; small figures when one
 * comes near. Everything on it is in the lists too.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import {
  drawFigure,
  finishedFigure,
  heartBox,
  KIN_KINDS,
  sayKin,
  standingOf,
  toSvg,
  type KinKind,
} from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import cytoscape from 'cytoscape';
import { KinService, type KinNode } from '../data/kin';
import { SessionService } from '../data/session';
import { Theme } from '../data/theme';
import { ClassName } from '../ui/class-name';
import type { Box, LayoutGraph, Places } from '../workers/kin-layout.worker';
import { KinPicture } from './picture';
import { Standing } from './standing';
import { Select } from '../ui/select';

/** Zoom from which knots are shown as figures. */
const NEAR = 1.15;
/** One press of an arrow key pans so far, in pixels; one of plus or minus zooms by this factor. */
const PAN = 80;
const ZOOM = 1.25;
/** Lengths of lines in the layout, from box to box: kin lie near, members not far from their family's name. */
const KIN_LENGTH = 80;
const FAMILY_LENGTH = 60;
/** Sizes of names, in pixels at the map's own scale. */
const KNOT_SIZE = 17;
const FAMILY_SIZE = 22;
/** Height kept free for a knot: enough for its figure when one comes near. */
const ROW = 84;

@Component({
  selector: 'ft-kin-map',
  imports: [
    RouterLink,
    MatButtonModule,
    MatCheckboxModule,
    MatIconModule,
    MatMenuModule,
    MatProgressBarModule,
    ClassName,
    KinPicture,
    Standing,
    Select,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './map.html',
  styleUrl: './map.scss',
})
export class KinMapPage {
  protected readonly kin = inject(KinService);
  private readonly sessions = inject(SessionService);
  private readonly theme = inject(Theme);
  private readonly board = viewChild.required<ElementRef<HTMLElement>>('board');
  protected readonly kinds = KIN_KINDS;
  protected readonly hidden = signal<ReadonlySet<KinKind>>(new Set());
  protected readonly family = signal<string>('');
  protected readonly class = signal<string>('');
  protected readonly book = signal(true);
  protected readonly picked = signal<string | undefined>(undefined);
  protected readonly placing = signal(true);
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly sayKin = sayKin;
  protected readonly classes = computed(() =>
    [...new Set(this.kin.nodes().map((n) => n.class))]
      .sort()
      .map((value) => ({ value, name: this.sessions.className(value) })),
  );
  protected readonly families = computed(() => this.kin.families().map((f) => ({ value: f.id, name: f.name })));
  protected readonly list = computed(() =>
    this.shownNodes()
      .map(({ ref, name }) => ({ value: ref, name }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  );
  protected readonly node = computed(() => {
    const ref = this.picked();
    return ref === undefined ? undefined : this.kin.node(ref);
  });
  protected readonly neighbours = computed(() => {
    const n = this.node();
    return n ? this.kin.neighbours(n.ref) : [];
  });

  /** Families from the chosen one down. */
  private readonly within = computed(() => {
    const chosen = this.family();
    const ids = new Set<string>(chosen === '' ? [] : [chosen]);
    for (let size = -1; size !== ids.size;) {
      size = ids.size;
      for (const f of this.kin.families()) if (f.parent !== null && ids.has(f.parent)) ids.add(f.id);
    }
    return ids;
  });
  protected readonly shownNodes = computed(() =>
    this.kin
      .nodes()
      .filter(
        (n) =>
          (this.book() || !n.ofBook) &&
          (this.family() === '' || (n.family !== null && this.within().has(n.family))) &&
          (this.class() === '' || n.class === this.class()),
      ),
  );

  private graph: cytoscape.Core | undefined;
  private worker: Worker | undefined;
  private readonly pictures = new Map<string, string>();

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.graph?.destroy();
      this.worker?.terminate();
      for (const address of this.pictures.values()) if (address.startsWith('blob:')) URL.revokeObjectURL(address);
    });
    effect(() => {
      const [nodes, links, families] = [this.kin.nodes(), this.kin.links(), this.kin.families()];
      this.place(nodes, links, families);
    });
    effect(() => {
      const ref = this.picked();
      if (ref === undefined) this.unmark();
      else this.mark(ref);
    });
    effect(() => {
      this.theme.dark();
      this.graph?.style(this.look());
    });
    effect(() => {
      this.filter(new Set(this.shownNodes().map((n) => n.ref)), this.hidden());
    });
  }

  /** Has the layout made away from the page, then draws the map. */
  private place(
    nodes: readonly KinNode[],
    links: ReturnType<KinService['links']>,
    families: ReturnType<KinService['families']>,
  ): void {
    const refs = new Set(nodes.map((n) => n.ref));
    const own = links.filter((l) => refs.has(l.from) && refs.has(l.to));
    const hubs = families.filter(
      (f) => nodes.some((n) => n.family === f.id) || families.some((o) => o.parent === f.id),
    );
    const boxes = this.boxes(nodes, hubs);
    const graph: LayoutGraph = {
      nodes: boxes,
      edges: [
        ...own.map((l) => ({ from: l.from, to: l.to, length: KIN_LENGTH })),
        ...nodes.flatMap((n) => (n.family === null ? [] : [{ from: n.family, to: n.ref, length: FAMILY_LENGTH }])),
        ...hubs.flatMap((f) =>
          f.parent !== null && hubs.some((h) => h.id === f.parent)
            ? [{ from: f.parent, to: f.id, length: 2 * FAMILY_LENGTH }]
            : [],
        ),
        // Families that nothing leads to are kept in the circle.
        ...hubs.map((f, i) => ({ from: f.id, to: (hubs[(i + 1) % hubs.length] ?? f).id, length: 3 * FAMILY_LENGTH })),
      ].filter((e) => e.from !== e.to),
    };
    this.worker?.terminate();
    this.placing.set(true);
    this.trouble.set(undefined);
    this.worker = new Worker(new URL('../workers/kin-layout.worker', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<Places>): void => {
      this.placing.set(false);
      this.draw(boxes, nodes, own, hubs, data);
    };
    this.worker.onerror = (): void => {
      this.placing.set(false);
      this.trouble.set('The map could not be laid out. Everything on it is under Families and Relations.');
    };
    this.worker.postMessage(graph);
  }

  /** The boxes of families and knots, as wide as their names. */
  private boxes(nodes: readonly KinNode[], hubs: ReturnType<KinService['families']>): readonly Box[] {
    const pen = document.createElement('canvas').getContext('2d');
    const widthOf = (text: string, font: string): number => {
      if (!pen) return 9 * text.length;
      pen.font = font;
      return Math.ceil(pen.measureText(text).width);
    };
    return [
      ...hubs.map((f) => ({
        id: f.id,
        width: widthOf(f.name, `600 ${FAMILY_SIZE}px Fraunces Variable`) + 26,
        height: 44,
      })),
      ...nodes.map((n) => ({
        id: n.ref,
        width: widthOf(n.name, `${KNOT_SIZE}px Atkinson Hyperlegible Next Variable`) + 22,
        height: ROW,
      })),
    ];
  }

  private draw(
    boxes: readonly Box[],
    nodes: readonly KinNode[],
    links: ReturnType<KinService['links']>,
    hubs: ReturnType<KinService['families']>,
    places: Places,
  ): void {
    const at = (id: string): { x: number; y: number } => ({ ...(places[id] ?? { x: 0, y: 0 }) });
    const widths = new Map(boxes.map((b) => [b.id, b.width]));
    this.graph?.destroy();
    this.ownSheet();
    const graph = cytoscape({
      container: this.board().nativeElement,
      elements: [
        ...hubs.map((f) => ({
          data: { id: f.id, name: f.name, width: widths.get(f.id) },
          position: at(f.id),
          classes: 'family',
        })),
        ...nodes.map((n) => ({
          data: { id: n.ref, name: n.name, width: widths.get(n.ref) },
          position: at(n.ref),
          classes: n.ofBook ? 'knot book' : 'knot',
        })),
        ...nodes.flatMap((n) =>
          n.family === null ? [] : [{ data: { source: n.family, target: n.ref }, classes: 'member' }],
        ),
        ...hubs.flatMap((f) =>
          f.parent !== null && hubs.some((h) => h.id === f.parent)
            ? [{ data: { source: f.parent, target: f.id }, classes: 'member' }]
            : [],
        ),
        ...links.map((l) => ({
          data: { id: l.id, source: l.from, target: l.to, kind: l.kind },
          classes: `kin ${standingOf(l)}`,
        })),
      ],
      style: this.look(),
      layout: { name: 'preset', padding: 24 },
      minZoom: 0.1,
      maxZoom: 4,
      wheelSensitivity: 0.4,
      pixelRatio: 'auto',
      boxSelectionEnabled: false,
      autoungrabify: true,
    });
    graph.on('tap', 'node.knot', (e) => this.picked.set((e.target as cytoscape.NodeSingular).id()));
    graph.on('tap', (e) => {
      if (e.target === graph) this.picked.set(undefined);
    });
    graph.on('viewport', () => this.comeNear());
    this.graph = graph;
    this.filter(new Set(this.shownNodes().map((n) => n.ref)), this.hidden());
    this.comeNear();
    const picked = this.picked();
    if (picked !== undefined) this.mark(picked);
  }

  /** The library would write a style element of its own, which the content policy forbids: its one rule is in our sheet. */
  private ownSheet(): void {
    const id = '__________cytoscape_stylesheet';
    if (document.getElementById(id)) return;
    const stand = document.createElement('meta');
    stand.id = id;
    document.head.append(stand);
  }

  /** Colours of the theme, read from the page. */
  private look(): cytoscape.StylesheetJson {
    const colour = (name: string): string => {
      // A new element each time: on one that is there already a change of colour may still be under way.
      const probe = document.createElement('span');
      probe.style.color = `var(--${name})`;
      this.board().nativeElement.append(probe);
      const found = getComputedStyle(probe).color;
      probe.remove();
      return found;
    };
    const font = 'Atkinson Hyperlegible Next Variable, sans-serif';
    return [
      {
        selector: 'node.knot',
        style: {
          label: 'data(name)',
          shape: 'round-rectangle',
          width: 'data(width)',
          height: 40,
          'background-color': colour('card'),
          'border-width': 1.5,
          'border-color': colour('mat-sys-outline'),
          color: colour('ink'),
          'font-family': font,
          'font-size': KNOT_SIZE,
          'text-valign': 'center',
        },
      },
      { selector: 'node.book', style: { 'border-style': 'dashed', 'background-color': colour('bench') } },
      {
        selector: 'node.near',
        style: {
          width: 92,
          height: 66,
          'background-color': colour('paper'),
          'background-fit': 'contain',
          'text-valign': 'bottom',
          'text-margin-y': 4,
          'text-wrap': 'wrap',
          'text-max-width': '120px',
          'font-size': 12,
        },
      },
      {
        selector: 'node.family',
        style: {
          label: 'data(name)',
          shape: 'round-rectangle',
          width: 'data(width)',
          height: 44,
          'background-color': colour('bar'),
          color: colour('bar-ink'),
          'font-family': 'Fraunces Variable, serif',
          'font-size': FAMILY_SIZE,
          'font-weight': 600,
          'text-valign': 'center',
        },
      },
      { selector: 'edge.member', style: { width: 1, 'line-color': colour('line'), 'curve-style': 'haystack' } },
      {
        selector: 'edge.kin',
        style: {
          width: 2.5,
          label: 'data(kind)',
          'min-zoomed-font-size': 10.5,
          'font-size': 14,
          'font-family': font,
          color: colour('ink'),
          'text-background-color': colour('bench'),
          'text-background-opacity': 0.9,
          'text-background-padding': '2px',
          'curve-style': 'bezier',
          'target-arrow-shape': 'triangle',
          'line-color': colour('ink-soft'),
          'target-arrow-color': colour('ink-soft'),
        },
      },
      {
        selector: 'edge.proved',
        style: { 'line-color': colour('moss'), 'target-arrow-color': colour('moss') },
      },
      { selector: 'edge.judged', style: { 'line-style': 'dashed' } },
      { selector: 'edge.open, edge.waiting', style: { 'line-style': 'dotted' } },
      {
        selector: 'edge.refuted',
        style: {
          'line-color': colour('plum'),
          'target-arrow-color': colour('plum'),
          'target-arrow-shape': 'tee',
          'line-style': 'dashed',
        },
      },
      { selector: '.out', style: { display: 'none' } },
      { selector: '.faded', style: { opacity: 0.25 } },
      { selector: 'node.picked', style: { 'border-width': 4, 'border-color': colour('fox') } },
    ];
  }

  private filter(refs: ReadonlySet<string>, hidden: ReadonlySet<KinKind>): void {
    this.graph?.batch(() => {
      this.graph?.nodes('.knot').forEach((n) => {
        n.toggleClass('out', !refs.has(n.id()));
      });
      this.graph?.edges('.kin').forEach((e) => {
        e.toggleClass('out', hidden.has(e.data('kind') as KinKind));
      });
      const inUse = this.familiesOf(refs);
      this.graph?.nodes('.family').forEach((f) => {
        f.toggleClass('out', !inUse.has(f.id()));
      });
    });
  }

  /** The families of some knots, and those above them. */
  private familiesOf(refs: ReadonlySet<string>): ReadonlySet<string> {
    const parents = new Map(this.kin.families().map((f) => [f.id, f.parent]));
    const ids = new Set<string>();
    for (const n of this.kin.nodes())
      if (refs.has(n.ref))
        for (let at = n.family; at !== null && !ids.has(at); at = parents.get(at) ?? null) ids.add(at);
    return ids;
  }

  /** Near enough, knots in sight are shown as figures; farther off as names. */
  private comeNear(): void {
    const graph = this.graph;
    if (!graph) return;
    const near = graph.zoom() >= NEAR;
    const { x1, y1, x2, y2 } = graph.extent();
    graph.batch(() => {
      graph.nodes('.knot').forEach((n) => {
        const { x, y } = n.position();
        const inSight = near && x > x1 - 150 && x < x2 + 150 && y > y1 - 150 && y < y2 + 150;
        if (inSight === n.hasClass('near')) return;
        n.toggleClass('near', inSight);
        if (inSight) n.style('background-image', this.pictureOf(n.id()));
        else n.removeStyle('background-image');
      });
    });
  }

  private pictureOf(ref: string): string {
    const known = this.pictures.get(ref);
    if (known !== undefined) return known;
    const [sort, id = ''] = ref.split(':');
    const pattern = sort === 'pattern' ? patternOf(id) : undefined;
    let address = `/api/knots/${id}/thumbnail.svg`;
    if (pattern) {
      const figure = finishedFigure(pattern.knot.method);
      const svg = toSvg(drawFigure(figure), {
        title: pattern.knot.name,
        description: pattern.knot.name,
        box: heartBox(figure),
        width: 240,
      });
      address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    }
    this.pictures.set(ref, address);
    return address;
  }

  protected toggle(kind: KinKind): void {
    this.hidden.update((h) => {
      const next = new Set(h);
      if (!next.delete(kind)) next.add(kind);
      return next;
    });
  }

  protected pick(ref: string): void {
    if (ref === '') return;
    this.picked.set(ref);
    this.mark(ref);
    const node = this.graph?.getElementById(ref);
    if (!node || node.empty()) return;
    const reduced = matchMedia('(prefers-reduced-motion: reduce)').matches;
    this.graph?.animate(
      { center: { eles: node }, zoom: Math.max(this.graph.zoom(), NEAR) },
      { duration: reduced ? 0 : 250 },
    );
  }

  private mark(ref: string): void {
    const graph = this.graph;
    const node = graph?.getElementById(ref);
    if (!graph || !node || node.empty()) return;
    graph.batch(() => {
      graph.elements().addClass('faded').removeClass('picked');
      node.closedNeighborhood().removeClass('faded');
      node.addClass('picked');
    });
  }

  private unmark(): void {
    this.graph?.elements().removeClass('faded picked');
  }

  protected zoom(by: number): void {
    const graph = this.graph;
    if (!graph) return;
    graph.zoom({ level: graph.zoom() * by, renderedPosition: { x: graph.width() / 2, y: graph.height() / 2 } });
  }
  protected closer = (): void => this.zoom(ZOOM);
  protected farther = (): void => this.zoom(1 / ZOOM);
  protected fit(): void {
    this.graph?.fit(this.graph.elements(':visible'), 24);
  }

  protected key(event: KeyboardEvent): void {
    const pans: Readonly<Record<string, { x: number; y: number }>> = {
      ArrowLeft: { x: PAN, y: 0 },
      ArrowRight: { x: -PAN, y: 0 },
      ArrowUp: { x: 0, y: PAN },
      ArrowDown: { x: 0, y: -PAN },
    };
    const pan = pans[event.key];
    if (pan) this.graph?.panBy(pan);
    else if (event.key === '+' || event.key === '=') this.closer();
    else if (event.key === '-') this.farther();
    else if (event.key === '0') this.fit();
    else if (event.key === 'Escape') this.picked.set(undefined);
    else return;
    event.preventDefault();
  }
}
