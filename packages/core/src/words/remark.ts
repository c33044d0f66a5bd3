/**
 * What can be remarked upon in the words of a text.
 */
export const REMARK_KINDS = [
  'misheard',
  'discouraged',
  'foreign',
  'two meanings',
  'two names',
  'not introduced',
  'loop of the other hand',
] as const;
export type RemarkKind = (typeof REMARK_KINDS)[number];
