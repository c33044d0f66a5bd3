import { signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { lastAt, tailsOf, type Method } from '@foxtrail/core';
import { planSchema, type Plan } from '@foxtrail/core/ropes';
import { EMPTY } from 'rxjs';
import { RopesService } from '../data/ropes';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { Board } from './board/board';
import { DraftState } from './draft-state';
import { DRAFT_SERVICES } from './draft-services';
import { Handling } from './handling';
import { Steps } from './steps/steps';
import { Trail } from './trail';

describe('the Draft screen', () => {
  let bench: FakeBench;
  let state: DraftState;
  let handling: Handling;
  const plans = signal<readonly { readonly is: Plan }[]>([]);
  beforeEach(() => {
    bench = new FakeBench();
    plans.set([]);
    TestBed.configureTestingModule({
      providers: [
        ...DRAFT_SERVICES,
        bench.provided,
        {
          provide: RopesService,
          useValue: { plans: { list: plans }, assemblies: { list: () => [] }, ensure: () => EMPTY },
        },
      ],
    });
    TestBed.inject(Icons);
    state = TestBed.inject(DraftState);
    handling = TestBed.inject(Handling);
  });

  async function show<T>(type: Type<T>, width = 900, height = 500): Promise<[ComponentFixture<T>, HTMLElement]> {
    const fixture = TestBed.createComponent(type);
    const element = fixture.nativeElement as HTMLElement;
    Object.assign(element.style, {
      display: 'block',
      position: 'relative',
      width: `${width}px`,
      height: `${height}px`,
    });
    document.body.append(element);
    fixture.detectChanges();
    await new Promise((done) => setTimeout(done, 60));
    await fixture.whenStable();
    return [fixture, element];
  }
  const labels = (element: HTMLElement, selector: string): string[] =>
    [...element.querySelectorAll(selector)].map((e) => e.getAttribute('aria-label') ?? '');

  describe('trail', () => {
    it('is one stop of the Tab key; arrow keys go from waymark to waymark and say what is there', async () => {
      const [, element] = await show(Trail);
      const marks = [...element.querySelectorAll<SVGElement>('.waymark')];
      const stops = (): number[] => marks.flatMap((m, i) => (m.getAttribute('tabindex') === '0' ? [i] : []));
      expect(stops()).toEqual([0]);
      marks[0]!.focus();
      const press = (key: string): boolean =>
        document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      press('ArrowRight');
      expect(document.activeElement).toBe(marks[1]!);
      expect(stops()).toEqual([1]);
      expect(state.pointed()).toBe(2);
      press('End');
      expect(document.activeElement).toBe(marks.at(-1)!);
      press('ArrowRight');
      expect(document.activeElement).toBe(marks[0]!);
      press('ArrowLeft');
      expect(stops()).toEqual([marks.length - 1]);
      expect(document.activeElement!.getAttribute('aria-label')).toMatch(/^Crossing \d, (over|under) here/);
    });
    it('shows every crossing twice, over as a rise and under as a dip, joined by an arc', async () => {
      const [, element] = await show(Trail);
      expect(labels(element, '.waymark')).toEqual(
        ['under', 'over', 'under', 'over', 'under', 'over'].map(
          (way, i) => `Crossing ${(i % 3) + 1}, ${way} here: swap`,
        ),
      );
      const heights = [...element.querySelectorAll('.waymark')].map((w) =>
        Number(/ (-?[\d.]+)\)/.exec(w.getAttribute('transform')!)![1]),
      );
      heights.forEach((y, i) => (i % 2 === 1 ? expect(y).toBeLessThan(66) : expect(y).toBeGreaterThan(66)));
      expect(element.querySelectorAll('.arc').length).toBe(3);
    });
    it('swaps the crossing that is pressed, on its weave', async () => {
      const [, element] = await show(Trail);
      element.querySelector('.waymark')!.dispatchEvent(new MouseEvent('click', { bubbles: true }));
      expect(bench.method().figure.ropes[0]?.weave).toBe('OOUUUO');
    });
    it('lights the crossing that is pointed at, both passages and the arc', async () => {
      const [fixture, element] = await show(Trail);
      state.pointed.set(2);
      await fixture.whenStable();
      expect(element.querySelectorAll('.waymark.pointed').length).toBe(2);
      expect(element.querySelectorAll('.arc.pointed').length).toBe(1);
    });
    it('moves a halt by the keyboard and removes it', async () => {
      const [fixture, element] = await show(Trail);
      const before = bench.method().halts[0]!.at;
      const press = (key: string): boolean =>
        element.querySelector('.halt')!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      press('ArrowRight');
      expect(bench.method().halts[0]!.at).toBeGreaterThan(before);
      press('Delete');
      await fixture.whenStable();
      expect(bench.method().halts.length).toBe(1);
    });
    it('places a halt where it is pressed twice', async () => {
      const [, element] = await show(Trail);
      const box = element.querySelector('svg')!.getBoundingClientRect();
      element
        .querySelector('svg')!
        .dispatchEvent(new MouseEvent('dblclick', { bubbles: true, clientX: box.left + 120, clientY: box.top + 66 }));
      expect(bench.method().halts.length).toBe(3);
      expect(bench.method().halts[0]!.at).toBeLessThan(3);
    });
    it('measures the tail against the rule, always in sight', async () => {
      const [fixture, element] = await show(Trail);
      expect(element.querySelector('.gauge')!.classList).toContain('holds');
      bench.rules.set({ tail: { diameters: 30, millimetres: 0 }, cordMm: 10 });
      await fixture.whenStable();
      expect(element.querySelector('.gauge')!.classList).toContain('fails');
      expect(element.querySelector('.rule')!.textContent).toContain('wanted 30.0 d, 300 mm');
    });
  });

  describe('a plan that has the knot', () => {
    const planned = (afterMm: number, name = 'First day'): { is: Plan } => ({
      is: planSchema.parse({
        name,
        ropes: [
          { name: 'Line', diameterMm: 10, knots: [{ ref: 'pattern:overhand', name: 'Overhand', eats: 11, afterMm }] },
        ],
      }),
    });
    const said = (element: HTMLElement): string =>
      [...(element.querySelector('.plan')?.children ?? [])].map((e) => e.textContent.trim()).join(' ');

    it('is offered by the tail gauge; followed, it is asked for and drawn in one undo’s reach', async () => {
      plans.set([planned(300), planned(200, 'Second day')]);
      const [fixture, element] = await show(Trail);
      expect(said(element)).toBe('“First day” leaves 300 mm Draw it so');
      element.querySelector<HTMLButtonElement>('.plan button')!.click();
      await fixture.whenStable();
      expect(bench.knot().entry.tail).toEqual({ plan: 'First day', mm: 300 });
      const [tail] = tailsOf(bench.method().figure);
      expect(tail!.length).toBeGreaterThanOrEqual(30);
      expect(said(element)).toBe('by the plan “First day” Leave it');
      // The plan is changed: what it leaves now is offered.
      plans.set([planned(340)]);
      await fixture.whenStable();
      expect(said(element)).toBe('“First day” leaves 340 mm Draw it so');
      plans.set([]);
      await fixture.whenStable();
      expect(said(element)).toBe('by the plan “First day” Leave it');
      element.querySelector<HTMLButtonElement>('.plan button')!.click();
      expect(bench.knot().entry.tail).toBeUndefined();
    });

    it('that leaves less than the house wants is told, and not to be followed', async () => {
      plans.set([planned(50)]);
      const [, element] = await show(Trail);
      expect(said(element)).toBe('“First day” leaves 50 mm, too little');
    });
  });

  describe('board', () => {
    const pointer = (target: Element, type: string, x: number, y: number): boolean =>
      target.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: x, clientY: y, button: 0, pointerId: 1 }));
    const drag = (element: HTMLElement, places: [number, number][]): void => {
      const svg = element.querySelector('svg')!;
      svg.setPointerCapture = () => undefined;
      const box = svg.getBoundingClientRect();
      places.forEach(([x, y], i) => pointer(svg, i === 0 ? 'pointerdown' : 'pointermove', box.left + x, box.top + y));
      const [x, y] = places.at(-1)!;
      pointer(svg, 'pointerup', box.left + x, box.top + y);
    };
    const empty: Method = { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] };

    it('lays a rope along a drag', async () => {
      bench.knot.update((k) => ({ ...k, method: empty }));
      const [, element] = await show(Board);
      drag(
        element,
        Array.from({ length: 40 }, (_, i): [number, number] => [100 + i * 15, 250 + 80 * Math.sin(i / 6)]),
      );
      const [rope] = bench.method().figure.ropes;
      expect(rope?.points.length).toBeGreaterThan(3);
      expect(rope?.ends).toEqual(['standing', 'tail']);
      expect(bench.method().leaders.length).toBe(1);
    });
    it('takes hold of a point and moves it; one drag is one edit', async () => {
      state.tool.set('points');
      const [, element] = await show(Board);
      const svg = element.querySelector('svg')!;
      const circle = element.querySelector('circle.point')!.getBoundingClientRect();
      const box = svg.getBoundingClientRect();
      const [x, y] = [circle.left + circle.width / 2 - box.left, circle.top + circle.height / 2 - box.top];
      const before = bench.method().figure.ropes[0]!.points;
      const edits = spyOn(bench, 'edit').and.callThrough();
      drag(element, [
        [x, y],
        [x + 10, y + 20],
        [x + 20, y + 40],
      ]);
      const after = bench.method().figure.ropes[0]!.points;
      expect(after[0]![1]).toBeGreaterThan(before[0]![1] + 0.5);
      expect(after.slice(1)).toEqual(before.slice(1));
      expect(edits).toHaveBeenCalledTimes(1);
    });
    it('leaves everything as it was when a gesture is broken off', async () => {
      const [, element] = await show(Board);
      const svg = element.querySelector('svg')!;
      svg.setPointerCapture = () => undefined;
      const box = svg.getBoundingClientRect();
      const before = bench.method();
      pointer(svg, 'pointerdown', box.left + 300, box.top + 100);
      pointer(svg, 'pointermove', box.left + 400, box.top + 300);
      pointer(svg, 'pointercancel', box.left + 400, box.top + 300);
      expect(bench.method()).toBe(before);
      expect(state.figure()).toBe(before.figure);
    });
    it('shows no more crossings than are laid at the step that is chosen', async () => {
      const [fixture, element] = await show(Board);
      expect(element.querySelectorAll('.waymark').length).toBe(3);
      state.step.set(0);
      await fixture.whenStable();
      expect(element.querySelectorAll('.waymark').length).toBe(1);
    });
    it('shows where the step ends, and lets its halt be drawn along the rope', async () => {
      const [fixture, element] = await show(Board);
      expect(element.querySelector('.halt-handle')).toBeNull();
      state.step.set(0);
      await fixture.whenStable();
      const handle = element.querySelector<SVGElement>('.halt-handle')!;
      const box = handle.getBoundingClientRect();
      const svg = element.querySelector('svg')!;
      const at = (x: number, y: number): PointerEventInit => ({
        clientX: x,
        clientY: y,
        pointerId: 1,
        button: 0,
        bubbles: true,
      });
      svg.setPointerCapture = (): void => undefined;
      const before = bench.method().halts[0]!.at;
      handle.dispatchEvent(new PointerEvent('pointerdown', at(box.left, box.bottom)));
      svg.dispatchEvent(new PointerEvent('pointermove', at(box.left - 2, box.bottom - 40)));
      svg.dispatchEvent(new PointerEvent('pointerup', at(box.left - 2, box.bottom - 40)));
      const after = bench.method().halts[0]!.at;
      expect(after).not.toBeCloseTo(before, 3);
      expect(Math.abs(after - before)).toBeLessThan(1.5);
      expect(bench.method().halts.length).toBe(2);
      state.view.set('back');
      await fixture.whenStable();
      expect(element.querySelector('.halt-handle')).toBeNull();
    });
    it('does not let a reviewer draw', async () => {
      bench.mayWrite.set(false);
      const [, element] = await show(Board);
      const before = bench.method();
      drag(element, [
        [300, 100],
        [400, 200],
        [500, 300],
      ]);
      expect(bench.method()).toBe(before);
    });
  });

  describe('step column', () => {
    const area = (element: HTMLElement, i: number): HTMLTextAreaElement => element.querySelectorAll('textarea')[i]!;
    it('shows the composed text until the author writes another, and sets it back', async () => {
      const [fixture, element] = await show(Steps, 340);
      const composed = area(element, 0).value;
      expect(composed).toContain('overhand loop');
      area(element, 0).value = 'Cross it over.';
      area(element, 0).dispatchEvent(new Event('input', { bubbles: true }));
      await fixture.whenStable();
      expect(bench.method().halts[0]?.text).toBe('Cross it over.');
      [...element.querySelectorAll('button')].find((b) => b.textContent.includes('Set back'))!.click();
      await fixture.whenStable();
      expect(bench.method().halts[0]?.text).toBeUndefined();
      expect(area(element, 0).value).toBe(composed);
    });
    it('writing exactly the composed text keeps it composed', async () => {
      const [, element] = await show(Steps, 340);
      area(element, 0).dispatchEvent(new Event('input', { bubbles: true }));
      expect('text' in bench.method().halts[0]!).toBeFalse();
    });
    it('follows the figure: a swapped crossing changes the text', async () => {
      const [fixture, element] = await show(Steps, 340);
      handling.swap(1);
      await fixture.whenStable();
      expect(area(element, 0).value).toContain('underhand loop');
    });
    it('places and removes halts', async () => {
      const [fixture, element] = await show(Steps, 340);
      element.querySelector<HTMLButtonElement>('[aria-label="Remove halt 2"]')!.click();
      await fixture.whenStable();
      expect(bench.method().halts.length).toBe(1);
      element.querySelector<HTMLButtonElement>('.place')!.click();
      expect(bench.method().halts.at(-1)?.at).toBe(lastAt(bench.method().figure.ropes[0]!));
    });
  });
});
