/** Every assembly of the house, each with its picture; and what one may begin from. */
import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { ASSEMBLY_LIMITS, assemblyFindings, assemblySchema, type Assembly } from '@foxtrail/core/assembly';
import { BOOK_ASSEMBLIES } from '@foxtrail/pattern-book/assemblies';
import { AssembliesService } from '../data/assemblies';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { freeName } from '../ropes/kept-draft';
import { lengthsSaid } from '../ropes/lengths-said';
import { TroubleLine } from '../ui/trouble';
import { AssemblyBoard } from './board';

@Component({
  selector: 'ft-assembly-list',
  imports: [AssemblyBoard, MatButtonModule, MatIconModule, MatMenuModule, RouterLink, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h1>Assemblies</h1>
      <p class="soft">Several knots on ropes, tied in an order, and inspected as one.</p>
      <span class="space"></span>
      @if (mayWrite()) {
        <button mat-flat-button type="button" [matMenuTriggerFor]="from" [disabled]="attempt.busy()">
          <mat-icon svgIcon="plus" />New assembly
        </button>
        <mat-menu #from="matMenu">
          <button mat-menu-item type="button" (click)="begin(bare)"><b>An empty board</b></button>
          @for (b of book; track b.name) {
            <button mat-menu-item type="button" (click)="begin(b)">{{ b.name }}</button>
          }
        </mat-menu>
      }
    </div>
    <ft-trouble [text]="attempt.trouble() ?? asking.trouble()" />
    <div class="cards">
      @for (c of cards(); track c.id) {
        <a class="card" [routerLink]="['/assemblies', c.id]">
          <ft-assembly-board still [assembly]="c.is" [findings]="c.findings" />
          <h2>{{ c.is.name }}</h2>
          <p>{{ c.is.summary }}</p>
          <p class="soft">
            {{ c.is.knots.length }} {{ c.is.knots.length === 1 ? 'knot' : 'knots' }} · {{ c.is.ropes.length }}
            {{ c.is.ropes.length === 1 ? 'rope' : 'ropes' }} · {{ c.is.useGrade }}
            @if (c.errors > 0) {
              <b class="fails">· {{ c.errors }} {{ c.errors === 1 ? 'error' : 'errors' }}</b>
            }
          </p>
        </a>
      } @empty {
        <div class="none card">
          <h2>Nothing is assembled yet</h2>
          <p>
            Begin from the book: a ridge line, a purchase, a sling, a seat. Or lay a board of your own: things, ropes,
            and the knots on them in the order of tying.
          </p>
        </div>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      padding: 14px 24px 40px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 16px;
      align-items: center;
      margin-bottom: 14px;
    }
    h1,
    .head p {
      margin: 0;
    }
    .cards {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
      gap: 16px;
    }
    a.card {
      padding: 10px 10px 12px;
      color: inherit;
      text-decoration: none;
    }
    .card h2 {
      margin: 10px 8px 2px;
      font-size: 20px;
    }
    .card p {
      margin: 2px 8px;
    }
    .none {
      grid-column: 1 / -1;
      max-width: 620px;
      padding: 12px 18px 20px;
    }
    .fails {
      color: var(--plum);
    }
    @media (max-width: 700px) {
      :host {
        padding: 10px 10px 30px;
      }
      .cards {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class AssemblyList {
  private readonly kept = inject(RopesService);
  private readonly known = inject(AssembliesService);
  private readonly router = inject(Router);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  private readonly sayMm = lengthsSaid();
  protected readonly attempt = new Attempt();
  protected readonly asking = new Attempt();
  protected readonly book: readonly Assembly[] = Object.values(BOOK_ASSEMBLIES).map((make) => make());
  protected readonly bare: Assembly = assemblySchema.parse({
    name: 'New assembly',
    ropes: [{ name: 'Rope', diameterMm: 10, firstMm: 1000 }],
  });

  protected readonly cards = computed(() =>
    this.kept.assemblies.list().map(({ id, is }) => {
      const findings = assemblyFindings(is, this.known.houseOf(is, this.sayMm));
      return { id, is, findings, errors: findings.filter((f) => f.severity === 'error').length };
    }),
  );

  constructor() {
    effect(() => {
      const refs = [...new Set(this.kept.assemblies.list().flatMap((k) => k.is.knots.map((x) => x.ref)))];
      untracked(() => {
        for (let i = 0; i < refs.length; i += ASSEMBLY_LIMITS.knots) {
          const asked = this.known.ask(refs.slice(i, i + ASSEMBLY_LIMITS.knots));
          if (asked) void this.asking.run(asked);
        }
      });
    });
  }

  protected async begin(from: Assembly): Promise<void> {
    const is = { ...from, name: freeName(from.name, this.kept.assemblies.list()) };
    await this.attempt.run(this.kept.assemblies.add(is), ([made]) => {
      if (made) void this.router.navigate(['/assemblies', made.id]);
    });
  }
}
