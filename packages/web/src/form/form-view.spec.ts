import { TestBed, type ComponentFixture } from '@angular/core/testing';
import {
  accept,
  refuse,
  setNow,
  settingFor,
  WORKSHOP_WORDS,
  type Nudge,
  type Result,
  type SetForm,
} from '@foxtrail/core';
import { FormingService } from '../data/forming';
import type { TurntableOptions } from '@foxtrail/lesson/turntable';
import { FakeForming } from '../testing/forming';
import { overhand } from '../testing/knots';
import { Icons } from '../ui/icons';
import { FormView } from './form-view';
import { Space, type InSpace } from './space';

describe('a knot in the hand', () => {
  let forming: FakeForming;
  let fixture: ComponentFixture<FormView>;
  let page: HTMLElement;
  /** What a browser that draws in space makes of it; nothing for one that does not. */
  let stands: InSpace | undefined;
  let byHand: TurntableOptions['turned'] & {};
  let pointAt: TurntableOptions['pointed'] & {};
  const { figure } = overhand().method;
  const done = setNow(figure);
  const end = async (answer: Result<SetForm> | undefined): Promise<void> => {
    forming.end(answer);
    await fixture.whenStable();
  };
  const pictured = async (): Promise<string> => (await fetch(page.querySelector('img')!.src)).text();

  beforeEach(async () => {
    forming = new FakeForming();
    TestBed.overrideComponent(FormView, { set: { providers: [{ provide: FormingService, useValue: forming }] } });
    stands = undefined;
    TestBed.overrideProvider(Space, {
      useValue: {
        stand: (_within: HTMLElement, _shown: unknown, told: Required<TurntableOptions>) => {
          byHand = told.turned;
          pointAt = told.pointed;
          return Promise.resolve(stands);
        },
      },
    });
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(FormView);
    fixture.componentRef.setInput('setting', settingFor(figure));
    fixture.componentRef.setInput('name', 'Overhand knot');
    fixture.componentRef.setInput('vocabulary', WORKSHOP_WORDS);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });

  it('is shown on its way, then set and proved, with what it measures', async () => {
    expect(page.textContent).toContain('Being set');
    expect(page.querySelector('img')).not.toBeNull();
    await end(done);
    expect(page.textContent).toContain('Proved to be the drawn knot');
    expect(page.textContent).toMatch(/Rope eaten\s*1\d\.\d d/);
    expect(await pictured()).toContain('<title>Overhand knot</title>');
  });
  it('is turned by its buttons and by arrow keys alone, and each side is another picture', async () => {
    await end(done);
    const front = await pictured();
    page.querySelector('.paper')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
    await fixture.whenStable();
    expect(page.querySelector('img')!.alt).toContain('from behind');
    expect(await pictured()).not.toBe(front);
    [...page.querySelectorAll<HTMLElement>('mat-button-toggle button')]
      .find((b) => b.textContent.includes('End on'))!
      .click();
    await fixture.whenStable();
    expect(page.querySelector('img')!.alt).toContain('end on');
  });
  it('is turned freely by dragging it and by Shift with arrow keys', async () => {
    await end(done);
    const paper = page.querySelector<HTMLElement>('.paper')!;
    paper.setPointerCapture = (): void => undefined;
    const front = await pictured();
    const point = (kind: string, clientX: number): boolean =>
      paper.dispatchEvent(new PointerEvent(kind, { clientX, clientY: 50, pointerId: 1, button: 0 }));
    point('pointerdown', 100);
    point('pointermove', 160);
    point('pointerup', 160);
    await fixture.whenStable();
    const turned = await pictured();
    expect(turned).not.toBe(front);
    expect(page.querySelector('img')!.alt).toContain('turned');
    point('pointermove', 300);
    paper.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', shiftKey: true }));
    await fixture.whenStable();
    expect(await pictured()).not.toBe(turned);
  });
  it('stands in space where the browser draws that: sides turn it, and what is turned by hand is no side', async () => {
    const looks: Parameters<InSpace['lookFrom']>[0][] = [];
    const lights: Parameters<InSpace['light']>[0][] = [];
    let ended = 0;
    stands = {
      lookFrom: (to) => void looks.push(to),
      nearer: () => undefined,
      show: () => undefined,
      paint: () => undefined,
      light: (spans) => void lights.push(spans),
      seenAt: () => [0, 0],
      scale: () => 10,
      end: () => void (ended += 1),
    };
    await end(done);
    await fixture.whenStable();
    expect(page.querySelector('img')).toBeNull();
    expect(page.querySelector('[aria-label=Nearer]')).not.toBeNull();
    [...page.querySelectorAll<HTMLElement>('mat-button-toggle button')]
      .find((b) => b.textContent.includes('From behind'))!
      .click();
    expect(looks.at(-1)!.yaw).toBeCloseTo(Math.PI, 6);
    // What is seen from here is listed, and lit in space when it is pointed at; what is pointed at in space is named.
    await fixture.whenStable();
    const mark = page.querySelector<HTMLElement>('ft-seen-marks button')!;
    expect(mark.textContent).toMatch(/The .* (across|beside)/);
    mark.dispatchEvent(new PointerEvent('pointerenter'));
    await fixture.whenStable();
    expect(lights.at(-1)!.length).toBe(2);
    mark.dispatchEvent(new PointerEvent('pointerleave'));
    pointAt({ strand: figure.ropes[0]!.id, at: 0.2 });
    await fixture.whenStable();
    expect(page.querySelector('.pointed')!.textContent).toContain('standing part');
    expect(lights.at(-1)!.length).toBeGreaterThan(0);
    pointAt(undefined);
    await fixture.whenStable();
    expect(lights.at(-1)!.length).toBe(0);
    byHand({ yaw: 1, pitch: 0 });
    await fixture.whenStable();
    expect(page.querySelector('.mat-button-toggle-checked')).toBeNull();
    fixture.destroy();
    expect(ended).toBe(1);
  });
  it('is not shown when it cannot be set: the reason is', async () => {
    await end(refuse('form', 'The ropes came to lie as another knot.', 'Give the drawing more room.'));
    expect(page.querySelector('img')).toBeNull();
    expect(page.querySelector('[role=alert]')!.textContent).toContain('more room');
  });
  it('may be stopped, which says that what is seen is not proved, and set again', async () => {
    [...page.querySelectorAll('button')].find((b) => b.textContent.includes('Stop'))!.click();
    await fixture.whenStable();
    expect(page.textContent).toContain('it is not proved');
    [...page.querySelectorAll('button')].find((b) => b.textContent.includes('Set it again'))!.click();
    await fixture.whenStable();
    expect(page.textContent).toContain('Being set');
  });
  it('says of a knot that runs that it does', async () => {
    if (!done.ok) throw new Error(done.reason);
    await end(accept({ ...done.value, runs: true }));
    expect(page.textContent).toContain('It runs');
    expect(page.textContent).not.toContain('Proved to be the drawn knot:');
  });

  it('says what is not dressed, and shows where', async () => {
    forming.found = [
      { kind: 'needless crossing', over: { strand: 'a', at: 1 }, under: { strand: 'a', at: 3 } },
      { kind: 'wrong side', a: { strand: 'a', from: 1, to: 2 }, b: { strand: 'a', from: 3, to: 4 } },
    ];
    await end(done);
    await fixture.whenStable();
    const flaws = [...page.querySelectorAll<HTMLElement>('.flaw')];
    expect(flaws.map((f) => f.textContent.includes('Not dressed'))).toEqual([true, true]);
    expect(flaws[0]!.textContent).toContain('once more than drawn');
    flaws[0]!.dispatchEvent(new PointerEvent('pointerenter'));
    await fixture.whenStable();
    expect(page.querySelectorAll('.rings circle').length).toBe(2);
    expect(page.querySelectorAll('ft-form-strip .lit').length).toBe(2);
  });

  it('is nudged where it is drawn from its sides: the strand under the pointer, and by keys, told as seen from there', async () => {
    const nudges: Nudge[] = [];
    fixture.componentInstance.nudged.subscribe((n) => nudges.push(n));
    await end(done);
    fixture.componentRef.setInput('nudging', true);
    await fixture.whenStable();
    const hand = page.querySelector<SVGSVGElement>('ft-nudging-hand svg')!;
    const press = async (key: string): Promise<void> => {
      hand.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await fixture.whenStable();
    };
    for (const key of [']', 'ArrowRight', 'ArrowRight', 'ArrowUp', 'Enter']) await press(key);
    expect(nudges.length).toBe(1);
    expect(nudges[0]!.place.strand).toBe('a');
    expect(nudges[0]!.by).toEqual([1, -0.5, 0]);

    // From behind, right is left.
    [...page.querySelectorAll<HTMLElement>('mat-button-toggle button')]
      .find((b) => b.textContent.includes('From behind'))!
      .click();
    await fixture.whenStable();
    for (const key of ['[', 'ArrowRight', 'Enter']) await press(key);
    expect(nudges[1]!.by.map((v) => v + 0)).toEqual([-0.5, 0, 0]);
    // Let go without being pushed, nothing is said; Escape leaves it.
    for (const key of ['[', 'Enter', ']', 'ArrowUp', 'Escape', 'Enter']) await press(key);
    expect(nudges.length).toBe(2);

    await press(']');
    const at = hand.querySelector('circle')!;
    const [x, y] = [Number(at.getAttribute('cx')), Number(at.getAttribute('cy'))];
    await press('Escape');
    hand.setPointerCapture = (): void => undefined;
    const point = (kind: string, dx: number, buttons: number): void => {
      const { left, top } = hand.getBoundingClientRect();
      const place = { clientX: left + x + dx, clientY: top + y };
      hand.dispatchEvent(new PointerEvent(kind, { ...place, pointerId: 1, button: 0, buttons, bubbles: true }));
    };
    point('pointerdown', 0, 1);
    point('pointermove', 60, 1);
    point('pointerup', 60, 0);
    expect(nudges.length).toBe(3);
    expect(nudges[2]!.by[0]).toBeLessThan(-0.2);
    expect(Math.abs(nudges[2]!.by[1])).toBeLessThan(0.1);
  });
});
