/**
 * The words of a house, for web unit tests: the shipped glossary, answered by nobody's server.
 */
import type { Words } from '@foxtrail/contract';
import { SHIPPED_GLOSSARY, TAKEN_AS_KNOWN, WORKSHOP_CHOICE } from '@foxtrail/core';

export const WORDS: Words = {
  glossary: SHIPPED_GLOSSARY,
  choice: { ...WORKSHOP_CHOICE, own: {} },
  known: [...TAKEN_AS_KNOWN],
  revision: 3,
};
