import {
  conceptSchema,
  CONCEPT_KINDS,
  disputesOf,
  GLOSSARY_LIMITS,
  preferredLabel,
  readKnot,
  sameName,
  stepsOf,
  WORKSHOP_CHOICE,
} from '@foxtrail/core';
import { conceptOfPattern, figureOfConcept, GLOSSARY, patterns } from '../src/index.js';

describe('The shipped glossary', () => {
  it('has at least seventy concepts beside the knots, of every kind, each defined and named by a school', () => {
    const others = GLOSSARY.concepts.filter((c) => c.kind !== 'knot');
    expect(others.length).toBeGreaterThanOrEqual(70);
    expect(new Set(GLOSSARY.concepts.map((c) => c.kind))).toEqual(new Set(CONCEPT_KINDS));
    for (const c of GLOSSARY.concepts) {
      expect(conceptSchema.safeParse(c).error?.issues ?? [])
        .withContext(c.id)
        .toEqual([]);
      expect(c.definition.length).withContext(c.id).toBeGreaterThan(9);
      expect(c.labels.some((l) => l.status === 'preferred'))
        .withContext(c.id)
        .toBeTrue();
    }
    expect(GLOSSARY.concepts.length).toBeLessThan(GLOSSARY_LIMITS.concepts);
  });

  it('links only to concepts that are there, and no concept is broader than itself by any way', () => {
    const byId = new Map(GLOSSARY.concepts.map((c) => [c.id, c]));
    expect(byId.size).toBe(GLOSSARY.concepts.length);
    for (const c of GLOSSARY.concepts) {
      for (const id of [...c.broader, ...c.related]) expect(byId.has(id)).withContext(`${c.id} → ${id}`).toBeTrue();
      const above = new Set<string>();
      const climb = (id: string): void => {
        for (const b of byId.get(id)?.broader ?? []) if (!above.has(b)) climb((above.add(b), b));
      };
      climb(c.id);
      expect(above.has(c.id)).withContext(c.id).toBeFalse();
    }
  });

  it('gives no school one word for two things of one kind', () => {
    for (const s of GLOSSARY.schools) {
      const seen = new Map<string, string>();
      for (const c of GLOSSARY.concepts) {
        const label = preferredLabel(c, s.id);
        if (!label) continue;
        const key = `${c.kind} ${sameName(label.text)}`;
        expect(seen.get(key)).withContext(`${s.name}: “${label.text}” is ${c.id}`).toBeUndefined();
        seen.set(key, c.id);
      }
    }
  });

  it('every pattern is a concept that knows the pattern’s own name', () => {
    for (const { id, knot } of patterns()) {
      const concept = GLOSSARY.concepts.find((c) => c.id === conceptOfPattern(id));
      const names = new Set(concept?.labels.map((l) => sameName(l.text)));
      // Several names are several labels: in one they are found by nobody.
      for (const { text } of concept?.labels ?? [])
        for (const piece of text.split(', ').slice(1))
          expect(piece)
            .withContext(text)
            .toMatch(/^(?:mirrored|(?:second|last turn) reversed|tail (?:outside|led back))$/);
      const own = [knot.name, `${knot.name} knot`, ...knot.entry.aliases].map(sameName);
      expect(own.some((n) => names.has(n)))
        .withContext(`${id}: ${[...names].join(', ')}`)
        .toBeTrue();
    }
  });

  it('has a figure for most concepts, each a figure file with one step that shows what the word names', () => {
    const shown = GLOSSARY.concepts.filter((c) => figureOfConcept(c.id));
    expect(shown.length).toBeGreaterThan(90);
    for (const c of shown) {
      const read = readKnot(figureOfConcept(c.id)!);
      if (!read.ok) throw new Error(`${c.id}: ${read.place}: ${read.reason}`);
      const steps = stepsOf(read.value.method);
      expect(steps.length).withContext(c.id).toBe(1);
      for (const lit of steps[0]!.telling.lit ?? [])
        expect(lit.to - lit.from)
          .withContext(c.id)
          .toBeGreaterThan(0.2);
    }
    // Every part and shape that can be lit in a rope is.
    for (const id of ['standing-part', 'tail', 'bight', 'loop', 'nipping-turn', 'collar', 'eye'])
      expect(figureOfConcept(id)?.method?.finish?.[0]?.lit?.length).withContext(id).toBeGreaterThan(0);
  });

  it('tells of knots whose names are in dispute', () => {
    const { rivalries, homonyms } = disputesOf(GLOSSARY, WORKSHOP_CHOICE);
    const reef = rivalries.find((r) => r.concept === 'knot-reef')!;
    expect(new Set(reef.preferred.map((p) => p.name))).toEqual(new Set(['reef knot', 'square knot']));
    expect(homonyms.filter((h) => h.ofKnots).map((h) => h.name)).toContain('barrel knot');
  });
});
