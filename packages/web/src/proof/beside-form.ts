/**
 * What the author holds the form against: the drawing of the layout in which the knot is finished, or a photograph of the knot in rope,
 * which stays in this browser.
 */
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { drawFigure, finishedLayout, heartBox, layoutToSet, type Method } from '@foxtrail/core';
import { FigureView } from '../ui/figure';

@Component({
  selector: 'ft-beside-form',
  imports: [FigureView, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Hold it against</h2>
    <div class="pictures">
      @if (drawn(); as d) {
        <figure>
          <ft-figure [drawing]="d.drawing" [box]="d.box" [label]="'Layout “' + d.name + '” as it is drawn'" />
          <figcaption>The layout “{{ d.name }}”, as it is drawn</figcaption>
        </figure>
      }
      @if (photo(); as p) {
        <figure>
          <img [src]="p.url" [alt]="'Photograph ' + p.name" (error)="trouble.set(unreadable(p.name))" />
          <figcaption>
            {{ p.name }}
            <button mat-button type="button" (click)="take(undefined)">Put it away</button>
          </figcaption>
        </figure>
      } @else {
        <button mat-stroked-button type="button" (click)="file.click()">A photograph of the knot in rope …</button>
      }
      <input #file type="file" accept="image/*" hidden (change)="choose(file)" />
    </div>
    @if (trouble()) {
      <p class="trouble" role="alert">{{ trouble() }}</p>
    } @else if (photo()) {
      <p class="soft">It stays in this browser and is never published.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 18px;
    }
    .pictures {
      display: flex;
      flex-wrap: wrap;
      gap: 14px;
      align-items: flex-start;
    }
    figure {
      width: min(100%, 420px);
      margin: 0;
    }
    img,
    ft-figure {
      display: block;
      width: 100%;
      height: 300px;
      object-fit: contain;
      border-radius: 10px;
      background: var(--paper);
    }
    figcaption {
      color: var(--ink-soft);
    }
    .trouble {
      color: var(--plum);
    }
  `,
})
export class BesideForm {
  readonly method = input.required<Method>();

  protected readonly trouble = signal('');
  protected readonly photo = signal<{ readonly name: string; readonly url: string } | undefined>(undefined);
  /** The finished layout, where it is drawn otherwise than the one that is set. */
  protected readonly drawn = computed(() => {
    const last = finishedLayout(this.method());
    if (last === layoutToSet(this.method())) return undefined;
    return { name: last.name ?? 'Finished', drawing: drawFigure(last.figure), box: heartBox(last.figure) };
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.take(undefined));
  }

  protected readonly unreadable = (name: string): string =>
    `“${name}” is no picture that this browser can show. Take a JPEG or PNG.`;

  protected choose(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (file) this.take(file);
  }

  /** Takes a photograph in the place of the one before. */
  protected take(file: File | undefined): void {
    const before = this.photo();
    if (before) URL.revokeObjectURL(before.url);
    this.trouble.set('');
    this.photo.set(file && { name: file.name, url: URL.createObjectURL(file) });
  }
}
