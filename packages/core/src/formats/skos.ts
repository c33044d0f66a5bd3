/**
 * A glossary as SKOS, in Turtle and JSON-LD. What is said of a concept by itself is in one scheme; each school is a scheme of its own, whose
 * concepts match those of the first exactly and carry the school's labels. Source: SKOS Reference, W3C Recommendation, 18 August 2009.
 *
 * Kept apart from the core's index, as its libraries are large and needed only where files are read and written.
 */
import { capital } from '../words/inflect.js';
import jsonld from 'jsonld';
import { DataFactory, Parser, Store, Writer, type Quad, type Quad_Object, type Quad_Subject } from 'n3';
import {
  CONCEPT_KINDS,
  GLOSSARY_LIMITS,
  idFrom,
  sameName,
  type Concept,
  type Glossary,
  type ConceptLabel,
  type LabelStatus,
  type School,
} from '../words/glossary.js';
import type { Incoming, RefusedLine } from '../words/merge.js';

const namedNode = (iri: string): ReturnType<typeof DataFactory.namedNode> => DataFactory.namedNode(iri);

const SKOS = 'http://www.w3.org/2004/02/skos/core#';
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const RDFS = 'http://www.w3.org/2000/01/rdf-schema#';
const DCT = 'http://purl.org/dc/terms/';
const XSD = 'http://www.w3.org/2001/XMLSchema#';
/** Terms SKOS has none for: a concept's kind, and what is said about one label. */
const FT = 'urn:foxtrail:term:';
const CONCEPT = 'urn:foxtrail:concept:';
const SCHOOL = 'urn:foxtrail:school:';
const CONCEPTS = 'urn:foxtrail:scheme:concepts';
const LANGUAGE = 'en';

const PREFIXES = { skos: SKOS, rdf: RDF, dct: DCT, xsd: XSD, ft: FT, concept: CONCEPT, school: SCHOOL };

/** The labels' statuses as SKOS has them: what is discouraged or misheard is found by a search and never shown. */
const LABEL_TERMS: Readonly<Record<LabelStatus, string>> = {
  preferred: 'prefLabel',
  'also used': 'altLabel',
  discouraged: 'hiddenLabel',
  misheard: 'hiddenLabel',
};

function toQuads({ schools, concepts }: Glossary, only?: string): Quad[] {
  const out: Quad[] = [];
  const say = (s: Quad_Subject, p: string, o: Quad_Object): void => void out.push(DataFactory.quad(s, namedNode(p), o));
  const text = (t: string): Quad_Object => DataFactory.literal(t, LANGUAGE);
  const a = `${RDF}type`;
  say(namedNode(CONCEPTS), a, namedNode(`${SKOS}ConceptScheme`));
  say(namedNode(CONCEPTS), `${DCT}title`, text('Concepts'));
  const shown = schools.filter((s) => only === undefined || s.id === only);
  for (const s of shown) {
    say(namedNode(SCHOOL + s.id), a, namedNode(`${SKOS}ConceptScheme`));
    say(namedNode(SCHOOL + s.id), `${DCT}title`, text(s.name));
    if (s.note !== '') say(namedNode(SCHOOL + s.id), `${SKOS}note`, text(s.note));
  }
  const label = (subject: Quad_Subject, l: ConceptLabel): void => {
    say(subject, SKOS + LABEL_TERMS[l.status], text(l.text));
    if (l.status !== 'discouraged' && l.reason === undefined && l.everyday !== true) return;
    const about = DataFactory.blankNode();
    say(subject, `${FT}about`, about);
    say(about, `${RDF}value`, text(l.text));
    say(about, `${FT}status`, DataFactory.literal(l.status));
    if (l.reason !== undefined) say(about, `${SKOS}note`, text(l.reason));
    if (l.everyday === true) say(about, `${FT}everyday`, DataFactory.literal('true', namedNode(`${XSD}boolean`)));
  };
  for (const c of concepts) {
    const node = namedNode(CONCEPT + c.id);
    say(node, a, namedNode(`${SKOS}Concept`));
    say(node, `${SKOS}inScheme`, namedNode(CONCEPTS));
    say(node, `${FT}kind`, DataFactory.literal(c.kind));
    if (c.definition !== '') say(node, `${SKOS}definition`, text(c.definition));
    if (c.notes !== undefined) say(node, `${SKOS}note`, text(c.notes));
    for (const b of c.broader) say(node, `${SKOS}broader`, namedNode(CONCEPT + b));
    for (const n of concepts) if (n.broader.includes(c.id)) say(node, `${SKOS}narrower`, namedNode(CONCEPT + n.id));
    for (const r of c.related) say(node, `${SKOS}related`, namedNode(CONCEPT + r));
    for (const l of c.labels) if (l.school === null) label(node, l);
    for (const s of shown) {
      const own = c.labels.filter((l) => l.school === s.id);
      if (own.length === 0) continue;
      const inSchool = namedNode(`${SCHOOL}${s.id}:${c.id}`);
      say(inSchool, a, namedNode(`${SKOS}Concept`));
      say(inSchool, `${SKOS}inScheme`, namedNode(SCHOOL + s.id));
      say(inSchool, `${SKOS}exactMatch`, node);
      for (const l of own) label(inSchool, l);
    }
  }
  return out;
}

const write = (quads: readonly Quad[], format: string, prefixes?: Record<string, string>): Promise<string> =>
  new Promise((resolve, reject) => {
    const writer = new Writer({ format, ...(prefixes ? { prefixes } : {}) });
    writer.addQuads([...quads]);
    writer.end((error: Error | null, result: string) => {
      if (error) reject(error);
      else resolve(result);
    });
  });

/** A glossary as Turtle; with a school, that school's scheme only. */
export const toTurtle = (glossary: Glossary, school?: string): Promise<string> =>
  write(toQuads(glossary, school), 'Turtle', PREFIXES);

const CONTEXT = {
  ...PREFIXES,
  broader: { '@id': 'skos:broader', '@type': '@id' },
  narrower: { '@id': 'skos:narrower', '@type': '@id' },
  related: { '@id': 'skos:related', '@type': '@id' },
  inScheme: { '@id': 'skos:inScheme', '@type': '@id' },
  exactMatch: { '@id': 'skos:exactMatch', '@type': '@id' },
} as const;

/** A glossary as JSON-LD; with a school, that school's scheme only. */
export async function toJsonLd(glossary: Glossary, school?: string): Promise<string> {
  const nquads = await write(toQuads(glossary, school), 'N-Quads');
  const expanded = await jsonld.fromRDF(nquads, { format: 'application/n-quads' });
  const compact = await jsonld.compact(expanded, CONTEXT as unknown as jsonld.ContextDefinition);
  return `${JSON.stringify(compact, null, 2)}\n`;
}

const nothing = (refused: RefusedLine): Incoming => ({ glossary: { schools: [], concepts: [] }, refused: [refused] });

/** Reads SKOS in Turtle. */
export function readTurtle(text: string): Incoming {
  try {
    return fromQuads(new Parser({ format: 'text/turtle' }).parse(text));
  } catch (error) {
    const { context, message } = error as { context?: { line?: number }; message: string };
    return nothing({
      place: context?.line === undefined ? 'the file' : `line ${context.line}`,
      reason: `It is not Turtle: ${message}`,
      remedy: 'Export it again, or mend the line.',
    });
  }
}

/** Reads SKOS in JSON-LD. Contexts at other addresses are not fetched: what a file means must stand in the file. */
export async function readJsonLd(text: string): Promise<Incoming> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return nothing({
      place: 'the file',
      reason: `It is not JSON: ${(error as Error).message}`,
      remedy: 'Export it again.',
    });
  }
  try {
    const nquads = await jsonld.toRDF(data as jsonld.JsonLdDocument, {
      format: 'application/n-quads',
      documentLoader: (url: string) => Promise.reject(new Error(`the context ${url} is not in the file`)),
    });
    return fromQuads(new Parser({ format: 'N-Quads' }).parse(nquads as unknown as string));
  } catch (error) {
    const { message, details } = error as { message: string; details?: { cause?: { message?: string } } };
    return nothing({
      place: 'the file',
      reason: `It cannot be read as JSON-LD: ${details?.cause?.message ?? message}`,
      remedy: 'Put the context into the file and try again.',
    });
  }
}

/** The last part of an address, as a name. */
const lastPart = (iri: string): string => decodeURIComponent(/[^/#:]*$/.exec(iri.replace(/[/#]$/, ''))?.[0] ?? iri);

function fromQuads(quads: readonly Quad[]): Incoming {
  const store = new Store([...quads]);
  const refused: RefusedLine[] = [];
  const objects = (s: string | Quad_Subject, p: string): Quad_Object[] =>
    store.getObjects(typeof s === 'string' ? namedNode(s) : s, namedNode(p), null);
  const foreign = new Set<string>();
  /** Literals in English or in no language; others are told of once. */
  const texts = (s: string | Quad_Subject, p: string): string[] =>
    objects(s, p).flatMap((o) => {
      if (o.termType !== 'Literal') return [];
      if (o.language === '' || o.language.startsWith(LANGUAGE)) return [o.value.trim()];
      foreign.add(o.language);
      return [];
    });
  const concepts = store.getSubjects(namedNode(`${RDF}type`), namedNode(`${SKOS}Concept`), null).map((s) => s.value);
  const isConcept = new Set(concepts);
  const schemesOf = (c: string): string[] => [
    ...new Set([
      ...objects(c, `${SKOS}inScheme`).map((o) => o.value),
      ...objects(c, `${SKOS}topConceptOf`).map((o) => o.value),
      ...store.getSubjects(namedNode(`${SKOS}hasTopConcept`), namedNode(c), null).map((s) => s.value),
    ]),
  ];
  /** What a concept is of ours: itself, or the one it matches, or one named by its label. */
  const idOf = (c: string): string => {
    if (c.startsWith(CONCEPT)) return c.slice(CONCEPT.length);
    const match = objects(c, `${SKOS}exactMatch`).find((o) => o.value.startsWith(CONCEPT));
    if (match) return match.value.slice(CONCEPT.length);
    return idFrom(texts(c, `${SKOS}prefLabel`)[0] ?? lastPart(c));
  };
  const schools = new Map<string, School>();
  const schoolOf = (scheme: string | undefined): string | null => {
    if (scheme === CONCEPTS) return null;
    const iri = scheme ?? 'urn:imported';
    const known = schools.get(iri);
    if (known) return known.id;
    const title =
      [`${DCT}title`, `${SKOS}prefLabel`, `${RDFS}label`].flatMap((p) => texts(iri, p))[0] ?? capital(lastPart(iri));
    const id = iri.startsWith(SCHOOL) ? iri.slice(SCHOOL.length) : idFrom(title);
    schools.set(iri, { id, name: title.slice(0, GLOSSARY_LIMITS.label), note: texts(iri, `${SKOS}note`)[0] ?? '' });
    return id;
  };
  for (const s of store.getSubjects(namedNode(`${RDF}type`), namedNode(`${SKOS}ConceptScheme`), null))
    schoolOf(s.value);
  const found = new Map<string, { concept: Concept; labels: ConceptLabel[]; named: Set<string>; beyond: number }>();
  for (const c of concepts) {
    const id = idOf(c);
    if (id === '') {
      refused.push({ place: c, reason: 'It has no name that can be read.', remedy: 'Give it a preferred label.' });
      continue;
    }
    const links = (p: string, inverse?: string): string[] =>
      [
        ...objects(c, SKOS + p).map((o) => o.value),
        ...(inverse === undefined
          ? []
          : store.getSubjects(namedNode(SKOS + inverse), namedNode(c), null).map((s) => s.value)),
      ]
        .filter((x) => isConcept.has(x) || x.startsWith(CONCEPT))
        .map(idOf);
    const kind = CONCEPT_KINDS.find((k) => objects(c, `${FT}kind`)[0]?.value === k);
    const definition = (texts(c, `${SKOS}definition`)[0] ?? '').slice(0, GLOSSARY_LIMITS.definition);
    const notes = [`${SKOS}note`, `${SKOS}scopeNote`].flatMap((p) => texts(c, p))[0];
    const known = found.get(id) ?? {
      concept: { id, kind: 'part of a rope', definition: '', broader: [], related: [], labels: [] },
      labels: [],
      named: new Set<string>(),
      beyond: 0,
    };
    known.concept = {
      ...known.concept,
      ...(kind ? { kind } : {}),
      ...(definition === '' ? {} : { definition }),
      ...(notes === undefined ? {} : { notes }),
      broader: [...new Set([...known.concept.broader, ...links('broader', 'narrower')])],
      related: [...new Set([...known.concept.related, ...links('related', 'related')])],
    };
    const about = new Map(
      objects(c, `${FT}about`).map((o) => [
        texts(o as Quad_Subject, `${RDF}value`)[0],
        {
          status: objects(o as Quad_Subject, `${FT}status`)[0]?.value,
          reason: texts(o as Quad_Subject, `${SKOS}note`)[0],
          everyday: objects(o as Quad_Subject, `${FT}everyday`)[0]?.value === 'true',
        },
      ]),
    );
    const schemes = schemesOf(c);
    const own = new Set(schemes.length === 0 ? [schoolOf(undefined)] : schemes.map((s) => schoolOf(s)));
    for (const school of own)
      for (const [property, status] of [
        ['prefLabel', 'preferred'],
        ['altLabel', 'also used'],
        ['hiddenLabel', 'misheard'],
      ] as const)
        for (const text of texts(c, SKOS + property)) {
          if (text === '' || text.length > GLOSSARY_LIMITS.label || /[<>]|\p{Cc}/u.test(text)) {
            refused.push({
              place: c,
              reason: `Its label ${text === '' ? 'is empty' : 'is too long, or has marks that names do not have'}.`,
              remedy: `A name is plain text of ${GLOSSARY_LIMITS.label} characters at most.`,
            });
            continue;
          }
          // Words that belong to no school cannot be preferred by one.
          if (school === null && status !== 'misheard') continue;
          const name = `${school ?? ''} ${sameName(text)}`;
          if (known.named.has(name)) continue;
          if (known.labels.length >= GLOSSARY_LIMITS.labels) {
            known.beyond += 1;
            continue;
          }
          known.named.add(name);
          const said = about.get(text);
          known.labels.push({
            school,
            status: said?.status === 'discouraged' && property === 'hiddenLabel' ? 'discouraged' : status,
            text,
            ...(said?.reason === undefined ? {} : { reason: said.reason }),
            ...(said?.everyday === true ? { everyday: true } : {}),
          });
        }
    found.set(id, known);
  }
  for (const [id, { beyond }] of found)
    if (beyond > 0)
      refused.push({
        place: id,
        reason: `${beyond} of its names are left out: a concept has ${GLOSSARY_LIMITS.labels} at most.`,
        remedy: 'Leave names out of the file that nobody uses.',
      });
  if (concepts.length === 0)
    refused.push({
      place: 'the file',
      reason: 'It holds no SKOS concepts.',
      remedy: 'Choose a file of concept schemes.',
    });
  for (const language of foreign)
    refused.push({
      place: 'the file',
      reason: `Its labels in “${language}” are left out: words are kept in English here.`,
      remedy: 'Nothing to do unless they were meant to be read.',
    });
  return {
    glossary: {
      schools: [...schools.values()],
      concepts: [...found.values()].map(({ concept, labels }) => ({ ...concept, labels })),
    },
    refused,
  };
}
