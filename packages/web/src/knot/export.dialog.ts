/**
 * Export: the figure as a file in an open format, made in the browser by the same core that draws it.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import {
  stepsOf,
  finishedFigure,
  drawStep,
  gaussText,
  pdText,
  PAPER_LOOK,
  sayRefusal,
  stepText,
  toSvg,
  wholeBox,
  writeKnot,
  type KnotDocument,
  type Vocabulary,
  type Outlines,
} from '@foxtrail/core';
import numberFont from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff' with {
  loader: 'file',
};
import { fileName, saveFile } from '../ui/save-file';
import { TroubleLine } from '../ui/trouble';

type Format = 'json' | 'svg' | 'png' | 'pdf' | 'gauss' | 'pd';

const FORMATS: readonly { readonly format: Format; readonly name: string; readonly what: string }[] = [
  { format: 'json', name: 'Figure file (JSON)', what: 'everything: figure, steps, entry; it can be imported again' },
  { format: 'svg', name: 'SVG', what: 'vectors with a title and a description; carries the figure along' },
  { format: 'png', name: 'PNG', what: 'a picture of a chosen width' },
  { format: 'pdf', name: 'PDF', what: 'vectors on one page' },
  { format: 'gauss', name: 'Extended Gauss code', what: 'the crossings along every strand, as text' },
  { format: 'pd', name: 'PD code', what: 'each open rope closed over everything, as text' },
];

/** Widest picture, in pixels: what browsers draw without giving up. */
const WIDEST = 6000;

/** Outlines of the numbers, so that a picture needs no font. The library and the font are fetched when first asked for. */
async function numberOutlines(): Promise<Outlines> {
  const [{ parse }, response] = await Promise.all([import('opentype.js'), fetch(numberFont)]);
  if (!response.ok) throw new Error('the font of the numbers could not be fetched');
  const font = parse(await response.arrayBuffer());
  return (text) => ({ path: font.getPath(text, 0, 0, 1).toPathData(4), width: font.getAdvanceWidth(text, 1) });
}

/** What is exported, and the words it is described in. */
export interface Exported {
  readonly knot: KnotDocument;
  readonly words: Vocabulary;
}

@Component({
  selector: 'ft-export',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatRadioModule,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Export {{ knot.name }}</h2>
    <mat-dialog-content>
      <mat-radio-group class="formats" aria-label="Format" [value]="format()" (change)="format.set($event.value)">
        @for (f of formats; track f.format) {
          <mat-radio-button [value]="f.format"
            ><strong>{{ f.name }}</strong
            ><span class="soft what">{{ f.what }}</span></mat-radio-button
          >
        }
      </mat-radio-group>
      <div class="options">
        @switch (format()) {
          @case ('json') {}
          @case ('gauss') {
            <pre tabindex="0" aria-label="Extended Gauss code">{{ gauss() }}</pre>
          }
          @case ('pd') {
            @if (pd().ok) {
              <pre tabindex="0" aria-label="PD code">{{ pd().text }}</pre>
            } @else {
              <ft-trouble [text]="pd().text" />
            }
          }
          @default {
            <mat-checkbox [checked]="numbers()" (change)="numbers.set($event.checked)"
              >numbers on the crossings</mat-checkbox
            >
            @if (format() === 'svg') {
              <mat-checkbox [checked]="outlined()" (change)="outlined.set($event.checked)"
                >numbers as outlines, for programs without the font</mat-checkbox
              >
            }
            @if (format() === 'png') {
              <mat-form-field appearance="outline">
                <mat-label>Width in pixels</mat-label>
                <input
                  matInput
                  type="number"
                  min="64"
                  [max]="widest"
                  step="100"
                  [value]="width()"
                  #wide
                  (input)="width.set(+wide.value)"
                />
              </mat-form-field>
            }
            @if (format() === 'pdf') {
              <mat-form-field appearance="outline">
                <mat-label>Width in millimetres</mat-label>
                <input
                  matInput
                  type="number"
                  min="40"
                  max="1000"
                  step="10"
                  [value]="millimetres()"
                  #mm
                  (input)="millimetres.set(+mm.value)"
                />
              </mat-form-field>
            }
          }
        }
      </div>
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" mat-dialog-close>Close</button>
      <button mat-flat-button type="button" [disabled]="busy() || (format() === 'pd' && !pd().ok)" (click)="save()">
        <mat-icon svgIcon="download" />{{ busy() ? 'Making it …' : 'Save the file' }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    .formats {
      display: flex;
      flex-direction: column;
    }
    .what {
      margin-left: 8px;
    }
    .options {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      min-height: 96px;
      padding: 8px 0 0 12px;
    }
    pre {
      overflow: auto;
      box-sizing: border-box;
      width: 100%;
      max-height: 130px;
      margin: 0;
      padding: 10px;
      border: 1px solid var(--line);
      border-radius: 8px;
      white-space: pre-wrap;
    }
    .warn {
      margin: 0;
      color: var(--plum);
    }
    mat-dialog-content {
      width: 620px;
      max-width: 100%;
    }
  `,
})
export class ExportDialog {
  private readonly given = inject<Exported>(MAT_DIALOG_DATA);
  protected readonly knot = this.given.knot;
  protected readonly formats = FORMATS;
  protected readonly widest = WIDEST;
  protected readonly format = signal<Format>('json');
  protected readonly numbers = signal(true);
  protected readonly outlined = signal(false);
  protected readonly width = signal(1600);
  protected readonly millimetres = signal(180);
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  protected readonly gauss = computed(() => gaussText(finishedFigure(this.knot.method)));
  protected readonly pd = computed(() => {
    const code = pdText(finishedFigure(this.knot.method));
    return code.ok ? { ok: true, text: code.value || 'no crossings' } : { ok: false, text: sayRefusal(code) };
  });

  protected save(): void {
    this.busy.set(true);
    this.trouble.set('');
    this.make()
      .then((blob) => saveFile(blob, `${fileName(this.knot.name)}.${ENDINGS[this.format()]}`))
      .catch((e: unknown) => this.trouble.set(`No file was made: ${(e as Error).message}.`))
      .finally(() => this.busy.set(false));
  }

  private async make(): Promise<Blob> {
    const { figure } = this.knot.method;
    switch (this.format()) {
      case 'json':
        return new Blob([JSON.stringify(writeKnot(this.knot), null, 1)], { type: 'application/json' });
      case 'gauss':
        return new Blob([`${this.gauss()}\n`], { type: 'text/plain' });
      case 'pd':
        return new Blob([`${this.pd().text}\n`], { type: 'text/plain' });
      case 'svg':
        return new Blob([await this.svg(this.outlined())], { type: 'image/svg+xml' });
      case 'png':
        return this.png(await this.svg(true));
      case 'pdf': {
        const widthMm = this.millimetres();
        if (!(widthMm >= 40 && widthMm <= 1000)) throw new Error('the width is from 40 to 1000 millimetres');
        const { toPdf } = await import('@foxtrail/core/pdf');
        const bytes = await toPdf(this.drawing(), { title: this.knot.name, box: wholeBox(figure), widthMm });
        return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' });
      }
    }
  }

  private drawing(): ReturnType<typeof drawStep> {
    return drawStep(this.knot.method, Infinity, { labels: this.numbers() });
  }

  private async svg(outlined: boolean): Promise<string> {
    const { method, name } = this.knot;
    return toSvg(this.drawing(), {
      title: name,
      description:
        stepsOf(method)
          .map((_, i) => `${i + 1}. ${stepText(method, i, this.given.words)}`)
          .join(' ') || 'The figure, without steps yet.',
      look: PAPER_LOOK,
      width: 1000,
      carried: JSON.stringify(writeKnot(this.knot)),
      ...(outlined && this.numbers() ? { outlines: await numberOutlines() } : {}),
    });
  }

  /** The picture drawn by the browser at a chosen width. */
  private async png(svg: string): Promise<Blob> {
    const width = Math.round(this.width());
    if (!(width >= 64 && width <= WIDEST)) throw new Error(`the width is from 64 to ${WIDEST} pixels`);
    const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    try {
      const image = new Image();
      image.src = url;
      await image.decode();
      const canvas = document.createElement('canvas');
      canvas.width = width;
      canvas.height = Math.round((width * image.naturalHeight) / image.naturalWidth);
      canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
      const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
      if (!blob) throw new Error('the browser could not draw a picture that large');
      return blob;
    } finally {
      URL.revokeObjectURL(url);
    }
  }
}

const ENDINGS: Record<Format, string> = {
  json: 'json',
  svg: 'svg',
  png: 'png',
  pdf: 'pdf',
  gauss: 'gauss.txt',
  pd: 'pd.txt',
};
