import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { provideRouter } from '@angular/router';
import { crossingsOf, finishedLayout, layoutsOf } from '@foxtrail/core';
import type { Footage } from '@foxtrail/core/footage';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { FilmFrame } from './film-frame';
import { FilmPage } from './film';

const film: Footage = { film: 'b'.repeat(64), name: 'Second take', duration: 8, frames: [] };

describe('Film', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<FilmPage>;
  let page: HTMLElement;
  beforeEach(() => {
    bench = new FakeBench();
    TestBed.configureTestingModule({ providers: [provideRouter([]), bench.provided] });
    TestBed.inject(Icons);
  });
  afterEach(() => page.remove());
  const open = async (footage: readonly Footage[]): Promise<void> => {
    const layout = layoutsOf(bench.method()).length - 1;
    if (footage.length > 0) bench.edit({ kind: 'show', shown: { footage } }, { layout });
    fixture = TestBed.createComponent(FilmPage);
    page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
    await fixture.whenStable();
  };
  const kept = (): Footage | undefined => finishedLayout(bench.method()).footage?.[0];
  const frame = (): FilmFrame => fixture.debugElement.query(By.directive(FilmFrame)).componentInstance as FilmFrame;
  const asked = (): string => page.querySelector('.ask')?.textContent.replace(/\s+/g, ' ').trim() ?? '';
  const key = async (name: string): Promise<void> => {
    document.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
    await fixture.whenStable();
  };
  const place = async (x: number, y: number): Promise<void> => {
    frame().placed.emit([x, y]);
    await fixture.whenStable();
  };

  it('says what to do where there is none yet', async () => {
    await open([]);
    expect(page.textContent).toContain('There is no film of this knot yet');
    expect([...page.querySelectorAll('button')].map((b) => b.textContent.trim())).toEqual([
      'Record a film',
      'Choose a film',
    ]);
  });

  it('is cut where its author says, and its steps begin at the frame that is shown', async () => {
    await open([film]);
    const act = async (name: string): Promise<void> => {
      [...page.querySelectorAll<HTMLButtonElement>('ft-film-parts button')]
        .find((b) => b.textContent.trim() === name || b.getAttribute('aria-label') === name)!
        .click();
      await fixture.whenStable();
    };
    const at = async (time: number): Promise<void> => {
      frame().shown.emit(time);
      await fixture.whenStable();
    };
    await at(1);
    await act('Begin here');
    await at(6);
    await act('End here');
    expect(kept()?.cut).toEqual([1, 6]);
    expect(page.querySelector('.played')!.textContent).toContain('from 0:01.0 to 0:06.0');
    await at(2);
    await act('Step 1 begins here');
    await at(4);
    await act('Step 2 begins here');
    expect(kept()?.steps).toEqual([
      { step: 0, at: 2 },
      { step: 1, at: 4 },
    ]);
    expect(page.querySelector('ft-film-parts li.now')!.textContent).toContain('2. ');
    await act('It does not begin here');
    expect(kept()?.steps).toEqual([{ step: 0, at: 2 }]);
    await act('All');
    expect(kept()?.cut).toBeUndefined();
  });

  it('has words laid on its picture that are followed from place to place, and stretches played otherwise', async () => {
    await open([{ ...film, steps: [{ step: 0, at: 0 }] }]);
    const over = (): HTMLElement => page.querySelector('ft-over-film')!;
    const act = async (name: string, from = 0): Promise<void> => {
      [...over().querySelectorAll<HTMLButtonElement>('button')]
        .filter((b) => b.textContent.trim() === name || b.getAttribute('aria-label') === name)
        [from]!.click();
      await fixture.whenStable();
    };
    const at = async (time: number): Promise<void> => {
      frame().shown.emit(time);
      await fixture.whenStable();
    };
    await at(1);
    await act('Words here');
    expect(over().textContent).toContain('Press the place in the picture');
    expect(page.querySelector('.ask')).toBeNull();
    await place(0.25, 0.5);
    const words = over().querySelector('input')!;
    words.value = ' The <nipping> turn ';
    words.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    await at(2.5);
    await act('It is here now');
    await place(0.75, 0.5);
    expect(kept()?.callouts).toEqual([
      {
        kind: 'label',
        text: 'The nipping turn',
        keys: [
          { at: 1, place: [0.25, 0.5] },
          { at: 2.5, place: [0.75, 0.5] },
        ],
        until: 3,
      },
    ]);
    expect(over().textContent).toContain('followed over 2 places');
    // No mark of a crossing was set by these presses.
    expect(kept()?.frames).toEqual([]);
    await at(4);
    await act('Play it otherwise from here');
    await at(5);
    await act('Until here', 1);
    expect(kept()?.passages).toEqual([{ from: 4, to: 5, speed: 0.5 }]);
    for (const box of [0, 1]) {
      over().querySelectorAll<HTMLInputElement>('mat-checkbox input')[box]!.click();
      await fixture.whenStable();
    }
    expect(kept()?.passages).toEqual([{ from: 4, to: 5, speed: 0.5, again: true, hidden: true }]);
    // A ruler is asked for both of its ends.
    await at(6);
    await act('Ruler here');
    await place(0.25, 0.25);
    expect(over().textContent).toContain('Press where the ruler ends');
    await place(0.5, 0.75);
    expect(kept()?.callouts?.[1]).toEqual({
      kind: 'ruler',
      text: '',
      keys: [{ at: 6, place: [0.25, 0.25], end: [0.5, 0.75] }],
      until: 8,
    });
    await act('Take it off: ');
    await act('Take it off: The nipping turn');
    await act('Play it as it was filmed from 0:04.0');
    expect(kept()).toEqual({ ...film, steps: [{ step: 0, at: 0 }] });
  });

  it('is told where to press until Escape', async () => {
    await open([film]);
    [...page.querySelectorAll<HTMLButtonElement>('ft-over-film button')]
      .find((b) => b.textContent.includes('Ring here'))!
      .click();
    await fixture.whenStable();
    expect(page.querySelector('.placing')).not.toBeNull();
    await key('Escape');
    expect(page.querySelector('.placing')).toBeNull();
    expect(asked()).toContain('Press where this crossing is');
  });

  it('takes a mark in four presses, or in two without directions, and keeps it with its frame', async () => {
    await open([film]);
    frame().shown.emit(1.5);
    await fixture.whenStable();
    expect(asked()).toContain('Crossing 1 Press where this crossing is');
    await place(0.4, 0.5);
    expect(asked()).toContain('strand A');
    await place(0.5, 0.5);
    await place(0.4, 0.6);
    await key('b');
    expect(kept()?.frames).toEqual([
      {
        at: 1.5,
        marks: [jasmine.objectContaining({ over: 'second', point: [0.4, 0.5], first: [0.5, 0.5], second: [0.4, 0.6] })],
      },
    ]);
    expect(asked()).toMatch(/^Crossing [23] /);
    await place(0.7, 0.2);
    await key('s');
    await key('a');
    const [, second] = kept()?.frames[0]?.marks ?? [];
    expect([second?.over, second?.point, second?.first]).toEqual(['first', [0.7, 0.2], undefined]);
  });

  it('takes a place by the arrow keys and Enter', async () => {
    await open([film]);
    const picture = page.querySelector<SVGElement>('ft-film-frame svg')!;
    const press = (name: string, shiftKey = false): boolean =>
      picture.dispatchEvent(new KeyboardEvent('keydown', { key: name, shiftKey, bubbles: true }));
    press('ArrowRight');
    press('ArrowUp', true);
    press('Enter');
    await fixture.whenStable();
    expect(asked()).toContain('strand A');
    await key('s');
    await key('a');
    const [x, y] = kept()?.frames[0]?.marks[0]?.point ?? [0, 0];
    expect([x, y].map((v) => v.toFixed(3))).toEqual(['0.520', '0.496']);
  });

  it('goes a press back, and marks a crossing again', async () => {
    await open([film]);
    await place(0.4, 0.5);
    await key('Backspace');
    expect(asked()).toContain('Press where this crossing is');
    for (const { number } of crossingsOf(finishedLayout(bench.method()).figure)) {
      await place(number / 10, 0.5);
      await key('s');
      await key('a');
    }
    expect(asked()).toContain('All crossings are marked');
    page.querySelectorAll<HTMLElement>('.numbers button')[1]?.click();
    await fixture.whenStable();
    expect(asked()).toContain('Crossing 2 Press where');
  });

  it('shows a reviewer what is marked, and no more', async () => {
    bench.mayWrite.set(false);
    await open([]);
    expect(page.querySelector('main button')).toBeNull();
  });
});
