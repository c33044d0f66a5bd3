/**
 * Which passwords are taken: long ones that are not among the first that are guessed.
 */
import { PASSWORD_LEAST } from '@foxtrail/contract';
import { refuse, type Refusal } from '@foxtrail/core';
import { zxcvbn, zxcvbnOptions } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

zxcvbnOptions.setOptions({ dictionary, graphs: adjacencyGraphs });

/** Guesses, as a power of ten, below which a password is found too soon. */
const GUESSES = 8;
/** More is not looked at: the first so many decide. */
const LOOKED_AT = 64;

/** Why a password is not taken; nothing where it is. What its owner is called is no password. */
export function passwordTrouble(password: string, ...known: readonly string[]): Refusal | undefined {
  const letters = Array.from(password.normalize('NFKC'));
  if (letters.length < PASSWORD_LEAST)
    return refuse(
      'password',
      `It has ${letters.length} characters; a password has ${PASSWORD_LEAST} or more.`,
      'Take three or four words that have nothing to do with each other.',
    );
  const { guessesLog10 } = zxcvbn(letters.slice(0, LOOKED_AT).join(''), [...known]);
  return guessesLog10 < GUESSES
    ? refuse(
        'password',
        'It is among the first that are guessed: a common one, a name, or what repeats itself.',
        'Take three or four words that have nothing to do with each other.',
      )
    : undefined;
}
