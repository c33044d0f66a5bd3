import { TestBed } from '@angular/core/testing';
import { blankKnot, gaussText, methodFor, readKnot, writeKnot } from '@foxtrail/core';
import { PlacingService } from './placing';
import { overhand } from '../testing/knots';

describe('laying figures anew in the worker', () => {
  let layout: PlacingService;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [PlacingService] });
    layout = TestBed.inject(PlacingService);
  });
  const document = writeKnot({ ...blankKnot('Tidied'), method: methodFor(overhand().method.figure) });

  for (const way of ['settle', 'tidy', 'tighten'] as const)
    it(`lays a figure anew (${way}), showing it on its way, and keeps the code`, async () => {
      let pictures = 0;
      const done = await layout.lay(document, way, () => (pictures += 1));
      const before = readKnot(document);
      if (!done?.ok || !before.ok) throw new Error('not laid anew');
      expect(pictures).toBeGreaterThan(2);
      expect(gaussText(done.value.figure)).toBe(gaussText(before.value.method.figure));
      expect(layout.share()).toBeUndefined();
    });
  it('stops at once when cancelled', async () => {
    const work = layout.lay(document, 'tidy', () => undefined);
    layout.cancel();
    expect(await work).toBeUndefined();
    expect(layout.share()).toBeUndefined();
  });
  it('reads a code, and refuses what is none', async () => {
    const read = await layout.read('O1- U2- O3- U1- O2- U3-', 'Trefoil');
    expect(read?.ok && read.value.document.ropes.length).toBe(1);
    const bad = await layout.read('what is this', 'No');
    expect(bad?.ok).toBeFalse();
    expect(bad?.ok === false ? bad.reason : '').toContain('neither');
  });
});
