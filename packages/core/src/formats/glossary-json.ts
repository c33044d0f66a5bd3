/**
 * Zod schemas of the glossary and of the words chosen from it, for every border they pass.
 */
import * as z from 'zod';
import { CONCEPT_KINDS, GLOSSARY_LIMITS, LABEL_STATUSES } from '../words/glossary.js';
import { RESOLUTIONS } from '../words/collision.js';
import { conceptId, plainText } from '../words/plain-text.js';

export const labelSchema = z.object({
  school: conceptId.nullable(),
  status: z.enum(LABEL_STATUSES),
  text: plainText(GLOSSARY_LIMITS.label).min(1, 'a name is needed'),
  reason: plainText(300).optional(),
  everyday: z.boolean().optional(),
});

export const schoolSchema = z.object({
  id: conceptId,
  name: plainText(GLOSSARY_LIMITS.label).min(1, 'a school needs a name'),
  note: plainText(300).default(''),
});

/** A concept as it is written; a school has one preferred name for it at most, and each name once. */
export const conceptSchema = z
  .object({
    id: conceptId,
    kind: z.enum(CONCEPT_KINDS),
    definition: plainText(GLOSSARY_LIMITS.definition),
    notes: plainText(GLOSSARY_LIMITS.definition).optional(),
    broader: z.array(conceptId).max(12).readonly(),
    related: z.array(conceptId).max(24).readonly(),
    labels: z.array(labelSchema).min(1, 'a concept needs a name').max(GLOSSARY_LIMITS.labels).readonly(),
  })
  .superRefine(({ id, labels, broader, related }, context) => {
    const preferred = new Set<string>();
    const said = new Set<string>();
    labels.forEach((l, i) => {
      const key = `${l.school ?? ''} ${l.text.toLowerCase()}`;
      if (said.has(key))
        context.addIssue({ code: 'custom', path: ['labels', i], message: `“${l.text}” stands twice in one school` });
      said.add(key);
      if (l.school === null && l.status !== 'misheard')
        context.addIssue({ code: 'custom', path: ['labels', i, 'school'], message: 'say which school says so' });
      if (l.status !== 'preferred' || l.school === null) return;
      if (preferred.has(l.school))
        context.addIssue({ code: 'custom', path: ['labels', i], message: 'a school prefers one name for a concept' });
      preferred.add(l.school);
    });
    if (broader.includes(id) || related.includes(id))
      context.addIssue({ code: 'custom', path: ['broader'], message: 'a concept is not broader than itself' });
  });

export const glossarySchema = z.object({
  schools: z.array(schoolSchema).max(GLOSSARY_LIMITS.schools).readonly(),
  concepts: z.array(conceptSchema).max(GLOSSARY_LIMITS.concepts).readonly(),
});

export const wordChoiceSchema = z.object({
  school: conceptId,
  own: z.record(conceptId, plainText(GLOSSARY_LIMITS.label).min(1)),
});

export const vocabularySchema = z.object({
  workingEnd: z.string(),
  roundTurn: z.string(),
  eye: z.string(),
  leg: z.string(),
  bridge: z.string(),
  standingPart: z.string(),
  tail: z.string(),
  loop: z.string(),
  overhandLoop: z.string(),
  underhandLoop: z.string(),
  bight: z.string(),
  turn: z.string(),
  nippingTurn: z.string(),
  sling: z.string(),
  taut: z.string(),
  collar: z.string(),
  strand: z.string(),
  rope: z.string(),
  dress: z.string(),
  set: z.string(),
  hosts: z.record(z.string(), z.string()),
  ropes: z.array(z.string()).readonly(),
});

export const answersSchema = z.record(z.string().max(400), z.enum(RESOLUTIONS));
