import { createHash, randomBytes } from 'node:crypto';
import { Kept } from './kept.js';

/** How many written pages are kept, the last asked for; a page is up to half a megabyte. */
const KEPT = 64;

/** Writes a page with the nonce given; undefined where there is none. */
export type WritePage = (nonce: string) => Promise<string | undefined>;

/**
 * Pages already written, by what they were written of, so that a visit does not draw the same figures again.
 * The key is the content itself: a page of other words, another revision or another practice is another page,
 * and nothing has to be told when it changes. Only the nonce is each visit's own.
 */
export class KeptPages {
  private readonly pages: Kept<string>;
  /** Stands where the nonce goes; random, so that no text of an author can hold it. */
  private readonly place = randomBytes(16).toString('hex');

  constructor(room = KEPT) {
    this.pages = new Kept(room);
  }

  /** The page of `content` (anything JSON can say) with `nonce` in it, written only when it is not kept. */
  async page(content: unknown, nonce: string, write: WritePage): Promise<string | undefined> {
    const key = createHash('sha256').update(JSON.stringify(content)).digest('base64');
    const text = await this.pages.of(key, () => write(this.place));
    return text?.replaceAll(this.place, () => nonce);
  }
}
