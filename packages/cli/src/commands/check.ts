/** `foxtrail check`: all findings of figure files, and whether each is what it claims. */
import {
  accept,
  lessonCheck,
  remarkedKnot,
  TAKEN_AS_KNOWN,
  vocabularyFor,
  wordedOf,
  WORKSHOP_PRACTICE,
  type Finding,
} from '@foxtrail/core';
import { findingsIn, GLOSSARY, proofOf } from '@foxtrail/pattern-book';
import { forEachFile, type Command } from '../command.js';

const where = (f: Finding): string => {
  const places = [
    f.step === undefined ? '' : `step ${f.step + 1}`,
    f.crossings?.length ? `crossing ${f.crossings.join(', ')}` : '',
    f.place ? `${f.place.strand} at ${f.place.at.toFixed(2)}` : '',
  ].filter((t) => t !== '');
  return places.length === 0 ? '' : ` (${places.join('; ')})`;
};

export const check: Command = {
  name: 'check',
  usage: [['FILE…', 'all findings of figure files, and whether each is what it claims']],
  run: (call) =>
    forEachFile(call, 'check', (knot) => {
      const { tail, words } = call.options;
      const findings = findingsIn(
        proofOf(knot, {
          practice: WORKSHOP_PRACTICE,
          words: vocabularyFor(wordedOf(knot), words, GLOSSARY),
          tail: tail === undefined ? undefined : { diameters: tail, millimetres: 0 },
        }),
      );
      const texts = remarkedKnot(knot, lessonCheck(wordedOf(knot), words, GLOSSARY, TAKEN_AS_KNOWN));
      const remarks = texts.flatMap((t) => t.remarks.map((r) => ({ place: t.place, ...r })));
      return accept({
        clean: findings.length === 0,
        data: { name: knot.name, findings: findings.map(({ fix: _, ...f }) => f), words: remarks },
        lines: [
          findings.length === 0 ? `${knot.name}: no findings` : knot.name,
          ...findings.map((f) => `  ${f.severity}: ${f.title}${where(f)}. ${f.why} ${f.remedy}`),
          ...remarks.map((r) => `  word: ${r.place}, “${r.words}”: ${r.says}`),
        ],
      });
    }),
};
