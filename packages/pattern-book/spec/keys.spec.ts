import { KEYS } from '../src/keys.js';
import { keysOfPatterns } from '../src/keys-computed.js';
import { patternKeys, patterns } from '../src/index.js';

describe('The keys that are shipped', () => {
  it('are those of the figures: a change of the signature’s conventions is noticed here, and stored keys are counted anew', () => {
    expect(KEYS).withContext('npm run keys writes them anew').toEqual(keysOfPatterns());
  });
  it('find every pattern by its own name', () => {
    const book = patternKeys();
    expect(book.entries.map((e) => e.id)).toEqual(patterns().map((p) => p.id));
    for (const p of patterns())
      expect(book.named((KEYS[p.id] ?? { key: '' }).key).map((m) => m.name)).toContain(p.knot.name);
  });
});
