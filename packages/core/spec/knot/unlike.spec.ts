import { readKnot, whatDiffers, writeKnot, type KnotDocument } from '../../src/index.js';
import { composeReel } from '../../src/reel/index.js';
import { WORKSHOP_WORDS } from '../../src/index.js';
import { drawnFiles, drawnKnot, edited } from '../support/figures.js';

describe('what differs between two versions of a knot', () => {
  const knot = drawnKnot('bowline.json');
  const edit = (e: Parameters<typeof edited>[1], layout = 0): KnotDocument => ({
    ...knot,
    method: edited(knot.method, e, layout),
  });
  const { method, name } = knot;
  const reel = composeReel({ method, name, words: WORKSHOP_WORDS, pace: 'normal' }, 'reminder');
  const reeled = edit({ kind: 'set-reels', reels: [reel] });

  it('is nothing for a knot as it is written and read again, in whatever order', () => {
    for (const file of drawnFiles) {
      const one = drawnKnot(file);
      const written = JSON.stringify(writeKnot(one));
      const again = readKnot(JSON.parse(written));
      expect(again.ok && whatDiffers(one, again.value)).toEqual([]);
      const turned = readKnot(
        JSON.parse(written, (_key, value: unknown) =>
          typeof value === 'object' && value !== null && !Array.isArray(value)
            ? Object.fromEntries(Object.entries(value).reverse())
            : value,
        ),
      );
      expect(turned.ok && whatDiffers(turned.value, one)).toEqual([]);
    }
  });
  it('is named by what its author has changed', () => {
    const cases: readonly (readonly [KnotDocument, readonly string[]])[] = [
      [edit({ kind: 'set-text', index: 0, text: 'Otherwise.' }), ['the steps']],
      [{ ...knot, entry: { ...knot.entry, summary: 'Otherwise.' } }, ['the entry']],
      [{ ...knot, name: 'Otherwise' }, ['the entry']],
      [{ ...knot, others: [{ name: 'Otherwise', method }] }, ['the other ways to tie it']],
      [reeled, ['the reel “Reminder”, only in yours']],
    ];
    for (const [mine, says] of cases) expect(whatDiffers(mine, knot)).toEqual(says);
    expect(whatDiffers(knot, reeled)).toEqual(['the reel “Reminder”, only in the saved one']);
    const shorter = edit({ kind: 'set-reels', reels: [{ ...reel, scenes: reel.scenes.slice(1) }] });
    expect(whatDiffers(shorter, reeled)).toEqual(['the reel “Reminder”']);
    const [rope] = knot.method.figure.ropes;
    const points = rope!.points.map(([x, y]) => [x + 1, y] as const);
    const moved = { ...knot, method: { ...method, figure: { ...method.figure, ropes: [{ ...rope!, points }] } } };
    expect(whatDiffers(moved, knot)).toEqual(['the drawing']);
  });
});
