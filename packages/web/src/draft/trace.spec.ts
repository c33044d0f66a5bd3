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
