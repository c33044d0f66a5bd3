import fc from 'fast-check';
import { cutTo } from '../../src/index.js';

describe('a text cut to a length', () => {
  it('is its beginning, no longer than is asked, and ends after a whole character', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('a', 'é', 'e\u0301', '🪢', '👩‍🚒', ' ', 'ż', '\u{1F1F5}\u{1F1F1}'), { maxLength: 40 }),
        fc.nat(60),
        (letters, most) => {
          const text = letters.join('');
          const cut = cutTo(text, most);
          expect(cut.length).toBeLessThanOrEqual(Math.max(most, 0));
          expect(text.startsWith(cut)).toBeTrue();
          expect(cut).not.toMatch(/\p{Surrogate}/u);
          // What was left of it begins with a whole character, too.
          const whole = [...new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(text)].map(
            (s) => s.index,
          );
          if (text.length > most)
            expect([...whole, text.length]).toContain(
              cut.length + (/^\s*/.exec(text.slice(cut.length))?.[0].length ?? 0),
            );
          else expect(cut).toBe(text);
        },
      ),
    );
  });
});
