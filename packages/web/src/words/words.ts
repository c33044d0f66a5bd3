/**
 * Words: one name for one thing. The shell of its screens: the terms, what the house calls them, names in dispute, and texts that say
 * it otherwise; glossary files go in and out here.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { sayTrouble, troubleOf } from '../data/problem';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { ImportDialog } from './import.dialog';

@Component({
  selector: 'ft-words',
  imports: [
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    MatProgressBarModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h1>Words</h1>
      <nav aria-label="Words">
        @for (tab of tabs; track tab.path) {
          <a [routerLink]="tab.path" routerLinkActive="here" [ariaCurrentWhenActive]="'page'">{{ tab.name }}</a>
        }
      </nav>
      <span class="space"></span>
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
    </div>
    @if (trouble(); as text) {
      <div class="note card" role="alert">
        <h2>The words cannot be shown</h2>
        <p>{{ text }}</p>
        <button mat-stroked-button type="button" (click)="load()">Try again</button>
      </div>
    } @else if (ready()) {
      <router-outlet />
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Opening the glossary" />
    }
  `,
  styleUrl: '../ui/shell.scss',
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
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly ready = computed(() => this.words.words() !== undefined);
  protected readonly schools = computed(() => this.words.glossary().schools);
  protected readonly speaks = computed(() => (this.ready() ? this.words.schoolName(this.words.choice().school) : ''));
  protected readonly mayWrite = this.sessions.mayWrite;

  constructor() {
    this.load();
  }

  protected load(): void {
    this.trouble.set(undefined);
    this.words.load().subscribe({ error: (error: unknown) => this.trouble.set(sayTrouble(troubleOf(error))) });
  }

  protected import(): void {
    this.dialog.open(ImportDialog, { width: '860px', maxWidth: '94vw' });
  }
}
