/**
 * Names in dispute: which names mean two things, which things have rival names, what each school says and what this house uses.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { sameName, type Disputes, type Meaning } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { SearchField } from '../ui/search-field';
import { Attempt } from '../data/attempt';
import { TroubleNote } from '../ui/trouble';

@Component({
  selector: 'ft-disputes',
  imports: [RouterLink, MatButtonModule, MatProgressBarModule, SearchField, TroubleNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (trouble(); as text) {
      <ft-trouble-note title="The disputes cannot be shown" [text]="text" (again)="load()" />
    } @else if (found(); as d) {
      <div class="bar">
        <ft-search label="Find a name" [(query)]="query" />
        <label
          ><input type="checkbox" [checked]="onlyKnots()" (change)="onlyKnots.set(!onlyKnots())" /> only names of
          knots</label
        >
      </div>
      <section aria-labelledby="homonyms">
        <h2 id="homonyms">
          One name, several things <span class="soft">{{ homonyms().length }}</span>
        </h2>
        <ul class="homonyms">
          @for (h of homonyms(); track h.name) {
            <li class="card">
              <h3>{{ h.name }}</h3>
              @for (m of h.meanings; track $index) {
                <p>
                  @if (m.concept !== undefined) {
                    <a [routerLink]="['/words/terms', m.concept]">{{ m.called }}</a>
                  } @else {
                    <a [routerLink]="['/knot', m.knot, 'draft']">{{ m.called }}</a>
                  }
                  @if (m.kind; as kind) {
                    <span class="kind">{{ kind }}</span>
                  }
                  <span class="soft">{{ said(m) }}</span>
                </p>
              }
            </li>
          } @empty {
            <li class="soft">No name means two things.</li>
          }
        </ul>
      </section>
      <section aria-labelledby="rivalries">
        <h2 id="rivalries">
          One thing, several names <span class="soft">{{ rivalries().length }}</span>
        </h2>
        <div class="card scroll">
          <table class="table">
            <thead>
              <tr>
                <th scope="col">This house</th>
                @for (s of schools(); track s.id) {
                  <th scope="col">{{ s.name }}</th>
                }
                <th scope="col">Discouraged</th>
              </tr>
            </thead>
            <tbody>
              @for (r of rivalries(); track r.concept) {
                <tr>
                  <th scope="row">
                    <a [routerLink]="['/words/terms', r.concept]">{{ r.called ?? r.concept }}</a>
                    <span class="soft">{{ r.kind }}</span>
                  </th>
                  @for (s of r.bySchool; track s.school) {
                    <td [class.same]="s.same">
                      {{ s.preferred }}
                      @if (s.also.length > 0) {
                        <span class="soft">also {{ s.also.join(', ') }}</span>
                      }
                    </td>
                  }
                  <td>
                    @for (b of r.bad; track b) {
                      <s>{{ b }}</s>
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        </div>
      </section>
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Comparing names" />
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 1360px;
      padding: 8px 24px 40px;
    }
    .bar {
      display: flex;
      gap: 16px;
      align-items: center;
      min-height: 56px;
    }
    ft-search {
      width: 280px;
    }
    input[type='checkbox'] {
      width: 22px;
      height: 22px;
      accent-color: var(--fox-strong);
      vertical-align: middle;
    }
    h2 {
      margin: 10px 0 10px;
    }
    h2 .soft {
      font-size: 16px;
      font-weight: 400;
    }
    .homonyms {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
      gap: 12px;
      margin: 0 0 22px;
      padding: 0;
      list-style: none;
    }
    .homonyms .card {
      padding: 12px 16px;
      border-left: 5px solid var(--fox);
    }
    h3 {
      margin-bottom: 4px;
      font-size: 20px;
    }
    .homonyms p {
      margin: 2px 0;
      line-height: 1.4;
    }
    .kind {
      margin-left: 8px;
      font-style: italic;
    }
    .homonyms .soft {
      display: block;
      font-size: 14.5px;
    }
    .scroll {
      overflow-x: auto;
    }
    tbody .soft {
      display: block;
      font-size: 14px;
      font-weight: 400;
    }
    s {
      display: block;
    }
  `,
})
export class DisputesPage {
  private readonly words = inject(WordsService);
  protected readonly found = signal<Disputes | undefined>(undefined);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly query = signal('');
  protected readonly onlyKnots = signal(false);
  protected readonly schools = computed(() => this.words.glossary().schools);
  protected readonly homonyms = computed(() =>
    (this.found()?.homonyms ?? []).filter(
      (h) => (!this.onlyKnots() || h.ofKnots) && this.fits([h.name, ...h.meanings.map((m) => m.called)]),
    ),
  );
  protected readonly rivalries = computed(() =>
    (this.found()?.rivalries ?? [])
      .filter(
        (r) =>
          (!this.onlyKnots() || r.kind === 'knot') &&
          this.fits([r.called ?? '', ...r.preferred.map((p) => p.name), ...r.also.map((a) => a.name)]),
      )
      .map((r) => ({
        ...r,
        bySchool: this.schools().map((s) => {
          const preferred = r.preferred.find((p) => p.school === s.id)?.name ?? '—';
          return {
            school: s.id,
            preferred,
            same: sameName(preferred) === sameName(r.called ?? ''),
            also: r.also
              .filter((a) => a.sayings.some((x) => x.school === s.id && x.status === 'also used'))
              .map((a) => a.name),
          };
        }),
        bad: r.also.filter((a) => a.sayings.every((x) => x.status === 'discouraged')).map((a) => a.name),
      })),
  );

  constructor() {
    this.load();
  }

  protected load(): void {
    void this.attempt.run(this.words.disputes(), (found) => this.found.set(found));
  }

  private fits(names: readonly string[]): boolean {
    const asked = sameName(this.query());
    return asked === '' || names.some((n) => sameName(n).includes(asked));
  }

  /** Who says a name of a thing. */
  protected said({ sayings, knot }: Meaning): string {
    if (sayings.length === 0) return knot === undefined ? '' : 'a knot on the shelf';
    const by = new Map<string, string[]>();
    for (const s of sayings) by.set(s.status, [...(by.get(s.status) ?? []), this.words.schoolName(s.school)]);
    const reason = sayings.find((s) => s.reason !== undefined)?.reason;
    return (
      [...by].map(([status, schools]) => `${status}: ${schools.join(', ')}`).join('; ') +
      (reason === undefined ? '' : `. ${reason}`)
    );
  }
}
