/**
 * Text cut to a length: never in the middle of what is read as one character.
 */
const letters = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** The beginning of a text, of so many UTF-16 units at most, that ends after a whole character. */
export function cutTo(text: string, most: number): string {
  if (text.length <= most) return text;
  let end = 0;
  for (const { index, segment } of letters.segment(text.slice(0, most + 64))) {
    if (index + segment.length > most) break;
    end = index + segment.length;
  }
  return text.slice(0, end).trimEnd();
}
