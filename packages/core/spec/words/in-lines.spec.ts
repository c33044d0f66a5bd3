import { inLines } from '@foxtrail/core';
import fc from 'fast-check';

describe('A text in lines', () => {
  it('keeps every word in its order, no line longer than asked but for one long word, and none that could take the next word', () => {
    const word = fc.string({ minLength: 1, maxLength: 12, unit: fc.constantFrom('a', 'b', 'é', '“') });
    fc.assert(
      fc.property(fc.array(word), fc.integer({ min: 1, max: 30 }), (words, most) => {
        const lines = inLines(words.join('  '), most);
        expect(lines.join(' ')).toBe(words.join(' '));
        for (const line of lines) expect(line.length <= most || !line.includes(' ')).toBeTrue();
        lines
          .slice(1)
          .forEach((line, i) => expect(lines[i]!.length + 1 + line.split(' ')[0]!.length).toBeGreaterThan(most));
      }),
    );
  });

  it('is no line where there is no word', () => {
    expect(inLines('   ', 10)).toEqual([]);
  });
});
