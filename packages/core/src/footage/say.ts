/** What footage says of the knot, in words. */
import { crossingList, theKnot, uncapital } from '../words/vocabulary.js';
import { wrongIn, type FilmView, type FootageVerdict, type FrameVerdict } from './judge.js';

/** From where a film is seen: “seen from behind, in a mirror”. */
export const sayFilmView = ({ side, mirrored }: FilmView): string =>
  `seen from ${side === 'behind' ? 'behind' : 'the tying side'}${mirrored ? ', in a mirror' : ''}`;

const seconds = (at: number): string => `${at.toFixed(2)} s`;

/** What a frame says, in a sentence. */
export function sayFrame({ at, state, views, wrong, runsOtherwise }: FrameVerdict): string {
  const begin = `At ${seconds(at)}: `;
  if (state === 'agrees') return `${begin}${views.map(sayFilmView).join('')}, its marks agree.`;
  if (state === 'undecided')
    return `${begin}over and under agree, ${views.map(sayFilmView).join(', or ')}: which of them is not told by these marks.`;
  const runs =
    runsOtherwise.length === 0
      ? ''
      : `At ${crossingList(runsOtherwise)} the strands run across each other the other way than in the figure.`;
  const other = views.flatMap((view, i) => {
    const numbers = wrong[i] ?? [];
    if (numbers.length === 0) return [];
    return [`${sayFilmView(view)}, ${crossingList(numbers)} ${numbers.length === 1 ? 'is' : 'are'} the other way`];
  });
  return `${begin}${[other.length > 0 ? `${other.join('; or, ')}.` : '', runs].filter((s) => s !== '').join(' ')}`;
}

/** What decides, in a sentence; nothing where all is said. */
export function sayNext({ next }: FootageVerdict): string | undefined {
  switch (next?.kind) {
    case undefined:
      return undefined;
    case 'more':
      return next.count === 1 ? 'Mark one crossing more.' : `Mark ${next.count} crossings more.`;
    case 'directions':
      return 'Mark at one crossing which way both of its strands run on: that tells the figure from its mirror image.';
    case 'crossing':
      return next.becomes === undefined
        ? `Mark crossing ${next.crossing}.`
        : `Mark crossing ${next.crossing}. Were it the other way, it would be: ${uncapital(next.becomes)}.`;
  }
}

/** The verdict in a sentence. */
export function sayFootage({ state, view, frames, becomes, open }: FootageVerdict, name: string): string {
  const seen = view ? `, ${sayFilmView(view)}` : '';
  switch (state) {
    case 'agrees':
      return `It shows ${theKnot(name)}${seen}.`;
    case 'mirrored':
      return `It is mirrored: as it is played it shows ${theKnot(name)} of the other hand.`;
    case 'undecided':
      return frames.length === 0 || frames.every((f) => f.state === 'undecided')
        ? `Whether it shows ${theKnot(name)} is not told by these marks.`
        : `What is marked agrees with ${theKnot(name)}${seen}; ${crossingList(open.map((o) => o.crossing))} ${open.length === 1 ? 'is' : 'are'} not marked.`;
    case 'differs': {
      const wrong = wrongIn({ frames });
      if (frames.every((f) => f.state !== 'differs'))
        return 'Some of its frames are mirrored and some are not: they are not of one film.';
      if (wrong.length === 0) return `It does not agree with ${theKnot(name)}.`;
      return `It does not show ${theKnot(name)}: ${crossingList(wrong)} ${wrong.length === 1 ? 'is' : 'are'} the other way${
        becomes === undefined ? '' : ` (${uncapital(becomes)})`
      }.`;
    }
  }
}
