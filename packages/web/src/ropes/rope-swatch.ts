/** A rope of the stock as a short piece of it: its colours, its tracer, and how thick it is beside the others. */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { drawFigure, weaveFigure, type Box, type Figure } from '@foxtrail/core';
import { asCordage, type StockRope } from '@foxtrail/core/ropes';
import { FigureView } from '../ui/figure';

const HALF = 6;
const BOX: Box = [-HALF, -1.6, HALF, 1.6];

@Component({
  selector: 'ft-rope-swatch',
  imports: [FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ft-figure [drawing]="drawing()" [box]="box" label="" aria-hidden="true" />`,
  styles: `
    :host {
      display: block;
      width: 96px;
      height: 26px;
    }
    ft-figure {
      display: block;
      height: 100%;
    }
  `,
})
export class RopeSwatch {
  readonly rope = input.required<StockRope>();
  /** Diameter that is drawn as an ordinary rope, in millimetres. */
  readonly ordinaryMm = input(10);
  protected readonly box = BOX;
  protected readonly drawing = computed(() => {
    const figure: Figure = {
      ropes: [
        {
          id: 'a',
          points: [
            [-HALF - 4, 0],
            [HALF + 4, 0],
          ],
          curve: 'straight',
          closed: false,
          ends: ['off', 'off'],
          weave: '',
          cordage: asCordage(this.rope(), this.ordinaryMm()),
        },
      ],
      hosts: [],
    };
    return drawFigure(weaveFigure(figure, () => false));
  });
}
