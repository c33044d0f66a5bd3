import { TestBed } from '@angular/core/testing';
import { finishedFigure, type Method } from '@foxtrail/core';
import { standInTake } from '@foxtrail/core/reel';
import { patternOf } from '@foxtrail/pattern-book';
import { Icons } from '../ui/icons';
import { FRAME, StandInPainter } from './stand-in';
import { RecordFilm } from './record';
import { cameraTrouble, Recorder } from './recorder';

const method: Method = patternOf('overhand')!.knot.method;
const until = async (there: () => unknown): Promise<void> => {
  for (let k = 0; k < 500 && !there(); k += 1) await new Promise((done) => setTimeout(done, 20));
};

describe('recording', () => {
  /** Something that moves, as a camera sees it. */
  const moving = (): { stream: MediaStream; stop: () => void } => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [160, 90];
    const context = canvas.getContext('2d')!;
    const timer = setInterval(() => {
      context.fillStyle = `hsl(${performance.now() % 360} 60% 50%)`;
      context.fillRect(0, 0, 160, 90);
    }, 40);
    return { stream: canvas.captureStream(25), stop: () => clearInterval(timer) };
  };
  const recorder = (): Recorder => TestBed.configureTestingModule({ providers: [Recorder] }).inject(Recorder);

  it('makes a film that says how long it is', async () => {
    const { stream, stop } = moving();
    const own = recorder();
    const film = own.record(stream);
    await new Promise((done) => setTimeout(done, 1200));
    own.stop();
    const blob = await film;
    stop();
    expect(blob?.type).toBe('video/webm');
    expect(own.state().kind).toBe('off');
    const video = document.createElement('video');
    video.src = URL.createObjectURL(blob!);
    await new Promise((done) => (video.onloadedmetadata = done));
    expect(video.duration).toBeGreaterThan(0.5);
    expect(video.duration).toBeLessThan(6);
  });

  it('makes none of what is thrown away', async () => {
    const { stream, stop } = moving();
    const own = recorder();
    const film = own.record(stream);
    own.abandon();
    stop();
    expect(await film).toBeUndefined();
    expect(own.state().kind).toBe('off');
  });

  it('says what is wrong with a camera, and what to do', () => {
    for (const [name, said] of [
      ['NotAllowedError', 'Allow it in the browser’s settings'],
      ['NotFoundError', 'Connect it'],
      ['NotReadableError', 'Close it there'],
      ['TypeError', 'over HTTPS'],
    ] as const)
      expect(cameraTrouble(new DOMException('', name))).toContain(said);
  });
});

describe('the stand-in camera', () => {
  beforeEach(() => void TestBed.inject(Icons));

  const painted = (wishes: Parameters<typeof standInTake>[1], time: number): Uint8ClampedArray => {
    const canvas = new OffscreenCanvas(FRAME.width, FRAME.height);
    const context = canvas.getContext('2d')!;
    const take = standInTake(method, wishes);
    new StandInPainter(take).paint(context, time * take.duration);
    return context.getImageData(0, 0, FRAME.width, FRAME.height).data;
  };
  const differ = (a: Uint8ClampedArray, b: Uint8ClampedArray): number =>
    a.reduce((sum, v, i) => sum + (Math.abs(v - b[i]!) > 40 ? 1 : 0), 0) / a.length;

  it('paints the same frame each time, another as the tying goes on, and another of a mirrored or a wrong knot', () => {
    const last = painted({}, 1);
    expect(differ(last, painted({}, 1))).toBe(0);
    for (const other of [painted({}, 0.3), painted({ mirrored: true }, 1), painted({ wrong: 2 }, 1)])
      expect(differ(last, other)).toBeGreaterThan(0.001);
  });

  it('is there where there is no camera, and says that it is simulated', async () => {
    const fixture = TestBed.createComponent(RecordFilm);
    fixture.componentRef.setInput('method', method);
    fixture.componentRef.setInput('name', 'Take 1');
    const films: File[] = [];
    fixture.componentInstance.taken.subscribe((film) => films.push(film));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.textContent).toContain('The stand-in camera is simulated');
    const button = (name: string): HTMLButtonElement | undefined =>
      [...page.querySelectorAll('button')].find((b) => b.textContent.includes(name));
    await until(() => button('Record')?.disabled === false);
    button('Record')?.click();
    await until(() => button('Stop and keep it'));
    await new Promise((done) => setTimeout(done, 900));
    button('Stop and keep it')?.click();
    await until(() => films.length > 0);
    expect([films[0]?.name, films[0]?.type]).toEqual(['Take 1.webm', 'video/webm']);
    expect(films[0]!.size).toBeGreaterThan(5000);
    fixture.destroy();
  });

  it('offers every crossing of the knot to be laid the other way', () => {
    expect(finishedFigure(method).ropes.length).toBe(1);
    const fixture = TestBed.createComponent(RecordFilm);
    fixture.componentRef.setInput('method', method);
    fixture.componentRef.setInput('name', 'Take 1');
    fixture.detectChanges();
    expect(
      (fixture.componentInstance as unknown as { crossings(): { value: number }[] }).crossings().map((c) => c.value),
    ).toEqual([1, 2, 3]);
    fixture.destroy();
  });
});
