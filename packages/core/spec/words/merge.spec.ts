import {
  disputesOf,
  mergeGlossary,
  preferredLabel,
  readGlossaryCsv,
  RESOLUTIONS,
  sameName,
  SHIPPED_GLOSSARY,
  WORKSHOP_CHOICE,
  type Glossary,
  type Resolution,
} from '../../src/index.js';

const CSV = `concept,kind,school,status,name,definition
tail,part of a rope,Workshop,preferred,stray end,
kite-tail,part of a rope,Workshop,preferred,tail,The ribbon a kite flies with.
bight,shape,Workshop,also used,doubling,
bight,shape,Workshop,preferred,bight,
`;
const incoming = readGlossaryCsv(CSV);
const word = (g: Glossary, id: string): string | undefined =>
  preferredLabel(
    g.concepts.find((c) => c.id === id)!,
    'workshop',
  )?.text;
const statusOf = (g: Glossary, id: string, text: string): string | undefined =>
  g.concepts.find((c) => c.id === id)?.labels.find((l) => l.school === 'workshop' && l.text === text)?.status;

describe('Merging glossaries', () => {
  it('tells what is new, what is the same and where names collide, and leaves collisions out until they are decided', () => {
    const { report, decided, glossary } = mergeGlossary(SHIPPED_GLOSSARY, incoming);
    expect(decided).toBeFalse();
    expect(report.collisions.map((c) => [c.kind, c.theirs])).toEqual([
      ['two preferred', 'stray end'],
      ['one name for two things', 'tail'],
    ]);
    expect(report.same).toBe(1);
    expect(report.added.map((a) => a.what)).toEqual(['The concept “tail”', '“doubling”, also used in Workshop']);
    expect(word(glossary, 'tail')).toBe('tail');
    expect(glossary.concepts.some((c) => c.id === 'kite-tail')).toBeFalse();
  });

  it('does about a collision what its answer says', () => {
    const { report } = mergeGlossary(SHIPPED_GLOSSARY, incoming);
    const [two, one] = report.collisions;
    const answered = (a: Resolution, b: Resolution): Glossary => {
      const merged = mergeGlossary(SHIPPED_GLOSSARY, incoming, { [two!.key]: a, [one!.key]: b });
      expect(merged.decided).toBeTrue();
      return merged.glossary;
    };
    const ours = answered('keep ours', 'keep ours');
    expect(word(ours, 'tail')).toBe('tail');
    // What comes in with no name of its own left does not come in, and that is told.
    expect(ours.concepts.some((c) => c.id === 'kite-tail')).toBeFalse();
    const answers = { [two!.key]: 'keep ours', [one!.key]: 'keep ours' } as const;
    expect(mergeGlossary(SHIPPED_GLOSSARY, incoming, answers).report.refused.map((r) => r.place)).toEqual([
      'kite-tail',
    ]);
    const theirs = answered('take theirs', 'take theirs');
    expect([word(theirs, 'tail'), statusOf(theirs, 'tail', 'tail'), word(theirs, 'kite-tail')]).toEqual([
      'stray end',
      'also used',
      'tail',
    ]);
    const both = answered('keep both', 'keep both');
    expect([word(both, 'tail'), statusOf(both, 'tail', 'stray end'), word(both, 'kite-tail')]).toEqual([
      'tail',
      'also used',
      'tail',
    ]);
    // A name for two things is what the disputes tell of.
    const names = disputesOf(both, WORKSHOP_CHOICE).homonyms;
    expect(names.find((h) => h.name === 'tail')?.meanings.map((m) => m.concept)).toEqual(['tail', 'kite-tail']);
  });

  it('whatever is answered: no school prefers two names for one thing, nothing that was there is lost, and a second time changes nothing', () => {
    const { report } = mergeGlossary(SHIPPED_GLOSSARY, incoming);
    for (const a of RESOLUTIONS)
      for (const b of RESOLUTIONS) {
        const answers = { [report.collisions[0]!.key]: a, [report.collisions[1]!.key]: b };
        const { glossary } = mergeGlossary(SHIPPED_GLOSSARY, incoming, answers);
        for (const c of glossary.concepts)
          for (const s of glossary.schools)
            expect(c.labels.filter((l) => l.school === s.id && l.status === 'preferred').length).toBeLessThan(2);
        for (const c of SHIPPED_GLOSSARY.concepts)
          for (const l of c.labels)
            expect(
              glossary.concepts
                .find((x) => x.id === c.id)
                ?.labels.some((x) => x.school === l.school && sameName(x.text) === sameName(l.text)),
            ).toBeTrue();
        const again = mergeGlossary(glossary, { glossary, refused: [] });
        expect([again.report.added, again.report.changed, again.report.collisions]).toEqual([[], [], []]);
        expect(again.glossary).toEqual(glossary);
      }
  });
});

describe('Names in dispute', () => {
  it('are those that name two things, and the things that schools call otherwise', () => {
    const { homonyms, rivalries } = disputesOf(SHIPPED_GLOSSARY, WORKSHOP_CHOICE);
    const bitter = homonyms.find((h) => h.name === 'bitter end')!;
    expect(bitter.meanings.map((m) => m.concept).sort()).toEqual(['bitter-end', 'working-end']);
    expect(
      bitter.meanings.find((m) => m.concept === 'working-end')!.sayings.every((s) => s.status === 'discouraged'),
    ).toBeTrue();
    const end = rivalries.find((r) => r.concept === 'working-end')!;
    expect(end.called).toBe('working end');
    expect(end.preferred.map((p) => p.name)).toEqual(['running end', 'working end', 'free end', 'working end']);
    // A verb is not taken for the thing it makes.
    expect(homonyms.map((h) => h.name)).not.toContain('hitch');
    // Where all schools agree there is no dispute.
    expect(
      rivalries.some((r) => r.concept === 'elbow' && new Set(r.preferred.map((p) => p.name)).size < 2),
    ).toBeFalse();
    expect(rivalries.find((r) => r.concept === 'ring')).toBeUndefined();
  });

  it('take in the knots of a library: a name that is another knot’s is told of, its own is not', () => {
    const { homonyms } = disputesOf(SHIPPED_GLOSSARY, WORKSHOP_CHOICE, [
      { id: '1', name: 'Yard hitch', aliases: ['Coil'] },
      { id: '2', name: 'Yard hitch', aliases: [] },
      { id: '3', name: 'Bight', aliases: [], concept: 'bight' },
    ]);
    expect(homonyms.filter((h) => h.ofKnots).map((h) => [h.name, h.meanings.length])).toEqual([
      ['coil', 2],
      ['Yard hitch', 2],
    ]);
  });
});
