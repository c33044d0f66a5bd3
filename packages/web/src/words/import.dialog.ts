/**
 * A glossary file taken in: what it would change is told first, collisions are decided one by one, and only then is anything written.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import { GLOSSARY_FILE_LIMIT, type ImportedWords } from '@foxtrail/contract';
import { RESOLUTIONS, type Resolution } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

type Format = 'ttl' | 'jsonld' | 'csv';
const FORMATS: Readonly<Record<string, Format>> = {
  ttl: 'ttl',
  turtle: 'ttl',
  jsonld: 'jsonld',
  json: 'jsonld',
  csv: 'csv',
};

@Component({
  selector: 'ft-import-words',
  imports: [MatButtonModule, MatDialogModule, MatIconModule, MatProgressBarModule, MatRadioModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Take in a glossary</h2>
    <mat-dialog-content>
      <p>
        <button mat-stroked-button type="button" (click)="input.click()">
          <mat-icon svgIcon="file" />Choose a file
        </button>
        <span class="soft">{{ file() ?? 'SKOS in Turtle (.ttl) or JSON-LD (.jsonld), or a table (.csv)' }}</span>
        <input #input type="file" accept=".ttl,.turtle,.jsonld,.json,.csv" hidden (change)="choose(input)" />
      </p>
      @if (busy()) {
        <mat-progress-bar mode="indeterminate" aria-label="Reading" />
      }
      <ft-trouble [text]="trouble()" />
      @if (answer(); as a) {
        @if (a.applied) {
          <p class="done" role="status">
            <mat-icon svgIcon="ok" />Taken in: {{ a.report.added.length }} new, {{ a.report.changed.length }} changed.
          </p>
        } @else {
          <p class="sum" role="status">
            <b>{{ a.report.added.length }}</b> new · <b>{{ a.report.changed.length }}</b> changed ·
            <b>{{ a.report.same }}</b> names are there already · <b>{{ a.report.collisions.length }}</b> collide ·
            <b>{{ a.report.refused.length }}</b> refused
          </p>
        }
        @if (!a.applied && a.report.collisions.length > 0) {
          <h3>Names that collide: decide each</h3>
          @for (c of a.report.collisions; track c.key) {
            <fieldset>
              <legend>
                {{ words.schoolName(c.school) }}:
                @if (c.kind === 'two preferred') {
                  “{{ c.theirs }}” or “{{ c.ours }}” for {{ words.wordFor(c.concept) }}
                } @else {
                  “{{ c.theirs }}” for {{ c.concept }} and for {{ words.wordFor(c.other ?? '') }}
                }
              </legend>
              <mat-radio-group [value]="answers()[c.key]" (change)="decide(c.key, $event.value)">
                @for (r of resolutions; track r) {
                  <mat-radio-button [value]="r">
                    <b>{{ r }}</b> {{ c.does[r] }}
                  </mat-radio-button>
                }
              </mat-radio-group>
            </fieldset>
          }
        }
        @for (group of groups(); track group.name) {
          <details [open]="group.open">
            <summary>{{ group.name }} ({{ group.lines.length }})</summary>
            <ul>
              @for (line of group.lines; track $index) {
                <li>{{ line }}</li>
              }
            </ul>
          </details>
        }
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (answer()?.applied) {
        <button mat-flat-button type="button" mat-dialog-close>Done</button>
      } @else {
        <button mat-button type="button" mat-dialog-close>Cancel</button>
        <button mat-flat-button type="button" [disabled]="!mayApply()" (click)="send(true)">
          {{ open() > 0 ? 'Decide ' + open() + ' more' : 'Take it in' }}
        </button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin: 0 0 12px;
    }
    p .soft {
      margin-left: 12px;
    }
    .sum b {
      font-size: 20px;
    }
    .done {
      display: flex;
      gap: 8px;
      align-items: center;
      color: var(--moss);
      font-weight: 600;
    }
    fieldset {
      margin: 8px 0 12px;
      padding: 6px 16px 10px;
      border: 1px solid var(--line);
      border-left: 5px solid var(--fox);
      border-radius: 10px;
    }
    legend {
      padding: 0 6px;
      font-weight: 700;
    }
    mat-radio-button {
      display: block;
    }
    summary {
      padding: 6px 0;
      cursor: pointer;
      font-weight: 600;
    }
    ul {
      overflow-y: auto;
      max-height: 190px;
      margin: 0 0 8px;
      padding-left: 22px;
    }
  `,
})
export class ImportDialog {
  protected readonly words = inject(WordsService);
  protected readonly resolutions = RESOLUTIONS;
  protected readonly file = signal<string | undefined>(undefined);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly answer = signal<ImportedWords | undefined>(undefined);
  protected readonly answers = signal<Readonly<Record<string, Resolution>>>({});
  private source: { readonly format: Format; readonly text: string } | undefined;
  protected readonly open = computed(
    () => (this.answer()?.report.collisions ?? []).filter((c) => this.answers()[c.key] === undefined).length,
  );
  protected readonly mayApply = computed(() => {
    const a = this.answer();
    if (!a || this.busy() || this.open() > 0) return false;
    return a.report.added.length + a.report.changed.length + a.report.collisions.length > 0;
  });
  protected readonly groups = computed(() => {
    const report = this.answer()?.report;
    if (!report) return [];
    const line = (l: { concept: string; what: string }): string =>
      l.concept === '' ? l.what : `${this.words.wordFor(l.concept)}: ${l.what}`;
    return [
      {
        name: 'Refused',
        lines: report.refused.map((r) => `${r.place}: ${r.reason} ${r.remedy}`),
        open: report.refused.length > 0,
      },
      { name: 'New', lines: report.added.map(line), open: false },
      { name: 'Changed', lines: report.changed.map(line), open: report.changed.length > 0 },
    ].filter((g) => g.lines.length > 0);
  });

  protected choose(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.file.set(file.name);
    this.answer.set(undefined);
    this.answers.set({});
    this.trouble.set(undefined);
    const format = FORMATS[/\.(\w+)$/.exec(file.name)?.[1]?.toLowerCase() ?? ''];
    if (!format) {
      this.trouble.set(`“${file.name}” is none of the kinds that are read. Choose a .ttl, .jsonld or .csv file.`);
      return;
    }
    if (file.size > GLOSSARY_FILE_LIMIT) {
      this.trouble.set(
        `“${file.name}” is larger than ${GLOSSARY_FILE_LIMIT / 1e6} MB. Split it and take in its parts.`,
      );
      return;
    }
    void file.text().then((text) => {
      this.source = { format, text };
      this.send(false);
    });
  }

  protected decide(key: string, resolution: Resolution): void {
    this.answers.update((a) => ({ ...a, [key]: resolution }));
  }

  protected send(apply: boolean): void {
    if (!this.source) return;
    const asked = this.words.import(this.source.format, this.source.text, this.answers(), apply);
    void this.attempt.run(asked, (answer) => this.answer.set(answer));
  }
}
