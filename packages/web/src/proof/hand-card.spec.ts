import { TestBed, type ComponentFixture } from '@angular/core/testing';
import {
  change,
  FIRST_LAYOUT,
  inspectionMarks,
  placeOfMark,
  setNow,
  WORKSHOP_WORDS,
  type Method,
} from '@foxtrail/core';
import { FormingService } from '../data/forming';
import { FakeForming } from '../testing/forming';
import { overhand } from '../testing/knots';
import { HandCard } from './hand-card';

describe('the card in the hand', () => {
  let fixture: ComponentFixture<HandCard>;
  let page: HTMLElement;
  let forming: FakeForming;
  const knot = overhand();
  const all = inspectionMarks(knot.method.figure, WORKSHOP_WORDS);
  const marked = (...marks: (typeof all)[number][]): Method => {
    const done = change(knot, FIRST_LAYOUT, { kind: 'show', shown: { marks: marks.map(placeOfMark) } });
    if (!done.ok) throw new Error(done.reason);
    return done.value.method;
  };
  const numbers = async (): Promise<string[][]> =>
    Promise.all(
      [...page.querySelectorAll('img')].map(async (img) => {
        const svg = await (await fetch(img.src)).text();
        return [...svg.matchAll(/<text[^>]*>(\d+)<\/text>/g)].map((m) => m[1] ?? '');
      }),
    );
  const show = async (method: Method): Promise<void> => {
    fixture.componentRef.setInput('method', method);
    fixture.componentRef.setInput('name', 'Overhand');
    await fixture.whenStable();
  };

  beforeEach(() => {
    forming = new FakeForming();
    TestBed.overrideComponent(HandCard, { set: { providers: [{ provide: FormingService, useValue: forming }] } });
    fixture = TestBed.createComponent(HandCard);
    page = fixture.nativeElement as HTMLElement;
  });

  it('numbers the marks of each face as on the card, once it is set; a mark chosen later does not set it again', async () => {
    const [front, back] = [all.find((m) => m.side === 'front')!, all.find((m) => m.side === 'back')!];
    await show(marked(front));
    expect(page.querySelector('img')).toBeNull();
    forming.end(setNow(knot.method.figure));
    await fixture.whenStable();
    expect(new Set((await numbers())[0])).toEqual(new Set(['1']));
    expect((await numbers())[1]).toEqual([]);
    await show(marked(front, back));
    expect(new Set((await numbers())[1])).toEqual(new Set(['2']));
    expect(forming.asked.length).toBe(1);
  });

  it('carries marks of a layout drawn anew onto the one that is set', async () => {
    const [front] = all;
    const done = change({ ...knot, method: marked(front!) }, FIRST_LAYOUT, { kind: 'add-layout', name: 'Dressed' });
    if (!done.ok) throw new Error(done.reason);
    await show(done.value.method);
    forming.end(setNow(knot.method.figure));
    await fixture.whenStable();
    expect((await numbers()).flat()).toContain('1');
  });

  it('says where the marks are when they have no place on the layout that is set, and sets nothing', async () => {
    const method = marked(all[0]!);
    const [rope] = method.figure.ropes;
    const straight = { ...rope!, weave: '', points: [rope!.points[0]!, rope!.points.at(-1)!] };
    const dressed = { ...method, name: 'Dressed', figure: { ropes: [straight], hosts: [] }, halts: [] };
    await show({ ...method, relaid: [dressed] });
    expect(page.textContent).toContain('of the layout “Dressed”');
    expect(forming.asked).toEqual([]);
  });

  it('is set again on a press when it was stopped, and says why it cannot be', async () => {
    await show(marked());
    forming.end(undefined);
    await fixture.whenStable();
    page.querySelector('button')!.click();
    await fixture.whenStable();
    expect(forming.asked.length).toBe(2);
    forming.end({ ok: false, place: 'rope a', reason: 'It is too long.', remedy: 'Draw it shorter.' });
    await fixture.whenStable();
    expect(page.textContent).toContain('It is too long.');
  });
});
