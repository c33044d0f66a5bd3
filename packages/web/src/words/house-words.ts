/**
 * House words: the school whose words the house speaks, its own words where it differs, and what its learners are taken to know.
 */
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { Notices } from '../ui/notices';
import { Router } from '@angular/router';
import { CONCEPT_KINDS, preferredLabel, sameName, wordFor, type WordChoice } from '@foxtrail/core';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { SchoolsDialog } from './schools.dialog';
import { SearchField } from '../ui/search-field';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

/** Concepts that a lesson introduces, and of which it can be said that learners know them. */
const MAY_BE_KNOWN = new Set(['part of a rope', 'shape', 'tool', 'state']);

@Component({
  selector: 'ft-house-words',
  imports: [MatButtonModule, SearchField, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="schools" role="radiogroup" aria-label="The school whose words this house speaks">
      @for (s of schools(); track s.id) {
        <button
          type="button"
          role="radio"
          [attr.aria-checked]="s.id === choice().school"
          [disabled]="!mayWrite()"
          (click)="speak(s.id)"
        >
          <strong>{{ s.name }}</strong>
          <span>{{ s.note }}</span>
          <em>{{ sample(s.id) }}</em>
        </button>
      }
    </section>
    <div class="bar">
      <ft-search label="Find a concept" [(query)]="query" />
      <label
        ><input type="checkbox" [checked]="onlyOwn()" (change)="onlyOwn.set(!onlyOwn())" /> only where the house
        differs</label
      >
      <span class="space"></span>
      @if (mayWrite()) {
        <button mat-stroked-button type="button" class="schools-button" (click)="editSchools()">Schools …</button>
      }
      @if (changed()) {
        <span class="soft">Not kept yet.</span>
        <button mat-button type="button" (click)="takeBack()">Take back</button>
        <button mat-flat-button type="button" [disabled]="busy()" (click)="keep()">Keep the house’s words</button>
      }
    </div>
    <ft-trouble [text]="trouble()" />
    <div class="scroll">
      <table class="table">
        <thead>
          <tr>
            <th scope="col">Concept</th>
            <th scope="col">{{ words.schoolName(choice().school) }} says</th>
            <th scope="col">The house’s own word, if another</th>
            <th scope="col">Learners know it</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr>
              <th scope="row">
                {{ row.first }} <span class="soft">{{ row.kind }}</span>
              </th>
              <td>{{ row.school ?? '—' }}</td>
              <td>
                <input
                  type="text"
                  class="field"
                  maxlength="80"
                  [attr.aria-label]="'The house’s own word for ' + row.first"
                  [readonly]="!mayWrite()"
                  [value]="row.own"
                  (change)="setOwn(row.id, own.value)"
                  #own
                />
              </td>
              <td class="known">
                @if (row.mayBeKnown) {
                  <input
                    type="checkbox"
                    [attr.aria-label]="'Learners know ' + row.first"
                    [disabled]="!mayWrite()"
                    [checked]="row.known"
                    (change)="setKnown(row.id)"
                  />
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      height: calc(100vh - 105px);
      padding: 16px 24px 0;
    }
    .schools-button {
      background: var(--card);
    }
    .schools {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
      gap: 12px;
    }
    .schools button {
      display: grid;
      gap: 2px;
      padding: 10px 14px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      background: var(--card);
      color: inherit;
      font: inherit;
      font-size: 15px;
      line-height: 1.35;
      text-align: left;
      cursor: pointer;
      align-content: start;
    }
    .schools strong {
      font:
        620 19px 'Fraunces Variable',
        serif;
    }
    .schools span {
      color: var(--ink-soft);
    }
    .schools button[aria-checked='true'] {
      border-color: var(--moss);
      background: var(--moss-wash);
      box-shadow: 0 0 0 1.5px var(--moss);
    }
    .bar {
      display: flex;
      gap: 14px;
      align-items: center;
      min-height: 60px;
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
    .scroll {
      flex: 1;
      overflow-y: auto;
      min-height: 260px;
      border: 1px solid var(--line);
      border-bottom: 0;
      border-radius: var(--radius) var(--radius) 0 0;
      background: var(--card);
    }
    th,
    td {
      padding: 5px 16px;
      border-bottom: 1px solid var(--line);
      text-align: left;
    }
    thead th {
      position: sticky;
      top: 0;
      z-index: 1;
      padding-block: 10px;
      background: var(--card);
      color: var(--ink-soft);
      font-weight: 500;
    }
    tbody th .soft {
      display: block;
      font-size: 14px;
      font-weight: 400;
    }
    td input[type='text'] {
      width: 100%;
    }
    .known {
      width: 150px;
    }
    @media (max-width: 860px) {
      :host {
        height: auto;
      }
      .bar {
        flex-wrap: wrap;
      }
    }
  `,
})
export class HouseWordsPage {
  protected readonly words = inject(WordsService);
  private readonly sessions = inject(SessionService);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  protected readonly mayWrite = this.sessions.mayWrite;
  protected readonly schools = computed(() => this.words.glossary().schools);
  protected readonly query = signal('');
  protected readonly onlyOwn = signal(false);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly choice = linkedSignal<WordChoice>(() => this.words.choice());
  private readonly known = linkedSignal<ReadonlySet<string>>(() => new Set(this.words.known()));
  protected readonly changed = computed(
    () =>
      JSON.stringify(this.choice()) !== JSON.stringify(this.words.choice()) ||
      [...this.known()].sort().join() !== [...this.words.known()].sort().join(),
  );
  protected readonly rows = computed(() => {
    const [glossary, choice, asked] = [this.words.glossary(), this.choice(), sameName(this.query())];
    return glossary.concepts
      .map((c) => ({
        id: c.id,
        kind: c.kind,
        // It keeps the name it had when the screen was opened, so that one finds it again.
        first: this.words.wordFor(c.id),
        school: preferredLabel(c, choice.school)?.text,
        own: choice.own[c.id] ?? '',
        known: this.known().has(c.id),
        mayBeKnown: MAY_BE_KNOWN.has(c.kind),
        names: c.labels,
      }))
      .filter(
        (r) =>
          (!this.onlyOwn() || r.own !== '') &&
          (asked === '' || sameName(r.own).includes(asked) || r.names.some((l) => sameName(l.text).includes(asked))),
      )
      .sort((a, b) => CONCEPT_KINDS.indexOf(a.kind) - CONCEPT_KINDS.indexOf(b.kind));
  });

  /** A sentence in the school’s words, to tell it by. */
  protected editSchools(): void {
    this.dialog.open(SchoolsDialog, { width: '860px', maxWidth: '94vw' });
  }

  protected sample(school: string): string {
    const say = (id: string): string => wordFor(this.words.glossary(), { school, own: {} }, id) ?? id;
    return `“Take the ${say('working-end')} over the ${say('standing-part')}; leave the ${say('tail')}.”`;
  }

  protected speak(school: string): void {
    this.choice.update((c) => ({ ...c, school }));
  }

  protected setOwn(id: string, text: string): void {
    this.choice.update(({ school, own }) => {
      const { [id]: _old, ...others } = own;
      return { school, own: text.trim() === '' ? others : { ...others, [id]: text.trim() } };
    });
  }

  protected setKnown(id: string): void {
    this.known.update((known) => {
      const next = new Set(known);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected takeBack(): void {
    this.choice.set(this.words.choice());
    this.known.set(new Set(this.words.known()));
  }

  protected keep(): void {
    const asked = this.words.choose({ choice: this.choice(), known: [...this.known()] });
    void this.attempt.run(asked, () =>
      this.notices.offer(
        'Kept. Composed texts follow everywhere; texts of your own may still say it otherwise.',
        'Look',
        () => void this.router.navigateByUrl('/words/texts'),
      ),
    );
  }
}
