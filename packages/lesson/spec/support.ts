/** What specs of pages share: demo knots as they are published, and a reader of markup that takes no mistake. */
import { readFileSync } from 'node:fs';
import { figureFileSchema, WORKSHOP_PRACTICE, WORKSHOP_WORDS } from '@foxtrail/core';
import type { PublicKnot } from '@foxtrail/contract';
import { SaxesParser } from 'saxes';

export const demo = (file: string): PublicKnot['document'] =>
  figureFileSchema.parse(JSON.parse(readFileSync(new URL(`../../../demo/${file}.json`, import.meta.url), 'utf8')));
export const page = (document: PublicKnot['document'], more: Partial<PublicKnot> = {}): PublicKnot => ({
  slug: 'a-knot',
  document,
  publishedAt: '2026-05-01T10:00:00.000Z',
  house: {
    name: 'Test house',
    classSchool: 'strict',
    revision: 1,
    practice: WORKSHOP_PRACTICE,
    vocabulary: WORKSHOP_WORDS,
  },
  vocabulary: WORKSHOP_WORDS,
  terms: [],
  otherSchools: [],
  clips: [],
  wrongWays: [],
  revision: 3,
  ...more,
});
export interface Met {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
}
const VOID = new Set(['meta', 'link', 'img', 'track', 'br', 'input']);

/** The elements of a page in order; throws where one is not closed, or an attribute is not quoted. */
export function elements(text: string): Met[] {
  const met: Met[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', (tag) => met.push({ name: tag.name, attributes: tag.attributes }));
  parser.on('error', (error) => {
    throw error;
  });
  if (text.startsWith('<?xml')) {
    parser.write(text).close();
    return met;
  }
  // As XML: elements that have no end get one, attributes without a value get one.
  const xml = text
    .replace(/<!doctype html>/i, '')
    .replace(/<(\w+)([^>]*?)\s*\/?>/g, (all, name: string, rest: string) =>
      VOID.has(name) ? `<${name}${rest.replace(/\/$/, '')}/>` : all,
    )
    .replace(/ (hidden|controls|playsinline|download|data-print|data-theme-toggle)(?=[\s/>])/g, ' $1=""');
  parser.write(xml).close();
  return met;
}
