/**
 * The tree of families: dragged into one another, with the knots of the one that is chosen, dragged into another. Everything a drag does the
 * menus do too.
 */
import {
  CdkDrag,
  CdkDragPlaceholder,
  CdkDragPreview,
  CdkDropList,
  CdkDropListGroup,
  type CdkDragDrop,
} from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Notices } from '../ui/notices';
import { RouterLink } from '@angular/router';
import type { Family } from '@foxtrail/contract';
import type { Observable } from 'rxjs';
import { KinService, type KinNode } from '../data/kin';
import { SessionService } from '../data/session';
import { ClassName } from '../ui/class-name';
import { KinPicture } from './picture';

/** A family as a row of the tree. */
interface Row {
  readonly id: string | null;
  readonly name: string;
  readonly depth: number;
  readonly family?: Family;
  /** Knots in it, and in it and everything below. */
  readonly own: number;
  readonly all: number;
}

type Dragged = { readonly family: Family } | { readonly knot: KinNode };

@Component({
  selector: 'ft-families',
  imports: [
    CdkDrag,
    CdkDragPlaceholder,
    CdkDragPreview,
    CdkDropList,
    CdkDropListGroup,
    RouterLink,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    ClassName,
    KinPicture,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="both" cdkDropListGroup>
      <section class="tree card" aria-labelledby="tree">
        <div class="title">
          <h2 id="tree">Families</h2>
          @if (mayWrite()) {
            <button mat-stroked-button type="button" (click)="adding.set(true)"><mat-icon svgIcon="plus" />New</button>
          }
        </div>
        @if (adding()) {
          <p class="name">
            <input
              class="field"
              aria-label="Name of the new family"
              placeholder="Name of the new family"
              maxlength="80"
              (keydown.enter)="add(fresh.value)"
              (keydown.escape)="adding.set(false)"
              #fresh
            />
            <button mat-stroked-button type="button" (click)="add(fresh.value)">Add</button>
          </p>
        }
        <ul>
          @for (r of rows(); track r.id) {
            <li
              cdkDropList
              [cdkDropListData]="r"
              [cdkDropListSortingDisabled]="true"
              [cdkDropListEnterPredicate]="mayDrop"
              (cdkDropListDropped)="drop($event)"
              [class.chosen]="r.id === chosen()"
              [style.--depth]="r.depth"
            >
              <div
                class="row"
                cdkDrag
                [cdkDragData]="{ family: r.family }"
                [cdkDragDisabled]="!mayWrite() || !r.family"
                [cdkDragStartDelay]="{ touch: 200, mouse: 0 }"
              >
                <span class="preview" *cdkDragPreview>{{ r.name }}</span>
                <span *cdkDragPlaceholder class="gone"></span>
                @if (renaming() === r.id && r.id) {
                  <input
                    class="field"
                    [attr.aria-label]="'New name for ' + r.name"
                    maxlength="80"
                    [value]="r.name"
                    (keydown.enter)="rename(r.id, title.value)"
                    (keydown.escape)="renaming.set(undefined)"
                    #title
                  />
                  <button mat-button type="button" (click)="rename(r.id, title.value)">Rename</button>
                } @else {
                  <button type="button" class="pick" [attr.aria-pressed]="r.id === chosen()" (click)="chosen.set(r.id)">
                    <span>{{ r.name }}</span>
                    <span class="soft">{{ r.own }}{{ r.all > r.own ? ' + ' + (r.all - r.own) : '' }}</span>
                  </button>
                  @if (mayWrite() && r.family; as f) {
                    <button
                      mat-icon-button
                      type="button"
                      [matMenuTriggerFor]="menu"
                      [attr.aria-label]="'Arrange ' + r.name"
                    >
                      <mat-icon svgIcon="more" />
                    </button>
                    <mat-menu #menu="matMenu">
                      <button mat-menu-item type="button" (click)="renaming.set(r.id)">Rename</button>
                      <button mat-menu-item type="button" [matMenuTriggerFor]="under">Put under …</button>
                      <button mat-menu-item type="button" (click)="shift(f, -1)">Move up</button>
                      <button mat-menu-item type="button" (click)="shift(f, 1)">Move down</button>
                      <button mat-menu-item type="button" (click)="dissolve(f)">Dissolve: its knots go one up</button>
                    </mat-menu>
                    <mat-menu #under="matMenu">
                      <button mat-menu-item type="button" (click)="put(f, null)">the top of the tree</button>
                      @for (o of others(f); track o.id) {
                        <button mat-menu-item type="button" (click)="put(f, o.id)">{{ o.name }}</button>
                      }
                    </mat-menu>
                  }
                }
              </div>
            </li>
          }
          <li
            class="top"
            cdkDropList
            [cdkDropListData]="top"
            [cdkDropListSortingDisabled]="true"
            [cdkDropListEnterPredicate]="mayDrop"
            (cdkDropListDropped)="drop($event)"
          >
            <span class="soft">{{ mayWrite() ? 'Drop a family here to put it at the top of the tree' : '' }}</span>
          </li>
        </ul>
      </section>
      <section class="members" aria-labelledby="members">
        <h2 id="members">
          {{ chosenName() }} <span class="soft">{{ members().length }}</span>
        </h2>
        <ul class="knots" cdkDropList [cdkDropListSortingDisabled]="true" [cdkDropListEnterPredicate]="never">
          @for (k of members(); track k.ref) {
            <li
              class="card"
              cdkDrag
              [cdkDragData]="{ knot: k }"
              [cdkDragDisabled]="!mayWrite() || k.ofBook"
              [cdkDragStartDelay]="{ touch: 200, mouse: 0 }"
            >
              <span class="preview" *cdkDragPreview>{{ k.name }}</span>
              <span *cdkDragPlaceholder class="gone"></span>
              <ft-kin-picture [of]="k.ref" />
              <div class="what">
                @if (k.ofBook) {
                  <strong>{{ k.name }}</strong>
                } @else {
                  <a [routerLink]="['/knot', k.id, 'kin']">{{ k.name }}</a>
                }
                <span class="soft">{{ k.class | className }}{{ k.ofBook ? ', pattern book' : '' }}</span>
                <span class="soft">{{ firstKin(k) }}</span>
              </div>
              @if (mayWrite() && !k.ofBook) {
                <button mat-icon-button type="button" [matMenuTriggerFor]="to" [attr.aria-label]="'Move ' + k.name">
                  <mat-icon svgIcon="more" />
                </button>
                <mat-menu #to="matMenu">
                  @for (o of kin.families(); track o.id) {
                    @if (o.id !== k.family) {
                      <button mat-menu-item type="button" (click)="move(k, o.id)">to {{ o.name }}</button>
                    }
                  }
                  @if (k.family !== null) {
                    <button mat-menu-item type="button" (click)="move(k, null)">out of all families</button>
                  }
                </mat-menu>
              }
            </li>
          } @empty {
            <li class="none soft">No knot is in it yet. Drag one here from another family.</li>
          }
        </ul>
      </section>
    </div>
  `,
  styleUrl: './families.scss',
})
export class FamiliesPage {
  protected readonly kin = inject(KinService);
  private readonly sessions = inject(SessionService);
  private readonly notices = inject(Notices);
  private readonly picked = signal<string | null | undefined>(undefined);
  protected readonly adding = signal(false);
  protected readonly renaming = signal<string | null | undefined>(undefined);
  protected readonly mayWrite = this.sessions.mayWrite;
  protected readonly top: Row = { id: null, name: '', depth: 0, own: 0, all: 0 };

  protected readonly rows = computed((): readonly Row[] => {
    const families = this.kin.families();
    const count = (id: string | null): number => this.kin.nodes().filter((n) => n.family === id).length;
    const rows: Row[] = [];
    const walk = (parent: string | null, depth: number): number => {
      let sum = 0;
      for (const family of families.filter((f) => f.parent === parent)) {
        const at = rows.length;
        const own = count(family.id);
        rows.push({ id: family.id, name: family.name, depth, family, own, all: own });
        const below = walk(family.id, depth + 1);
        rows[at] = { ...(rows[at] as Row), all: own + below };
        sum += own + below;
      }
      return sum;
    };
    walk(null, 0);
    const loose = count(null);
    return loose === 0 ? rows : [...rows, { id: null, name: 'No family', depth: 0, own: loose, all: loose }];
  });
  protected readonly chosen = Object.assign(
    computed(() => {
      const picked = this.picked();
      return picked !== undefined && this.rows().some((r) => r.id === picked) ? picked : (this.rows()[0]?.id ?? null);
    }),
    { set: (id: string | null): void => this.picked.set(id) },
  );
  protected readonly chosenName = computed(() => this.rows().find((r) => r.id === this.chosen())?.name ?? '');
  protected readonly members = computed(() =>
    this.kin
      .nodes()
      .filter((n) => n.family === this.chosen())
      .sort((a, b) => Number(a.ofBook) - Number(b.ofBook) || a.name.localeCompare(b.name)),
  );

  protected readonly never = (): boolean => false;
  /** Families go on families, but not into themselves; knots of the shelf go on families. */
  protected readonly mayDrop = (drag: CdkDrag<Dragged>, list: CdkDropList<Row>): boolean => {
    const { data } = drag;
    if ('knot' in data) return list.data !== this.top;
    if (list.data.id === null) return list.data === this.top;
    return !this.isWithin(list.data.id, data.family.id);
  };

  private isWithin(id: string | null, above: string): boolean {
    for (let at = id; at !== null; at = this.kin.families().find((f) => f.id === at)?.parent ?? null)
      if (at === above) return true;
    return false;
  }

  protected others(family: Family): readonly Family[] {
    return this.kin.families().filter((f) => f.id !== family.parent && !this.isWithin(f.id, family.id));
  }

  protected firstKin({ ref }: KinNode): string {
    const [first] = this.kin.neighbours(ref);
    return first ? `${this.kin.nameOf(first.ref)}: ${first.difference}` : '';
  }

  protected drop({ item, container }: CdkDragDrop<Row>): void {
    const data = item.data as Dragged;
    if ('knot' in data) this.move(data.knot, container.data.id);
    else this.put(data.family, container.data.id);
  }

  protected move(knot: KinNode, family: string | null): void {
    if (knot.family === family) return;
    const was = knot.family;
    this.kin.putKnot(knot.id, family).subscribe({
      next: () =>
        this.notices.done(`“${knot.name}” is in ${this.kin.familyName(family)} now.`, () =>
          this.act(this.kin.putKnot(knot.id, was)),
        ),
      error: this.notices.trouble,
    });
  }

  protected put(family: Family, parent: string | null): void {
    if (family.parent === parent || family.id === parent) return;
    this.act(this.kin.changeFamily(family.id, { place: { parent, before: null } }));
  }

  protected shift(family: Family, by: 1 | -1): void {
    const siblings = this.kin.families().filter((f) => f.parent === family.parent);
    const at = siblings.findIndex((f) => f.id === family.id);
    const to = at + by;
    if (to < 0 || to >= siblings.length) return;
    const before = by === -1 ? siblings[to] : siblings[to + 1];
    this.act(this.kin.changeFamily(family.id, { place: { parent: family.parent, before: before?.id ?? null } }));
  }

  protected add(name: string): void {
    if (name.trim() === '') return;
    this.kin.addFamily(name.trim(), null).subscribe({
      next: () => this.adding.set(false),
      error: this.notices.trouble,
    });
  }

  protected rename(id: string, name: string): void {
    if (name.trim() === '') return;
    this.kin.changeFamily(id, { name: name.trim() }).subscribe({
      next: () => this.renaming.set(undefined),
      error: this.notices.trouble,
    });
  }

  protected dissolve(family: Family): void {
    this.act(this.kin.dissolveFamily(family.id));
  }

  private act(done: Observable<unknown>): void {
    done.subscribe({ error: this.notices.trouble });
  }
}
