/** The inspection card as it stands on the lesson's page. */
import {
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  ViewEncapsulation,
} from '@angular/core';
import type { Method, Vocabulary } from '@foxtrail/core';
import { FigureWriter, inspectionCard } from '@foxtrail/lesson';
import { Theme } from '../data/theme';

@Component({
  selector: 'ft-inspection-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  encapsulation: ViewEncapsulation.None,
  template: '',
  styles: 'ft-inspection-card { display: block; }',
})
export class InspectionCard {
  readonly method = input.required<Method>();
  readonly words = input.required<Vocabulary>();

  constructor() {
    const [theme, host] = [inject(Theme), inject<ElementRef<HTMLElement>>(ElementRef)];
    effect(() => {
      const draw = new FigureWriter(theme.look(), 'card');
      host.nativeElement.innerHTML = inspectionCard(this.method(), this.words(), draw).text;
    });
  }
}
