/**
 * Words: one name for one thing. The shell of its screens: the terms, what the house calls them, names in dispute, and texts that say
 * it otherwise; glossary files go in and out here.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { ImportDialog } from './import.dialog';
import { Attempt } from '../data/attempt';
import { Screen } from '../ui/screen';

@Component({
  selector: 'ft-words',
  imports: [RouterLink, MatButtonModule, MatIconModule, MatMenuModule, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-screen
      name="Words"
      cannot="The words cannot be shown"
      fetching="Opening the glossary"
      [tabs]="tabs"
      [ready]="ready()"
      [trouble]="trouble()"
      (again)="load()"
    >
      @if (speaks(); as school) {
        <a class="chip" routerLink="house">This house speaks {{ school }}</a>
      }
      @if (mayWrite()) {
        <button mat-stroked-button type="button" (click)="import()"><mat-icon svgIcon="upload" />Take in …</button>
      }
      <button mat-stroked-button type="button" [matMenuTriggerFor]="out"><mat-icon svgIcon="download" />Save as</button>
      <mat-menu #out>
        @for (f of formats; track f.ending) {
          <a mat-menu-item [href]="'/api/words/glossary.' + f.ending" download>All, {{ f.name }}</a>
        }
        @for (s of schools(); track s.id) {
          <a mat-menu-item [href]="'/api/words/glossary.ttl?school=' + s.id" download
            >{{ s.name }} only, SKOS (Turtle)</a
          >
        }
      </mat-menu>
    </ft-screen>
  `,
  styleUrl: '../ui/screen-page.scss',
})
export class WordsPage {
  private readonly words = inject(WordsService);
  private readonly sessions = inject(SessionService);
  private readonly dialog = inject(MatDialog);
  protected readonly tabs = [
    { path: 'terms', name: 'Terms' },
    { path: 'house', name: 'House words' },
    { path: 'disputes', name: 'In dispute' },
    { path: 'texts', name: 'Texts' },
  ];
  protected readonly formats = [
    { ending: 'ttl', name: 'SKOS (Turtle)' },
    { ending: 'jsonld', name: 'SKOS (JSON-LD)' },
    { ending: 'csv', name: 'table (CSV)' },
  ];
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly ready = computed(() => this.words.words() !== undefined);
  protected readonly schools = computed(() => this.words.glossary().schools);
  protected readonly speaks = computed(() => (this.ready() ? this.words.schoolName(this.words.choice().school) : ''));
  protected readonly mayWrite = this.sessions.mayWrite;

  constructor() {
    this.load();
  }

  protected load(): void {
    void this.attempt.run(this.words.load());
  }

  protected import(): void {
    this.dialog.open(ImportDialog, { width: '860px', maxWidth: '94vw' });
  }
}
