/** Every file is answered. `npm run fuzz -- --inputs 100000` tries many more, and holds them to a second each. */
import { damaged, readers } from '../support/bad-files.js';
import { byLot } from '../support/by-lot.js';

/** Damaged files for each reader. */
const FILES = 120;

const all = await readers();

describe('A damaged file', () => {
  for (const { name, read, files } of all)
    it(`is answered by the reader of ${name}: read, or refused with its place and how to mend it`, async () => {
      for (const file of files)
        expect(isRefused(await read(file)))
          .withContext(file.slice(0, 60))
          .toBeFalse();
      let refused = 0;
      for (let n = 0; n < FILES; n += 1) {
        const answer = await read(damaged(files, byLot(20_261 + 7 * n)));
        if (!isRefused(answer)) continue;
        refused += 1;
        for (const part of refusals(answer)) {
          expect(part.place).not.toBe('');
          expect(part.reason).toMatch(/\S/);
          expect(part.remedy).toMatch(/\S/);
        }
      }
      expect(refused)
        .withContext('the damage is felt')
        .toBeGreaterThan(FILES / 10);
    }, 120_000);
});

interface Told {
  readonly place: string;
  readonly reason: string;
  readonly remedy: string;
}
/** What was refused of a file: all of it, or lines of a glossary. */
function refusals(answer: unknown): readonly Told[] {
  const said = answer as { ok?: boolean; refused?: readonly Told[] } & Told;
  return said.ok === false ? [said] : (said.refused ?? []);
}
const isRefused = (answer: unknown): boolean => refusals(answer).length > 0;
