/**
 * What a knot's document is found to be: its findings by the house's rules, its crossings, what it is among knots.
 */
import {
  behaviourFindings,
  layoutFindings,
  finishedFigure,
  choiceOf,
  crossingsOf,
  findingsOf,
  tailRuleFor,
  readKnot,
  writeKnot,
  type Finding,
  type FigureFile,
  type HousePractice,
  type KnotDocument,
  type Vocabulary,
} from '@foxtrail/core';
import { practised, practiceFindings } from '@foxtrail/pattern-book';
import type { Queryable } from './database.js';
import { houseRules } from './house.js';
import { identityOf, type StoredIdentity } from './identity.js';
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

/** The findings of a knot by the rules of a house, without those of what it is among knots. */
function ruleFindings(knot: KnotDocument, practice: HousePractice, words: Vocabulary): Finding[] {
  const kept = practised(knot);
  const tailFrom =
    kept.keeper && choiceOf(practice, 'tail-counted') === 'before the keeper'
      ? new Map([[kept.keeper.rope, kept.keeper.from]])
      : undefined;
  const rules = {
    tail: tailRuleFor(practice, knot.entry.useGrade),
    tailFrom,
    cordMm: knot.entry.cord.diameterMm,
    words,
    pull: knot.entry.pull,
  };
  return [
    ...practiceFindings(knot, practice, kept),
    ...behaviourFindings(knot),
    ...layoutFindings(knot.method, knot.others),
    ...findingsOf(knot.method, rules),
    ...(knot.others ?? []).flatMap(({ method }) => [...layoutFindings(method), ...findingsOf(method, rules)]),
  ];
}

/** Checks a document and computes what the shelf shows of it. */
export async function examine(db: Queryable, data: unknown): Promise<Examined> {
  const read = readKnot(data);
  if (!read.ok) throw refused(read);
  const knot = read.value;
  const { practice, revision } = await houseRules(db);
  const { finding, grade, ...identity } = identityOf(knot);
  const findings = [
    ...(finding ? [finding] : []),
    ...(grade ? [grade] : []),
    ...ruleFindings(knot, practice, await vocabularyOfKnot(db, knot.entry)),
  ];
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
