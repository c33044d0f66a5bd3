/**
 * The public page of a published knot. It needs no account.
 */
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { PublicKnot } from '@foxtrail/contract';
import { stepsOf, EMPTY_METHOD, readKnot } from '@foxtrail/core';
import { Api } from '../data/api';
import { troubleOf, type Trouble } from '../data/problem';
import { Lesson } from './lesson';

@Component({
  selector: 'ft-learn',
  imports: [Lesson, MatButtonModule, MatIconModule, MatProgressBarModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (trouble(); as t) {
      <main class="note card" role="alert">
        <h1>{{ t.status === 404 ? 'This page is not published' : 'This page cannot be shown' }}</h1>
        <p>{{ t.reason }} {{ t.remedy }}</p>
        <a mat-stroked-button routerLink="/learn">Published knots</a>
      </main>
    } @else if (knot(); as k) {
      <main>
        <ft-lesson
          [knot]="k"
          [house]="page()!.house"
          [words]="page()!.vocabulary"
          [terms]="page()!.terms"
          [otherSchools]="page()!.otherSchools"
        >
          @if (page()!.clip) {
            <section class="clip">
              <h2>Watch it</h2>
              <!-- The captions are drawn into the picture too; the track is there for those who need it larger or read aloud. -->
              <video controls playsinline preload="metadata" [src]="base() + '/clip.webm'">
                <track kind="captions" srclang="en" label="English" [src]="base() + '/captions.vtt'" />
              </video>
            </section>
          }
          @if (page()!.wrongWays.length > 0) {
            <section class="wrong">
              <h2>Ways it goes wrong</h2>
              <ul>
                @for (w of page()!.wrongWays; track w.slug) {
                  <li>
                    <a [routerLink]="['/learn', w.slug]">{{ w.name }}</a>
                  </li>
                }
              </ul>
            </section>
          }
          <section class="files">
            <h2>Take it with you</h2>
            <p>
              <a mat-stroked-button [href]="base() + '/sheet.svg'" download
                ><mat-icon svgIcon="download" />Sheet (SVG)</a
              >
              @for (s of steps(); track $index) {
                <a mat-stroked-button [href]="base() + '/steps/' + ($index + 1) + '.svg'" download
                  ><mat-icon svgIcon="download" />Step {{ $index + 1 }} (SVG)</a
                >
              }
              <a mat-stroked-button [href]="base() + '/figure.json'" download
                ><mat-icon svgIcon="download" />Figure (JSON)</a
              >
              <a mat-stroked-button [href]="base() + '/captions.vtt'" download
                ><mat-icon svgIcon="download" />Captions (WebVTT)</a
              >
              @if (page()!.clip) {
                <a mat-stroked-button [href]="base() + '/clip.webm'" download
                  ><mat-icon svgIcon="download" />Clip (WebM)</a
                >
              }
              <button mat-stroked-button type="button" (click)="print()">Print</button>
            </p>
          </section>
        </ft-lesson>
      </main>
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Opening" />
    }
  `,
  styles: `
    main {
      background: var(--card);
      min-height: calc(100vh - 48px);
    }
    main.note {
      max-width: 620px;
      min-height: 0;
      margin: 64px auto;
      padding: 28px 32px;
    }
    section {
      margin-top: 28px;
    }
    video {
      display: block;
      width: 100%;
      margin-top: 10px;
      border-radius: 12px;
    }
    .files p {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
    }
    @media print {
      .files,
      .clip {
        display: none;
      }
    }
  `,
})
export class LearnPage {
  readonly slug = input.required<string>();
  private readonly api = inject(Api);
  private readonly title = inject(Title);
  protected readonly page = signal<PublicKnot | undefined>(undefined);
  protected readonly trouble = signal<Trouble | undefined>(undefined);
  protected readonly steps = computed(() => stepsOf(this.knot()?.method ?? EMPTY_METHOD));
  protected readonly base = computed(() => `/api/public/knots/${this.page()?.slug ?? ''}`);
  protected readonly knot = computed(() => {
    const page = this.page();
    const read = page && readKnot(page.document);
    return read?.ok === true ? read.value : undefined;
  });

  constructor() {
    effect(() => {
      const slug = this.slug();
      untracked(() => this.load(slug));
    });
  }

  private load(slug: string): void {
    this.page.set(undefined);
    this.trouble.set(undefined);
    this.api.publicKnot(slug).subscribe({
      next: (page) => {
        this.page.set(page);
        this.title.setTitle(`${this.knot()?.name ?? 'Knot'} · Fox Trail`);
      },
      error: (error: unknown) => this.trouble.set(troubleOf(error)),
    });
  }

  protected print(): void {
    window.print();
  }
}
