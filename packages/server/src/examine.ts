/**
 * What a knot's document is found to be: its findings by the house's rules, its crossings, what it is among knots.
 */
import { crossingsOf, finishedFigure, readKnot, writeKnot, type FigureFile, type KnotDocument } from '@foxtrail/core';
import { findingsIn, proofOf } from '@foxtrail/pattern-book';
import type { Queryable } from './database.js';
import { houseRules } from './house.js';
import { identityIn, type StoredIdentity } from './identity.js';
import { refused } from './problem.js';
import { vocabularyOfKnot } from './words.js';

export interface Counts {
  readonly errors: number;
  readonly warnings: number;
  /** The revision of the house's rules that they were counted by. */
  readonly countedBy: number;
}

export interface Examined extends Counts {
  readonly knot: KnotDocument;
  readonly document: FigureFile;
  readonly crossings: number;
  readonly identity: StoredIdentity;
}

/** Checks a document and computes what the shelf shows of it. */
export async function examine(db: Queryable, data: unknown): Promise<Examined> {
  const read = readKnot(data);
  if (!read.ok) throw refused(read);
  const knot = read.value;
  const { practice, revision } = await houseRules(db);
  const pieces = [...proofOf(knot, { practice, words: await vocabularyOfKnot(db, knot.entry) })];
  const findings = findingsIn(pieces);
  const identity = identityIn(pieces);
  return {
    knot,
    identity,
    document: writeKnot(knot),
    errors: findings.filter((f) => f.severity === 'error').length,
    warnings: findings.filter((f) => f.severity === 'warning').length,
    countedBy: revision,
    crossings: crossingsOf(finishedFigure(knot.method)).length,
  };
}
