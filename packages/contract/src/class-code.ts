/** Codes of classes, as they are written and read; apart, so that a learner's page need not load the contract. */

/** Letters and digits of a code: none that is taken for another when it is read out or written on a board. */
export const CODE_LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
export const CODE_LENGTH = 8;

/** A code as somebody writes it, in either case, with or without its hyphen. */
export const codeIn = (text: string): string => text.toUpperCase().replace(/[^A-Z0-9]/g, '');
/** A code as it is read: in two halves. */
export const sayCode = (code: string): string => `${code.slice(0, CODE_LENGTH / 2)}-${code.slice(CODE_LENGTH / 2)}`;
