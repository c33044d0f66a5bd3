import { BufferTarget, Output, Quality, VideoSample, VideoSampleSource, WebMOutputFormat } from 'mediabunny';
import { TestBed } from '@angular/core/testing';
import { TraceService } from './trace';

describe('a picture under the board', () => {
  let trace: TraceService;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [TraceService] });
    trace = TestBed.inject(TraceService);
  });
  async function picture(width: number, height: number, kind = 'image/png'): Promise<File> {
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, kind));
    return new File([blob!], 'knot.png', { type: kind });
  }
  it('lies in the middle of what is in view, in its own proportions', async () => {
    expect(await trace.lay(await picture(200, 100), [-20, -20, 20, 20])).toBe('');
    expect(trace.shown()!.box).toEqual([-20, -10, 20, 10]);
    expect(trace.transform()).toBeNull();
    trace.mirrored.set(true);
    expect(trace.transform()).toBe('translate(0 0) scale(-1 1)');
    trace.remove();
    expect(trace.shown()).toBeUndefined();
  });
  it('is refused with the reason when it is no picture, or too large; the one before stays', async () => {
    await trace.lay(await picture(20, 20), [0, 0, 10, 10]);
    const view = [0, 0, 10, 10] as const;
    expect(await trace.lay(new File(['x'], 'words.txt', { type: 'text/plain' }), view)).toContain('not a PNG');
    expect(await trace.lay(new File(['not a picture'], 'x.png', { type: 'image/png' }), view)).toContain(
      'cannot be read',
    );
    expect(await trace.lay(new File([new Uint8Array(26e6)], 'huge.png', { type: 'image/png' }), view)).toContain(
      '26 MB',
    );
    expect(trace.shown()!.name).toBe('knot.png');
  });
});

describe('a picture that is traced', () => {
  const make = (): TraceService => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: [TraceService] });
    return TestBed.inject(TraceService);
  };
  const drawn = (colour: string): HTMLCanvasElement => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [64, 32];
    const context = canvas.getContext('2d')!;
    context.fillStyle = colour;
    context.fillRect(0, 0, 64, 32);
    return canvas;
  };
  const colourOf = async (url: string): Promise<readonly number[]> => {
    const image = new Image();
    image.src = url;
    await image.decode();
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [4, 4];
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0, 4, 4);
    return [...context.getImageData(1, 1, 1, 1).data].slice(0, 3);
  };
  /** A clip of half a second of red, then as much of blue. */
  async function clip(): Promise<File> {
    const source = new VideoSampleSource({ codec: 'vp8', quality: new Quality({ bitrate: 500_000 }) });
    const target = new BufferTarget();
    const output = new Output({ format: new WebMOutputFormat(), target });
    output.addVideoTrack(source, { frameRate: 20 });
    await output.start();
    // Frames at stated times, however slow the machine is: red for half a second, then blue.
    const [red, blue] = [drawn('#c00000'), drawn('#0000c0')];
    for (let i = 0; i < 22; i += 1) {
      const sample = new VideoSample(i < 11 ? red : blue, { timestamp: i / 20, duration: 1 / 20 });
      await source.add(sample);
      sample.close();
    }
    await output.finalize();
    return new File([target.buffer!], 'tying.webm', { type: 'video/webm' });
  }

  it('is there again after a reload, with its strength and the way it faces; taken away it is gone', async () => {
    const trace = make();
    await trace.open('knot-1');
    const blob = await new Promise<Blob | null>((done) => drawn('#00a000').toBlob(done, 'image/png'));
    await trace.lay(new File([blob!], 'green.png', { type: 'image/png' }), [0, 0, 20, 20]);
    trace.strength.set(0.8);
    trace.mirrored.set(true);
    TestBed.tick();
    await new Promise((done) => setTimeout(done, 80));
    const again = make();
    await again.open('knot-1');
    expect(again.shown()?.name).toBe('green.png');
    expect(again.shown()?.box).toEqual([0, 5, 20, 15]);
    expect([again.strength(), again.mirrored()]).toEqual([0.8, true]);
    expect((await colourOf(again.shown()!.url))[1]).toBeGreaterThan(120);
    again.remove();
    await new Promise((done) => setTimeout(done, 80));
    const third = make();
    await third.open('knot-1');
    expect(third.shown()).toBeUndefined();
  });

  it('may be a frame of a clip, and another frame lies where the first one lay', async () => {
    const trace = make();
    expect(await trace.lay(await clip(), [0, 0, 20, 20])).toBe('');
    expect(trace.shown()!.box).toEqual([0, 5, 20, 15]);
    expect(trace.clip()).toBeDefined();
    const [red, , blue] = await colourOf(trace.shown()!.url);
    expect(red!).toBeGreaterThan(blue!);
    await trace.seek(0.9);
    const later = await colourOf(trace.shown()!.url);
    expect(later[2]!).toBeGreaterThan(later[0]!);
    expect(trace.shown()!.box).toEqual([0, 5, 20, 15]);
    expect(await trace.lay(new File(['no clip'], 'x.mp4', { type: 'video/mp4' }), [0, 0, 1, 1])).toContain(
      'cannot be played',
    );
    expect(trace.clip()).toBeDefined();
  });
});
