import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { figureToSet, finishedLayout, refuse, setWatched, type Reel, type Result } from '@foxtrail/core';
import { onItsWay, type Tightening } from '@foxtrail/core/reel';
import { provideRouter } from '@angular/router';
import { Observable, Subject } from 'rxjs';
import { FormingService } from '../data/forming';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { captionFontUrl, ExportService } from './export';
import type { ExportReport, ExportRequest } from './export-messages';
import { ReelPage } from './reel';
import { ReelDesk } from './reel-desk';
import { ReelFilms } from './reel-films';

describe('Reel', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<ReelPage>;
  let page: HTMLElement;
  let reports: Subject<ExportReport>;
  let cancelled: number;
  let requests: ExportRequest[];
  let settle: (done: Result<Tightening> | undefined) => void;
  beforeEach(async () => {
    bench = new FakeBench();
    reports = new Subject();
    cancelled = 0;
    requests = [];
    const exporter = {
      run: (request: ExportRequest) => {
        requests.push(request);
        return new Observable<ExportReport>((s) => {
          const sub = reports.subscribe(s);
          return () => {
            cancelled += 1;
            sub.unsubscribe();
          };
        });
      },
    };
    TestBed.configureTestingModule({
      providers: [provideRouter([]), bench.provided, { provide: ExportService, useValue: exporter }],
    });
    const forming = { share: () => 0.4, watch: () => new Promise((done) => (settle = done)) };
    TestBed.overrideComponent(ReelPage, {
      set: { providers: [{ provide: FormingService, useValue: forming }, ReelDesk, ReelFilms] },
    });
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(ReelPage);
    page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
    await fixture.whenStable();
  });
  afterEach(() => page.remove());
  const button = (text: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.includes(text));
  const caption = (): string => page.querySelector('[aria-live]')!.textContent;

  it('captions come from the step texts, and a press goes to each', async () => {
    const captions = [...page.querySelectorAll<HTMLButtonElement>('.captions button')];
    expect(captions.map((c) => c.textContent.replace(/\s+/g, ' ').trim())).toEqual([
      '0:03Take the working end over the standing part to make an overhand loop.',
      jasmine.stringMatching(/^0:\d\dBring it up through and away\.$/),
    ]);
    captions[1]!.click();
    await fixture.whenStable();
    expect(caption()).toBe('Bring it up through and away.');
  });
  it('captions name sides for the hand that is shown', async () => {
    bench.edit({ kind: 'set-text', index: 0, text: 'Lead it to the left, clockwise.' });
    await fixture.whenStable();
    const first = (): string => page.querySelector('.captions button')!.textContent;
    expect(first()).toContain('to the left, clockwise');
    [...page.querySelectorAll<HTMLElement>('ft-view-toggle button')]
      .find((b) => b.textContent.includes('Left'))!
      .click();
    await fixture.whenStable();
    expect(first()).toContain('to the right, anticlockwise');
  });
  it('plays on by itself and stops when it is paused', async () => {
    button('Play')!.click();
    // However slow the machine is: it plays on until it is paused, and not beyond.
    const began = performance.now();
    while (fixture.componentInstance.desk.time() <= 0.1 && performance.now() - began < 20_000)
      await new Promise((done) => setTimeout(done, 20));
    await fixture.whenStable();
    button('Pause')!.click();
    await fixture.whenStable();
    const time = fixture.componentInstance.desk.time();
    expect(time).toBeGreaterThan(0.1);
    await new Promise((done) => setTimeout(done, 80));
    expect(fixture.componentInstance.desk.time()).toBe(time);
  });
  it('goes from step to step by keys, and takes longer at a slower pace', async () => {
    const press = async (key: string): Promise<void> => {
      document.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await fixture.whenStable();
    };
    // The cautions come before the first step, and going back from it leads to them.
    expect(caption()).toContain('Look at the finished knot from both sides');
    await press('.');
    const first = caption();
    expect(first).not.toContain('Look at the finished knot');
    await press(',');
    expect(caption()).toContain('Look at the finished knot from both sides');
    await press('.');
    expect(caption()).toBe(first);
    await press('.');
    expect(caption()).toBe('Bring it up through and away.');
    const long = fixture.componentInstance.desk.timeline().duration;
    fixture.componentInstance.desk.setPace('slow');
    expect(fixture.componentInstance.desk.timeline().duration).toBeGreaterThan(long);
    await fixture.whenStable();
    expect(caption()).toBe('Bring it up through and away.');
  });
  it('shows how far an export is, and cancels it', async () => {
    button('Export WebM')!.click();
    reports.next({ kind: 'progress', done: 30, total: 120 });
    await fixture.whenStable();
    expect(page.textContent).toContain('Frame 30 of 120');
    button('Cancel')!.click();
    await fixture.whenStable();
    expect(cancelled).toBe(1);
    expect(page.textContent).toContain('Nothing was kept of it');
    expect(button('Export WebM')).toBeDefined();
  });
  it('offers the clip when it is done, and says why when it cannot be made', async () => {
    button('Export WebM')!.click();
    expect(requests[0]).toEqual(jasmine.objectContaining({ width: 1280, height: 720, pace: 'normal', view: 'front' }));
    reports.next({ kind: 'finished', bytes: new ArrayBuffer(2048), duration: 4, frames: 120, seconds: 2 });
    await fixture.whenStable();
    expect(page.textContent).toContain('120 frames, 4.0 s, 2 kB');
    button('Export WebM')!.click();
    reports.next({ kind: 'failed', reason: 'This browser cannot encode video.' });
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')?.textContent).toContain('cannot encode');
    expect(page.querySelector('video')).toBeNull();
  });
  it('keeps no clip of a knot that has changed since it was made', async () => {
    button('Export WebM')!.click();
    reports.next({ kind: 'finished', bytes: new ArrayBuffer(2048), duration: 4, frames: 120, seconds: 2 });
    await fixture.whenStable();
    expect(button('Keep it for the sheet')).toBeDefined();
    bench.edit({ kind: 'set-text', index: 0, text: 'Over the standing part.' });
    await fixture.whenStable();
    expect(button('Keep it for the sheet')).toBeUndefined();
    expect(page.textContent).toContain('The knot has changed since this clip was made');
    // What it shows can still be saved as a file.
    expect(button('Save the clip')).toBeDefined();
  });
  describe('of a knot that is dressed, set and checked', () => {
    beforeEach(async () => {
      bench.edit({ kind: 'add-finish', finish: ['dress', 'set', 'check'] });
      await fixture.whenStable();
    });
    const picture = (): string => page.querySelector('canvas')!.toDataURL();

    it('is set before it is exported, and goes with the export', async () => {
      expect(page.textContent).toContain('The knot is being set');
      expect(button('Export WebM')!.disabled).toBeTrue();
      const figure = figureToSet(bench.knot().method);
      const work = setWatched(figure);
      let step = work.next();
      while (step.done !== true) step = work.next();
      if (!step.value.ok) throw new Error(step.value.reason);
      const check = (): { start: number; end: number }[] =>
        fixture.componentInstance.desk.timeline().scenes.filter((s) => s.step === 4);
      fixture.componentInstance.desk.time.set(check()[0]!.start + 0.1);
      await fixture.whenStable();
      const drawn = picture();
      settle({ ok: true, value: onItsWay(figure, step.value.value) });
      await fixture.whenStable();
      await new Promise((done) => setTimeout(done));
      await fixture.whenStable();
      // The drawing gives way to the knot in the hand, seen from in front, and from behind once it is turned over.
      const front = picture();
      expect(front).not.toBe(drawn);
      fixture.componentInstance.desk.time.set(check()[2]!.start + 0.1);
      await fixture.whenStable();
      expect(picture()).not.toBe(front);
      button('Export WebM')!.click();
      expect(requests[0]!.way!.figure).toBe(figure);
    });
    it('is said to run where it does', async () => {
      const figure = figureToSet(bench.knot().method);
      settle({
        ok: true,
        value: { figure, form: { chains: [], solids: [], runs: true }, moments: [], level: 0 } as never,
      });
      await new Promise((done) => setTimeout(done));
      await fixture.whenStable();
      expect(page.textContent).toContain('it runs. It is filmed up to where it is still proved');
    });
    it('shows its drawing and says why, where it cannot be set', async () => {
      settle(refuse('rope', 'Three strands meet at a point.', 'Move one aside.'));
      await new Promise((done) => setTimeout(done));
      await fixture.whenStable();
      expect(page.textContent).toContain('show the drawing: Three strands meet at a point. Move one aside.');
      expect(button('Export WebM')!.disabled).toBeFalse();
    });
  });
  it('shows its scenes and captions in time, and goes to each', async () => {
    const scenes = (): HTMLButtonElement[] => [...page.querySelectorAll<HTMLButtonElement>('.line .block')];
    expect(scenes().map((b) => b.getAttribute('aria-label')!.replace(/, \d.*/, ''))).toEqual([
      'Cautions, read before the first step',
      'Step 1, laid',
      'Step 2, laid',
    ]);
    scenes()[2]!.click();
    await fixture.whenStable();
    expect(caption()).toBe('Bring it up through and away.');
    expect(scenes()[2]!.classList).toContain('now');
    expect(page.querySelector('.cues')!.textContent).toContain('Bring it up through and away.');
  });
  it('films a step slower, again, or held for longer, in the knot itself and undone with it', async () => {
    const filmed = (): unknown => finishedLayout(bench.knot().method).halts[1]!.filmed;
    page.querySelectorAll<HTMLButtonElement>('.line .block')[2]!.click();
    await fixture.whenStable();
    const before = fixture.componentInstance.desk.timeline().duration;
    page.querySelector<HTMLButtonElement>('mat-slide-toggle button')!.click();
    await fixture.whenStable();
    expect(filmed()).toEqual({ again: true });
    expect(fixture.componentInstance.desk.timeline().duration).toBeGreaterThan(before);
    expect(page.querySelectorAll('.scenes .again').length).toBe(1);
    // The place is kept: it is still this step that is shown.
    expect(caption()).toBe('Bring it up through and away.');
    const slide = async (label: string, value: number): Promise<void> => {
      const input = page.querySelector<HTMLInputElement>(`input[aria-label^="${label}"]`)!;
      input.value = String(value);
      input.dispatchEvent(new Event('input', { bubbles: true }));
      input.dispatchEvent(new Event('change', { bubbles: true }));
      await fixture.whenStable();
    };
    await slide('Held for', 4);
    await slide('Speed', 1);
    expect(filmed()).toEqual({ again: true, hold: 4, speed: 0.5 });
    page.querySelector<HTMLButtonElement>('mat-slide-toggle button')!.click();
    await fixture.whenStable();
    await slide('Held for', 0);
    await slide('Speed', 3);
    expect(filmed()).toBeUndefined();
  });
  it('says what goes by too quickly, and slows it with a press', async () => {
    const long = 'Lead it over, and under, and over once more, and say so at length. '.repeat(6).trim();
    bench.edit({ kind: 'set-text', index: 0, text: long });
    bench.edit({ kind: 'tell', index: 0, telling: { filmed: { speed: 4 } } });
    bench.practice.update((p) => ({
      ...p,
      changes: { ...p.changes, 'caption-speed': { value: 10, reason: 'So the test wants it.' } },
    }));
    await fixture.whenStable();
    expect(page.querySelector('ft-film-step .quick')!.textContent).toContain('Step 1');
    expect(page.textContent).toContain('characters a second; 10 are the house’s most');
    expect(page.querySelectorAll('.cues .quick').length).toBeGreaterThan(1);
    for (let i = 0; i < 4 && page.querySelector('ft-film-step .quick'); i += 1) {
      (button('Hold it longer') ?? button('Slow it down'))?.click();
      await fixture.whenStable();
    }
    expect(page.querySelector('ft-film-step .quick')).toBeNull();
  });
  it('exports in other shapes and rates', async () => {
    const choose = async (text: string): Promise<void> => {
      button(text)!.click();
      await fixture.whenStable();
    };
    await choose('9 : 16');
    await choose('1080');
    await choose('60');
    const canvas = page.querySelector('canvas')!;
    expect([canvas.width, canvas.height]).toEqual([1080, 1920]);
    button('Export WebM, 1080 × 1920')!.click();
    expect(requests[0]).toEqual(jasmine.objectContaining({ width: 1080, height: 1920, rate: 60 }));
  });
  describe('with a reel that is composed', () => {
    const reel = (): Reel => bench.knot().method.reels![0]!;
    const blocks = (): HTMLButtonElement[] => [...page.querySelectorAll<HTMLButtonElement>('.scenes .block')];
    const press = async (at: number, init: KeyboardEventInit): Promise<void> => {
      blocks()[at]!.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, ...init }));
      await fixture.whenStable();
    };
    const act = async (text: string): Promise<void> => {
      [...document.querySelectorAll<HTMLButtonElement>('button')].find((b) => b.textContent.includes(text))!.click();
      await fixture.whenStable();
    };
    beforeEach(async () => {
      bench.knot.update((k) => ({ ...k, entry: { ...k.entry, summary: 'Keeps an end from running out.' } }));
      await act('New reel');
      await act('Whole lesson');
    });

    it('plays its scenes: a card with its words, the steps slowly and again, what is looked at', async () => {
      expect(reel().scenes.map((s) => s.kind)).toEqual([
        'card',
        'look',
        'step',
        'step',
        'step',
        'step',
        'look',
        'look',
        'tail',
      ]);
      expect(blocks().length).toBe(9);
      expect([...page.querySelectorAll('.passes span')].map((p) => p.textContent)).toEqual([
        'introduction',
        'slow',
        'normal',
        'inspection',
      ]);
      blocks()[0]!.click();
      await fixture.whenStable();
      expect(caption()).toBe('Keeps an end from running out.');
      expect(page.querySelector('h2')!.textContent).toBe('A card');
      blocks()[4]!.click();
      await fixture.whenStable();
      expect(caption()).toBe('');
    });

    it('is changed scene by scene: moved, shown again, left out, put in, with the place that is shown kept', async () => {
      await press(2, { key: 'ArrowRight', altKey: true });
      expect(reel().scenes.slice(2, 4)).toEqual([
        { kind: 'step', step: 1, speed: 0.6, pass: 'slow' },
        { kind: 'step', step: 0, speed: 0.6, pass: 'slow' },
      ]);
      await press(3, { key: 'ArrowLeft', altKey: true });
      await press(2, { key: 'd' });
      expect(reel().scenes.length).toBe(10);
      expect(reel().scenes[3]).toEqual(reel().scenes[2]);
      await press(3, { key: 'Delete' });
      expect(reel().scenes.length).toBe(9);
      blocks()[2]!.click();
      await fixture.whenStable();
      await act('Put a scene after it');
      await act('The knot from behind');
      expect(reel().scenes[3]).toEqual({ kind: 'look', side: 'back', pass: 'slow' });
      // What was put in is shown.
      expect(page.textContent).toContain('Scene 4 of 10');
      await act('Leave out');
      expect(reel().scenes.length).toBe(9);
      // Nothing of it changes how the steps themselves are filmed.
      expect(bench.knot().method.halts.some((h) => h.filmed)).toBeFalse();
    });

    it('shows a step of it as the step is filmed, until the scene says otherwise', async () => {
      bench.edit({ kind: 'tell', index: 0, telling: { filmed: { speed: 0.5, hold: 2 } } });
      bench.edit({ kind: 'set-reels', reels: [{ name: 'Plain', scenes: [{ kind: 'step', step: 0 }] }] });
      await fixture.whenStable();
      const shown = (): string[] => [...page.querySelectorAll('ft-scene-editor output')].map((o) => o.textContent);
      expect(shown()).toEqual(['× 0.5', '2.0 s']);
      const input = page.querySelector<HTMLInputElement>('ft-scene-editor input[aria-label="Speed"]')!;
      input.value = '1';
      for (const kind of ['input', 'change']) input.dispatchEvent(new Event(kind, { bubbles: true }));
      await fixture.whenStable();
      // As quick as the rest is not as the step is filmed.
      expect(reel().scenes[0]).toEqual({ kind: 'step', step: 0, speed: 1 });
      expect(shown()[0]).toBe('× 1');
    });

    it('makes a scene longer by its end, and a card says what is written', async () => {
      const before = fixture.componentInstance.desk.timeline().duration;
      const [, handle] = page.querySelectorAll<HTMLElement>('.scenes .end');
      handle!.setPointerCapture = () => undefined;
      const perPixel = before / page.querySelector('.rows')!.clientWidth;
      const at = (kind: string, x: number): boolean =>
        handle!.dispatchEvent(new PointerEvent(kind, { clientX: x, pointerId: 1, bubbles: true }));
      at('pointerdown', 100);
      at('pointermove', 100 + 2 / perPixel);
      at('pointerup', 100 + 2 / perPixel);
      await fixture.whenStable();
      expect(fixture.componentInstance.desk.timeline().duration).toBeCloseTo(before + 2, 0);
      // Near where its motion ends it stops there.
      const step = (): { rests: number; lasts: number } => {
        const [shot] = fixture.componentInstance.desk.timeline().scenes.filter((s) => s.part === 2);
        return { rests: shot!.end - shot!.laid, lasts: shot!.laid - shot!.start };
      };
      const end = page.querySelectorAll<HTMLElement>('.scenes .end')[2]!;
      end.setPointerCapture = () => undefined;
      const scale = fixture.componentInstance.desk.timeline().duration / page.querySelector('.rows')!.clientWidth;
      const drag = (kind: string, x: number): boolean =>
        end.dispatchEvent(new PointerEvent(kind, { clientX: x, pointerId: 1, bubbles: true }));
      const { rests, lasts } = step();
      drag('pointerdown', 300);
      drag('pointermove', 300 - rests / scale + 1);
      await fixture.whenStable();
      expect(page.querySelector('.lasts')!.textContent).toBe(`${lasts.toFixed(1)} s`);
      drag('pointercancel', 0);
      await fixture.whenStable();
      blocks()[0]!.click();
      await fixture.whenStable();
      const words = page.querySelector<HTMLTextAreaElement>('ft-scene-editor textarea')!;
      words.value = 'For a kite line.';
      words.dispatchEvent(new Event('change'));
      await fixture.whenStable();
      expect(caption()).toBe('For a kite line.');
    });

    it('has its words written where they are read; what the picture does not show is said at once', async () => {
      const field = (): HTMLTextAreaElement | null => page.querySelector('ft-reel-tracks textarea');
      const wrote = async (words: string, key: string): Promise<void> => {
        field()!.value = words;
        field()!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
        await fixture.whenStable();
      };
      await press(2, { key: 'F2' });
      expect(field()!.value).toBe('Take the working end over the standing part to make an overhand loop.');
      await wrote('Under the standing part.', 'Enter');
      expect(reel().scenes[2]).toEqual({
        kind: 'step',
        step: 0,
        speed: 0.6,
        pass: 'slow',
        text: 'Under the standing part.',
      });
      expect(field()).toBeNull();
      blocks()[2]!.click();
      await fixture.whenStable();
      expect(caption()).toBe('Under the standing part.');
      expect(page.querySelector('ft-scene-editor .quick')!.textContent).toContain('It says “Under');
      // A silent step speaks once it is written; left alone, it stays as it was.
      await press(4, { key: 'F2' });
      await wrote('Nothing of this is kept.', 'Escape');
      expect(reel().scenes[4]).toEqual(jasmine.objectContaining({ silent: true }));
      const cue = [...page.querySelectorAll<HTMLElement>('.cues button')].find((b) => b.title.includes('Under the'))!;
      cue.dispatchEvent(new MouseEvent('dblclick', { bubbles: true }));
      await fixture.whenStable();
      await wrote('', 'Enter');
      expect(reel().scenes[2]).toEqual({ kind: 'step', step: 0, speed: 0.6, pass: 'slow' });
    });

    it('has a shape of its own, is exported as it is, and let go', async () => {
      await act('New reel');
      await act('Upright');
      expect(bench.knot().method.reels!.map((r) => r.name)).toEqual(['Whole lesson', 'Upright, for a telephone']);
      const canvas = page.querySelector('canvas')!;
      expect([canvas.width, canvas.height]).toEqual([720, 1280]);
      button('Whole lesson')!.click();
      await fixture.whenStable();
      expect([canvas.width, canvas.height]).toEqual([1280, 720]);
      settle(refuse('figure', 'It is not set here.', 'Look at the drawing.'));
      await new Promise((done) => setTimeout(done));
      await fixture.whenStable();
      button('Export WebM')!.click();
      expect(requests[0]).toEqual(jasmine.objectContaining({ reel: 0 }));
      reports.next({ kind: 'finished', bytes: new ArrayBuffer(2048), duration: 4, frames: 120, seconds: 2 });
      await act('Let it go');
      expect(bench.knot().method.reels!.length).toBe(1);
      expect(page.querySelector('.passes')).toBeNull();
    });
  });
  it('finds the caption font of the page', () => {
    expect(captionFontUrl()).toMatch(/atkinson.*latin.*\.woff2/);
  });
  it('says where the demonstration comes from when there are no steps', async () => {
    bench.knot.update((k) => ({ ...k, method: { ...k.method, halts: [] } }));
    await fixture.whenStable();
    expect(page.textContent).toContain('There is nothing to play yet');
  });
});
