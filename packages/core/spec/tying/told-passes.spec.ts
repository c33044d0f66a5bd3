import { readTold } from '../../src/tying/told-passes.js';

/** What is told, in short: over or under and the part. */
const told = (text: string): string =>
  readTold(text)
    .moves.map((m) =>
      m.kind === 'passes'
        ? m.passes.map((p) => `${p.over ? 'O' : 'U'} ${p.what ?? 'its lead'}`).join(', ')
        : m.kind === 'follow'
          ? `beside ${m.what}${m.back ? ', back' : ''}`
          : 'laid',
    )
    .join('; ');

describe('A text taken apart', () => {
  it('tells each passage by its part, in order', () => {
    const cases: Readonly<Record<string, string>> = {
      'Take the working end over the standing part to make an overhand loop.': 'O the standing part',
      'Bring the working end back down through the loop.': 'O the loop, U the loop',
      'Make a half hitch round the standing part: over it, round behind it, and out over its own part.':
        'O the standing part, U the standing part, O its lead',
      'Make a round turn on the spar with the working end, first behind it, working to the left.':
        'U the spar, O the spar, U the spar, O the spar',
      'Take the end behind the spar and back over it, then under the first turn.':
        'U the spar, O the spar; U the first turn',
      'Take the working end twice round the standing part, first over it, and out to the left.':
        'O the standing part, U the standing part, O the standing part, U the standing part',
      'Take the working end three times up through the loop, each turn beside the last.':
        'U the loop, O the loop, U the loop, O the loop, U the loop, O the loop',
      'Take it over the near leg of the bight and under the far one.': 'O the bight, U the bight',
      'Take the working end across the bight but under the standing part.':
        'O the bight, U the standing part, O the bight',
      'Follow the pale rope back with the working end of the dark rope, beside it all the way.':
        'beside the pale rope, back',
      'Take the working end of the dark rope under the pale rope, then twice round both ropes and out through its own turns.':
        'U the pale rope; O both ropes, O both ropes, U both ropes, U both ropes, O both ropes, O both ropes, U both ropes, U both ropes, O its lead',
    };
    for (const [text, parts] of Object.entries(cases)) {
      expect(told(text)).withContext(text).toBe(parts);
      expect(readTold(text).stopped).withContext(text).toBeUndefined();
    }
  });

  it('is read as far as it goes, and says from where it is not understood', () => {
    const read = readTold('Take the working end over the spar, and then whistle twice.');
    expect(read.moves.length).toBe(1);
    expect(read.stopped).toBe('whistle twice.');
    expect(readTold('').moves).toEqual([]);
    expect(readTold('Nichts davon.').stopped).toBe('Nichts davon.');
  });

  it('tells where each move stands in it', () => {
    const text = 'Take the end over the spar, then under the standing part.';
    expect(readTold(text).places.map(({ from, to }) => text.slice(from, to))).toEqual([
      'over the spar',
      'under the standing part',
    ]);
  });
});
