import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Chart, type ChartColours, type ChartShown } from './chart';

@Component({
  imports: [Chart],
  template: `<div
    style="--ink: rgb(1, 2, 3); --moss: rgb(4, 5, 6); --plum: rgb(7, 8, 9); --card: rgb(250, 250, 250); color: rgb(90, 90, 90)"
  >
    <ft-chart [shows]="shows()" [height]="120" />
  </div>`,
  // As a page has it where motion is to be reduced: every change takes a moment.
  styles: `
    :host ::ng-deep * {
      transition-duration: 0.01ms !important;
    }
  `,
})
class Host {
  seen: ChartColours | undefined;
  readonly shows = signal((colours: ChartColours): ChartShown => {
    this.seen = colours;
    return { data: [{ type: 'bar', x: [1, 2], y: [3, 4], marker: { color: colours.good } }], layout: {} };
  });
}

describe('A chart', () => {
  it('has the colours of its page, where motion is reduced too', async () => {
    const fixture = TestBed.createComponent(Host);
    document.body.append(fixture.nativeElement as HTMLElement);
    fixture.detectChanges();
    for (let n = 0; n < 100 && !fixture.componentInstance.seen; n += 1)
      await new Promise((done) => setTimeout(done, 100));
    const { ink, good, bad, card } = fixture.componentInstance.seen!;
    expect([ink, good, bad, card]).toEqual(['rgb(1, 2, 3)', 'rgb(4, 5, 6)', 'rgb(7, 8, 9)', 'rgb(250, 250, 250)']);
    (fixture.nativeElement as HTMLElement).remove();
  });
});
