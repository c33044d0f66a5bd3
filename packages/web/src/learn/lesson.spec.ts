import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { crossingsOf, mirror, placeOfCrossing, refuse, setNow } from '@foxtrail/core';
import { FormingService } from '../data/forming';
import { HandPictures } from '../data/hand-pictures';
import { FakeForming } from '../testing/forming';
import { overhand, SESSION } from '../testing/knots';
import { Lesson } from './lesson';

describe('the lesson', () => {
  let fixture: ComponentFixture<Lesson>;
  let page: HTMLElement;
  beforeEach(async () => {
    fixture = TestBed.createComponent(Lesson);
    fixture.componentRef.setInput('knot', {
      ...overhand(),
      entry: { ...overhand().entry, useGrade: 'people depend on it' },
    });
    fixture.componentRef.setInput('house', SESSION.house);
    fixture.componentRef.setInput('words', SESSION.house.vocabulary);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
  });
  const said = (): string => page.querySelector('.say')?.textContent.trim() ?? '';
  const press = async (key: string): Promise<void> => {
    page.querySelector('.player')!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await fixture.whenStable();
  };

  it('shows the cautions of its grade before the first step', () => {
    const cautions = page.querySelector('.cautions')!;
    expect(cautions.textContent).toContain('qualified instructor');
    expect(
      cautions.compareDocumentPosition(page.querySelector('.player')!) & Node.DOCUMENT_POSITION_FOLLOWING,
    ).toBeTruthy();
  });
  it('goes from step to step with the arrow keys and stays within them', async () => {
    expect(said()).toContain('overhand loop');
    await press('ArrowLeft');
    expect(said()).toContain('overhand loop');
    await press('ArrowRight');
    expect(said()).toContain('Bring it up through and away.');
    await press('End');
    await press('ArrowRight');
    expect(said()).toMatch(/^2/);
  });
  it('says in words what its picture shows, in every view', async () => {
    const label = (): string => page.querySelector('.player svg')!.getAttribute('aria-label')!;
    expect(label()).toContain('Front view. Take the working end over');
    await press('v');
    expect(label()).toContain('Back view');
    expect(page.querySelector('.badge')?.textContent).toContain('behind');
    await press('v');
    expect(label()).toContain('Left-handed view');
  });
  it('shows the inspection card and the wrong ways when the author chose any', async () => {
    expect(page.querySelector('.inspect')).toBeNull();
    expect(page.querySelector('.exhibits')).toBeNull();
    const knot = overhand();
    const [first, second] = crossingsOf(knot.method.figure).map(placeOfCrossing);
    const marks = [
      { kind: 'cross', side: 'front', place: first!.first, beside: first!.second },
      { kind: 'turns', side: 'front', place: first!.first, of: 'gone-from-the-figure' },
    ] as const;
    const exhibits = [{ crossings: [second!], becomes: 'Falls apart' }];
    fixture.componentRef.setInput('knot', { ...knot, method: { ...knot.method, marks, exhibits } });
    await fixture.whenStable();
    expect(page.querySelectorAll('.inspect ol li').length).toBe(1);
    expect(page.querySelector('.exhibits')!.textContent).toMatch(/Falls apart[^]*Here the .* lies over/);
    expect(page.querySelectorAll('.exhibits circle.ring').length).toBe(1);
  });
  it('measures the tail by the house’s rule on the knot’s cord', () => {
    expect(page.querySelector('.tail')!.textContent).toContain('at least 8 d (80 mm)');
  });
});

describe('a lesson whose knot is finished', () => {
  const knot = overhand();
  const finished = { ...knot, method: { ...knot.method, finish: [{ kind: 'dress' }, { kind: 'check' }] as const } };
  const { figure } = knot.method;
  let forming: FakeForming;
  let fixture: ComponentFixture<Lesson>;
  const pictures = (): HTMLImageElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLImageElement>('.all img.formed'),
  ];
  const pause = async (): Promise<void> => {
    await new Promise((done) => setTimeout(done, 10));
    await fixture.whenStable();
  };
  beforeEach(async () => {
    forming = new FakeForming();
    TestBed.overrideComponent(Lesson, {
      set: { providers: [{ provide: FormingService, useValue: forming }, HandPictures] },
    });
    fixture = TestBed.createComponent(Lesson);
    fixture.componentRef.setInput('knot', finished);
    fixture.componentRef.setInput('house', SESSION.house);
    fixture.componentRef.setInput('words', SESSION.house.vocabulary);
    await fixture.whenStable();
    await pause();
  });
  const last = (): HTMLElement => (fixture.nativeElement as HTMLElement).querySelector('.all li:last-child')!;

  it('shows the drawing until it is set, then the knot in the hand: dressed, and from both sides', async () => {
    expect(forming.asked).toEqual([figure]);
    expect(pictures().length).toBe(0);
    expect(last().querySelector('svg')).not.toBeNull();
    forming.end(setNow(figure));
    await pause();
    expect(pictures().length).toBe(2);
    const [dressed, checked] = await Promise.all(pictures().map(async (p) => (await fetch(p.src)).text()));
    expect(dressed).toContain('dressed and set');
    // Both faces in one picture.
    expect(checked!.match(/<svg/g)!.length).toBe(3);
  });
  it('is set anew for the left hand, and keeps its drawing where it cannot be set', async () => {
    forming.end(setNow(figure));
    await pause();
    const page = fixture.nativeElement as HTMLElement;
    page.querySelector('.player')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'v', bubbles: true }));
    await pause();
    page.querySelector('.player')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'v', bubbles: true }));
    for (let i = 0; i < 200 && forming.asked.length < 2; i += 1) await pause();
    expect(forming.asked.at(-1)).toEqual(mirror(figure));
    expect(pictures().length).toBe(0);
    forming.end(refuse('form', 'It came to lie as another knot.', 'Give it room.'));
    await pause();
    expect(pictures().length).toBe(0);
    expect(last().querySelector('svg')).not.toBeNull();
  });
});
