import { foldedLinks, neighboursOf, standingOf, type KinLink } from '../../src/index.js';

const link = (from: string, to: string, more: Partial<KinLink> = {}): KinLink => ({
  id: `${from} ${to}`,
  from,
  to,
  kind: 'one more turn',
  turns: 1,
  proof: { state: 'proved', compared: '' },
  judged: null,
  ...more,
});

describe('The graph of kin', () => {
  it('puts a knot in the place of the pattern it stands for, and says nothing twice', () => {
    const folded = foldedLinks(
      [link('pattern:a', 'pattern:b'), link('knot:1', 'pattern:b', { id: 'own' }), link('pattern:b', 'pattern:c')],
      new Map([['pattern:a', 'knot:1']]),
    );
    expect(folded.map((l) => `${l.from} ${l.to}`).sort()).toEqual(['knot:1 pattern:b', 'pattern:b pattern:c']);
    expect(folded.find((l) => l.from === 'knot:1')?.id).toBe('own');
  });

  it('drops a relation whose ends fold into one knot', () => {
    expect(foldedLinks([link('pattern:a', 'knot:1')], new Map([['pattern:a', 'knot:1']]))).toEqual([]);
  });

  it('shows neighbours both ways, with the difference seen from each, the proved ones first', () => {
    const links = [
      link('b', 'c', { proof: { state: 'refuted', compared: '' } }),
      link('a', 'b'),
      link('b', 'd', { proof: null }),
    ];
    expect(neighboursOf(links, 'b').map((n) => [n.ref, n.difference])).toEqual([
      ['a', 'one turn less'],
      ['d', 'one more turn'],
      ['c', 'one more turn'],
    ]);
    expect(neighboursOf(links, 'a').map((n) => n.difference)).toEqual(['one more turn']);
  });

  it('holds a judgement where the core leaves it open, and never against a refutation', () => {
    const judged = { by: 'A', why: 'so it is' };
    expect(standingOf(link('a', 'b', { proof: { state: 'open', compared: '' }, judged }))).toBe('judged');
    expect(standingOf(link('a', 'b', { proof: { state: 'refuted', compared: '' }, judged }))).toBe('refuted');
    expect(standingOf(link('a', 'b', { proof: null, judged }))).toBe('waiting');
  });
});
