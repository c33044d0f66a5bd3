import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Observable, Subject } from 'rxjs';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { captionFontUrl, ExportService } from './export';
import type { ExportReport, ExportRequest } from './export-messages';
import { ReelPage } from './reel';

describe('Reel', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<ReelPage>;
  let page: HTMLElement;
  let reports: Subject<ExportReport>;
  let cancelled: number;
  let requests: ExportRequest[];
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
    while (fixture.componentInstance.time() <= 0.1 && performance.now() - began < 20_000)
      await new Promise((done) => setTimeout(done, 20));
    await fixture.whenStable();
    button('Pause')!.click();
    await fixture.whenStable();
    const time = fixture.componentInstance.time();
    expect(time).toBeGreaterThan(0.1);
    await new Promise((done) => setTimeout(done, 80));
    expect(fixture.componentInstance.time()).toBe(time);
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
    const long = fixture.componentInstance.timeline().duration;
    fixture.componentInstance.setPace('slow');
    expect(fixture.componentInstance.timeline().duration).toBeGreaterThan(long);
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
  it('finds the caption font of the page', () => {
    expect(captionFontUrl()).toMatch(/atkinson.*latin.*\.woff2/);
  });
  it('says where the demonstration comes from when there are no steps', async () => {
    bench.knot.update((k) => ({ ...k, method: { ...k.method, halts: [] } }));
    await fixture.whenStable();
    expect(page.textContent).toContain('There is nothing to play yet');
  });
});
