/** Texts in lines, for pictures: there nothing wraps them. */

/** A text in lines of so many characters at most; a longer word has a line of its own. */
export function inLines(text: string, perLine: number): string[] {
  const lines: string[] = [];
  for (const word of text.trim().split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= perLine) lines[lines.length - 1] = `${last} ${word}`;
    else if (word !== '') lines.push(word);
  }
  return lines;
}
