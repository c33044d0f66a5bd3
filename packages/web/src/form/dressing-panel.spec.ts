import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { WORKSHOP_WORDS, type Dressing, type Figure } from '@foxtrail/core';
import { overhand } from '../testing/knots';
import { Icons } from '../ui/icons';
import { AS_IT_COMES, DressingPanel } from './dressing-panel';

describe('how a knot is dressed', () => {
  let fixture: ComponentFixture<DressingPanel>;
  let page: HTMLElement;
  let kept: (readonly Dressing[])[];
  const { figure } = overhand().method;
  const way = (): Dressing => fixture.componentInstance.inHand();
  const button = (name: RegExp): HTMLElement => {
    const found = [...page.querySelectorAll<HTMLElement>('button')].find((b) =>
      name.test(`${b.getAttribute('aria-label') ?? ''} ${b.textContent}`),
    );
    if (!found) throw new Error(`no button ${String(name)}`);
    return found;
  };
  const press = async (name: RegExp): Promise<void> => {
    button(name).click();
    await fixture.whenStable();
  };
  const strengths = (): string[] =>
    [...page.querySelectorAll('.parts li')].map(
      (li) =>
        `${li.querySelector('.name')!.textContent}: ${li.querySelector('.mat-button-toggle-checked')!.textContent.trim()}`,
    );
  async function keepAs(name: string): Promise<void> {
    page.querySelector<HTMLInputElement>('.keep input')!.value = name;
    page.querySelector('.keep')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
  }
  async function show(shown: Figure, ways: readonly Dressing[], inHand: Dressing = AS_IT_COMES): Promise<void> {
    fixture.componentRef.setInput('figure', shown);
    fixture.componentRef.setInput('kept', ways);
    fixture.componentRef.setInput('inHand', inHand);
    fixture.componentRef.setInput('vocabulary', WORKSHOP_WORDS);
    await fixture.whenStable();
  }

  beforeEach(async () => {
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(DressingPanel);
    page = fixture.nativeElement as HTMLElement;
    kept = [];
    fixture.componentInstance.keep.subscribe((ways) => {
      kept.push(ways);
      fixture.componentRef.setInput('kept', ways);
    });
    await show(figure, []);
  });

  it('tells what is pulled and how hard; nothing is kept of what comes by itself', () => {
    expect(strengths()).toEqual(['Standing part: loaded', 'Tail: loaded']);
    expect(button(/As it comes/).getAttribute('aria-pressed')).toBe('true');
    expect(page.textContent).toContain('shown to learners');
    expect(page.querySelector('.keep')).toBeNull();
  });

  it('pulls one after another in the order that is chosen, each as hard as is said', async () => {
    page.querySelector<HTMLElement>('mat-slide-toggle button')!.click();
    await fixture.whenStable();
    await press(/Pull the Tail earlier/);
    await press(/by hand/);
    expect(way()).toEqual({
      name: '',
      inTurn: true,
      pulls: [
        { place: { strand: 'a', at: figure.ropes[0]!.points.length - 1 }, pulled: 'by hand' },
        { place: { strand: 'a', at: 0 }, pulled: 'loaded' },
      ],
    });
    expect(strengths()).toEqual(['Tail: by hand', 'Standing part: loaded']);
    expect(button(/As it comes/).getAttribute('aria-pressed')).toBe('false');
  });

  it('is kept by a name of its own, made the right one, and let go', async () => {
    await show(figure, [{ name: 'Snug', pulls: [] }]);
    await press(/slack/);
    await keepAs('');
    expect(page.textContent).toContain('Give this way a name');
    await keepAs('snug');
    expect(page.textContent).toContain('Call this one otherwise');
    expect(kept).toEqual([]);
    await keepAs('Loose');
    expect(kept.at(-1)!.map((d) => d.name)).toEqual(['Snug', 'Loose']);
    await press(/This is the right one/);
    expect(kept.at(-1)!.map((d) => d.name)).toEqual(['Loose', 'Snug']);
    expect(button(/Loose/).textContent).toContain('shown to learners');
    await press(/Let “Loose” go/);
    expect(kept.at(-1)!.map((d) => d.name)).toEqual(['Snug']);
    expect(way()).toEqual(AS_IT_COMES);
  });

  it('names the parts by their ropes where there are several, and says how strands were nudged', async () => {
    const [rope] = figure.ropes;
    const other = {
      ...rope!,
      id: 'b',
      weave: '',
      points: [
        [0, 20],
        [9, 20],
      ] as const,
    };
    await show({ ...figure, ropes: [rope!, other] }, [], {
      name: '',
      nudges: [{ place: { strand: 'a', at: 0.2 }, by: [0.4, -1.5, 0] }],
    });
    expect(strengths()[0]).toContain('Standing part of the pale rope');
    expect(page.querySelector('.nudges')!.textContent).toContain('Standing part, 1.5 d up');
    await press(/Take back/);
    expect(way().nudges).toEqual([]);
  });

  it('is only looked at by who may not write', async () => {
    fixture.componentRef.setInput('mayKeep', false);
    await show(figure, [{ name: 'Snug', pulls: [] }]);
    await press(/Snug/);
    expect(page.querySelector('[aria-label*="go"]')).toBeNull();
    await press(/slack/);
    expect(page.querySelector('.keep')).toBeNull();
  });
});
