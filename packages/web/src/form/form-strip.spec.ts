import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { passagesOf, WORKSHOP_WORDS, type TrailSpan } from '@foxtrail/core';
import { overhand } from '../testing/knots';
import { FormStrip } from './form-strip';

describe('the trail under a form', () => {
  let fixture: ComponentFixture<FormStrip>;
  let page: HTMLElement;
  let pointed: (readonly TrailSpan[])[];
  const { figure } = overhand().method;
  const strip = (): SVGSVGElement => page.querySelector('svg')!;
  const press = async (key: string): Promise<void> => {
    strip().dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  };

  beforeEach(async () => {
    fixture = TestBed.createComponent(FormStrip);
    page = fixture.nativeElement as HTMLElement;
    page.style.width = '700px';
    document.body.append(page);
    pointed = [];
    fixture.componentInstance.pointed.subscribe((spans) => pointed.push(spans));
    fixture.componentRef.setInput('figure', figure);
    fixture.componentRef.setInput('vocabulary', WORKSHOP_WORDS);
    fixture.componentRef.setInput('lit', []);
    await fixture.whenStable();
  });

  it('shows every crossing twice, and lights what is lit on the form', async () => {
    const passages = passagesOf(figure, 'a');
    expect([...page.querySelectorAll('text')].map((t) => t.textContent)).toEqual(
      passages.map((p) => String(p.crossing.number)),
    );
    expect(page.querySelector('.lit')).toBeNull();
    fixture.componentRef.setInput('lit', [{ strand: 'a', from: 1, to: 2 }]);
    await fixture.whenStable();
    expect(page.querySelectorAll('.lit').length).toBe(1);
  });

  it('points at both passages of a crossing, at a stretch elsewhere, and at nothing once the pointer is gone', async () => {
    const number = page.querySelector('text')!;
    const { left, top } = strip().getBoundingClientRect();
    const at = (x: number): void =>
      void strip().dispatchEvent(new PointerEvent('pointermove', { clientX: left + x, clientY: top + 22 }));
    at(Number(number.getAttribute('x')));
    await fixture.whenStable();
    const [first] = passagesOf(figure, 'a');
    const middles = pointed.at(-1)!.map((s) => (s.from + s.to) / 2);
    expect(middles.length).toBe(2);
    expect(middles[0]).toBeCloseTo(first!.at, 6);
    expect(middles[1]).toBeCloseTo(first!.other.at, 6);
    expect(page.textContent).toContain(`crossing ${first!.crossing.number}`);
    at(15);
    await fixture.whenStable();
    expect(pointed.at(-1)!.length).toBe(1);
    expect(page.querySelector('p')!.textContent).toBe('Standing part');
    strip().dispatchEvent(new PointerEvent('pointerleave'));
    expect(pointed.at(-1)).toEqual([]);
  });

  it('is gone along by keys, and says where one is', async () => {
    await press('ArrowRight');
    expect(strip().getAttribute('aria-valuetext')).toBe('Standing part');
    const from = pointed.at(-1)![0]!.from;
    await press('ArrowRight');
    expect(pointed.at(-1)![0]!.from).toBeGreaterThan(from);
    await press('ArrowLeft');
    expect(pointed.at(-1)![0]!.from).toBeCloseTo(from, 6);
  });
});
