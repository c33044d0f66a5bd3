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
import { KIN_KINDS, sayKin, type KinKind } from '@foxtrail/core';
import { KinService } from '../../data/kin';
import { SessionService } from '../../data/session';
import { Theme } from '../../data/theme';
import { ClassName } from '../../ui/class-name';
import { Select } from '../../ui/select';
import { KinPicture } from '../picture';
import { Standing } from '../standing';
import { KinGraph } from './graph';
import { boxesOf, contentOf, layOut } from './layout';

/** One press of an arrow key pans so far, in pixels; one of plus or minus zooms by this factor. */
const PAN = 80;
const ZOOM = 1.25;
const PANS: Readonly<Record<string, { readonly x: number; readonly y: number }>> = {
  ArrowLeft: { x: PAN, y: 0 },
  ArrowRight: { x: -PAN, y: 0 },
  ArrowUp: { x: 0, y: PAN },
  ArrowDown: { x: 0, y: -PAN },
};

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
    Select,
    Standing,
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

  private readonly graph = signal<KinGraph | undefined>(undefined);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.graph()?.destroy());
    effect((clean) => {
      const content = contentOf(this.kin.nodes(), this.kin.links(), this.kin.families());
      const boxes = boxesOf(content);
      this.placing.set(true);
      this.trouble.set(undefined);
      const laying = layOut(content, boxes).subscribe({
        next: (places) => {
          this.placing.set(false);
          this.graph.update((old) => {
            old?.destroy();
            return new KinGraph(this.board().nativeElement, content, boxes, places, (ref) => this.picked.set(ref));
          });
        },
        error: () => {
          this.placing.set(false);
          this.trouble.set('The map could not be laid out. Everything on it is under Families and Relations.');
        },
      });
      clean(() => laying.unsubscribe());
    });
    effect(() => this.graph()?.mark(this.picked()));
    effect(() => {
      this.theme.dark();
      this.graph()?.recolour();
    });
    effect(() => {
      const refs = new Set(this.shownNodes().map((n) => n.ref));
      this.graph()?.filter(refs, this.familiesOf(refs), this.hidden());
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
    this.graph()?.goTo(ref);
  }

  protected closer = (): void => this.graph()?.zoom(ZOOM);
  protected farther = (): void => this.graph()?.zoom(1 / ZOOM);
  protected fit = (): void => this.graph()?.fit();

  protected key(event: KeyboardEvent): void {
    const pan = PANS[event.key];
    if (pan) this.graph()?.pan(pan);
    else if (event.key === '+' || event.key === '=') this.closer();
    else if (event.key === '-') this.farther();
    else if (event.key === '0') this.fit();
    else if (event.key === 'Escape') this.picked.set(undefined);
    else return;
    event.preventDefault();
  }
}
