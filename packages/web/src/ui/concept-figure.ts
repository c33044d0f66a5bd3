/**
 * The small figure of a concept, drawn live from its figure file: what the word names is lit.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawStep, litBox, readKnot, stepsOf, type FigureFile } from '@foxtrail/core';
import { FigureView } from './figure';

@Component({
  selector: 'ft-concept-figure',
  imports: [FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shown(); as s) {
      <ft-figure [drawing]="s.drawing" [box]="s.box" [bleed]="true" [label]="label()" />
    }
  `,
  styles: `
    :host,
    ft-figure {
      display: block;
      height: 100%;
    }
    :host {
      overflow: hidden;
    }
  `,
})
export class ConceptFigure {
  readonly figure = input.required<FigureFile>();
  readonly label = input.required<string>();
  protected readonly shown = computed(() => {
    const read = readKnot(this.figure());
    if (!read.ok) return undefined;
    const { method } = read.value;
    const last = Math.max(0, stepsOf(method).length - 1);
    return { drawing: drawStep(method, last), box: litBox(method) };
  });
}
