import fc from 'fast-check';
import oxigraph from 'oxigraph';
import Papa from 'papaparse';
import { readJsonLd, readTurtle, toJsonLd, toTurtle } from '../../src/formats/skos.js';
import {
  CONCEPT_KINDS,
  conceptSchema,
  GLOSSARY_LIMITS,
  LABEL_STATUSES,
  mergeGlossary,
  NO_WORDS,
  readGlossaryCsv,
  SHIPPED_GLOSSARY,
  toGlossaryCsv,
  type Concept,
  type Glossary,
  type Incoming,
} from '../../src/index.js';

const SKOS = 'http://www.w3.org/2004/02/skos/core#';

/** A glossary whatever its order: concepts, links and names sorted. */
const plain = ({ schools, concepts }: Glossary): unknown => ({
  schools: [...schools].map((s) => s.id).sort(),
  concepts: [...concepts]
    .map((c) => ({
      ...c,
      notes: c.notes,
      broader: [...c.broader].sort(),
      related: [
        ...new Set([...c.related, ...concepts.filter((o) => o.related.includes(c.id)).map((o) => o.id)]),
      ].sort(),
      labels: c.labels
        .map(({ school, status, text, reason, everyday }) =>
          JSON.stringify([school, status, text, reason ?? '', everyday === true]),
        )
        .sort(),
    }))
    .sort((a, b) => a.id.localeCompare(b.id)),
});

const word = fc.stringMatching(/^[a-zé][a-zé’"&,;| =-]{0,14}[a-z]$/);
const glossaries: fc.Arbitrary<Glossary> = fc
  .uniqueArray(fc.stringMatching(/^[a-z]{2,8}$/), { minLength: 1, maxLength: 5 })
  .chain((ids) =>
    fc
      .tuple(
        ...ids.map((id) =>
          fc.record({
            id: fc.constant(id),
            kind: fc.constantFrom(...CONCEPT_KINDS),
            definition: word,
            broader: fc.subarray(ids.filter((x) => x < id)),
            related: fc.constant<string[]>([]),
            labels: fc
              .uniqueArray(
                fc.record({
                  school: fc.constantFrom<string | null>('left', 'right', null),
                  status: fc.constantFrom(...LABEL_STATUSES),
                  text: word,
                  reason: fc.option(word, { nil: undefined }),
                }),
                { minLength: 1, maxLength: 6, selector: (l) => `${l.school} ${l.text.replace(/[\s-]+/g, ' ')}` },
              )
              .map((labels) => labels.map((l) => (l.school === null ? { ...l, status: 'misheard' as const } : l))),
          }),
        ),
      )
      .map((concepts) => ({
        schools: [
          { id: 'left', name: 'Left', note: '' },
          { id: 'right', name: 'Right', note: '' },
        ],
        concepts: (concepts as Concept[]).filter((c) => conceptSchema.safeParse(c).success),
      }))
      .filter((g) => g.concepts.length > 0),
  );

const read = (incoming: Incoming): Glossary => {
  expect(incoming.refused).toEqual([]);
  return incoming.glossary;
};

describe('Glossary files', () => {
  it('the shipped glossary comes back whole from Turtle, JSON-LD and CSV', async () => {
    const turtle = read(readTurtle(await toTurtle(SHIPPED_GLOSSARY)));
    const json = read(await readJsonLd(await toJsonLd(SHIPPED_GLOSSARY)));
    const csv = read(readGlossaryCsv(toGlossaryCsv(SHIPPED_GLOSSARY)));
    for (const back of [turtle, json]) expect(plain(back)).toEqual(plain(SHIPPED_GLOSSARY));
    const { report } = mergeGlossary(SHIPPED_GLOSSARY, { glossary: csv, refused: [] });
    expect([report.added, report.changed, report.collisions]).toEqual([[], [], []]);
    expect(report.same).toBe(SHIPPED_GLOSSARY.concepts.flatMap((c) => c.labels).length);
  });

  it('any glossary comes back whole from SKOS', async () => {
    await fc.assert(
      fc.asyncProperty(glossaries, async (glossary) => {
        expect(plain(read(readTurtle(await toTurtle(glossary))))).toEqual(plain(glossary));
        expect(plain(read(await readJsonLd(await toJsonLd(glossary))))).toEqual(plain(glossary));
      }),
      { numRuns: 25 },
    );
  });

  it('any names come back from CSV, formulas, quotes and commas too', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('', '=', '+', '-', '@'), word), { minLength: 1, maxLength: 5 }),
        (names) => {
          const labels = [...new Set(names.map(([mark, w]) => mark + w))].map((text, i) => ({
            school: 'left',
            status: i === 0 ? ('preferred' as const) : ('also used' as const),
            text,
          }));
          const concept: Concept = {
            id: 'thing',
            kind: 'shape',
            definition: 'A “thing”, so to say.',
            broader: [],
            related: [],
            labels,
          };
          const csv = toGlossaryCsv({ schools: [{ id: 'left', name: 'Left', note: '' }], concepts: [concept] });
          expect(read(readGlossaryCsv(csv)).concepts).toEqual([concept]);
          // No cell is a formula to a spreadsheet.
          for (const cell of Papa.parse<string[]>(csv, { delimiter: ',' }).data[1]!)
            expect(cell).not.toMatch(/^[=+@-]/);
        },
      ),
    );
  });

  it('an RDF library that did not write them reads the same triples in both files, and they keep SKOS’s rules', async () => {
    const { Store, namedNode } = oxigraph;
    const [turtle, json] = [new Store(), new Store()];
    turtle.load(await toTurtle(SHIPPED_GLOSSARY), { format: 'text/turtle' });
    json.load(await toJsonLd(SHIPPED_GLOSSARY), { format: 'application/ld+json' });
    const named = (store: InstanceType<typeof Store>): string[] =>
      store
        .match()
        .filter((q) => q.subject.termType !== 'BlankNode' && q.object.termType !== 'BlankNode')
        .map(String)
        .sort();
    expect(named(turtle)).toEqual(named(json));
    expect(turtle.size).toBe(json.size);
    const ask = (query: string): boolean => turtle.query(`PREFIX skos: <${SKOS}> ${query}`) as boolean;
    // Integrity conditions S13, S14 and S46 of the SKOS reference.
    expect(ask('ASK { ?c skos:prefLabel ?l . ?c skos:altLabel ?l }')).toBeFalse();
    expect(ask('ASK { ?c skos:prefLabel ?l . ?c skos:hiddenLabel ?l }')).toBeFalse();
    expect(ask('ASK { ?c skos:prefLabel ?a , ?b . FILTER(?a != ?b && lang(?a) = lang(?b)) }')).toBeFalse();
    expect(ask('ASK { ?a skos:exactMatch ?b . ?a skos:broadMatch ?b }')).toBeFalse();
    expect(ask('ASK { ?c skos:broader+ ?c }')).toBeFalse();
    const concepts = turtle.match(null, namedNode(`${SKOS}definition`), null, null);
    expect(concepts.length).toBe(SHIPPED_GLOSSARY.concepts.length);
  });

  it('one school can be written by itself', async () => {
    const camp = read(readTurtle(await toTurtle(SHIPPED_GLOSSARY, 'camp')));
    expect(camp.schools.map((s) => s.id)).toEqual(['camp']);
    expect(new Set(camp.concepts.flatMap((c) => c.labels.map((l) => l.school)))).toEqual(new Set(['camp', null]));
  });

  it('reads a foreign thesaurus: its scheme is a school, its concepts are matched by their names', () => {
    const text = `@prefix skos: <${SKOS}>. @prefix x: <urn:x:>. @prefix dct: <http://purl.org/dc/terms/>.
      x:harbour a skos:ConceptScheme; dct:title "Harbour"@en.
      x:1 a skos:Concept; skos:topConceptOf x:harbour; skos:prefLabel "bight"@en, "Bucht"@de; skos:altLabel "slack middle"@en.
      x:2 a skos:Concept; skos:inScheme x:harbour; skos:prefLabel "long splice"@en; skos:definition "A splice no thicker than the rope."; skos:broader x:1.`;
    const incoming = readTurtle(text);
    expect(incoming.refused.map((r) => r.reason)).toEqual([jasmine.stringContaining('“de”')]);
    const { glossary, report } = mergeGlossary(SHIPPED_GLOSSARY, incoming);
    expect(report.added.map((a) => a.what)).toContain('The school Harbour');
    const bight = glossary.concepts.find((c) => c.id === 'bight')!;
    expect(bight.labels.filter((l) => l.school === 'harbour').map((l) => `${l.status} ${l.text}`)).toEqual([
      'preferred bight',
      'also used slack middle',
    ]);
    expect(glossary.concepts.find((c) => c.id === 'long-splice')!.broader).toEqual(['bight']);
  });

  it('refuses what cannot be read, with its place, and takes the rest', async () => {
    expect(readTurtle('<a> <b>\n <c> ; ; nonsense').refused[0]!.place).toBe('line 2');
    expect((await readJsonLd('{')).refused[0]!.reason).toContain('not JSON');
    const fetched = await readJsonLd('{"@context": "https://example.org/context", "@id": "urn:x"}');
    expect(fetched.refused[0]!.reason).toContain('not in the file');
    expect(readGlossaryCsv('a,b\n1,2').refused[0]!.place).toBe('line 1');
    const { refused, glossary } = readGlossaryCsv(
      `concept,school,status,name\nbight,Loft,preferred,bight\n,Loft,preferred,x\nbight,Loft,liked,y\nbight,,preferred,z\nbight,Loft,also used,${'n'.repeat(GLOSSARY_LIMITS.label + 1)}`,
    );
    expect(refused.map((r) => r.place)).toEqual(['line 3', 'line 4', 'line 5', 'line 6']);
    expect(glossary.concepts[0]!.labels.map((l) => l.text)).toEqual(['bight']);
    expect(readTurtle('').refused[0]!.reason).toContain('no SKOS concepts');
    expect(mergeGlossary(NO_WORDS, { glossary: NO_WORDS, refused }).report.refused).toEqual([...refused]);
  });
});

describe('A glossary of one school only', () => {
  it('as CSV has its names and those of no school, and the whole one has all', () => {
    const rows = (text: string): { school: string; label: string }[] =>
      Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data.map((r) => ({
        school: r.school ?? '',
        label: Object.values(r).join('|'),
      }));
    const labels = (school?: string): number =>
      SHIPPED_GLOSSARY.concepts
        .flatMap((c) => c.labels)
        .filter((l) => school === undefined || l.school === school || l.school === null).length;
    for (const { id, name } of SHIPPED_GLOSSARY.schools) {
      const own = rows(toGlossaryCsv(SHIPPED_GLOSSARY, id));
      expect(new Set(own.map((r) => r.school).filter((x) => x !== ''))).toEqual(new Set([name]));
      expect(own.length).toBe(labels(id));
    }
    expect(rows(toGlossaryCsv(SHIPPED_GLOSSARY)).length).toBe(labels());
    expect(labels()).toBeGreaterThan(labels(SHIPPED_GLOSSARY.schools[0]!.id));
  });
});
