/**
 * What visitors are sent, kept as it is sent: written once, compressed once, under a tag by which a browser that has it is told so. Whether
 * it is good still is one short question to the database, asked once for all who wait.
 */
import type { Request, Response } from 'express';
import { createHash } from 'node:crypto';
import { AskedTogether } from './asked-together.js';
import type { Queryable } from './database.js';
import { Kept } from './kept.js';
import { Sent } from './sent.js';

/** How many are kept, the last asked for; a page is up to half a megabyte, and a tenth of it compressed. */
const KEPT = 256;

export interface ToSend<C> {
  /** What is asked for: names it among all that is kept. */
  readonly key: string;
  /** Its media type, as Express has it. */
  readonly type: string;
  /** What it is made of: anything JSON can say. Made of the same, it is not written anew. Rejected where there is none. */
  readonly content: () => Promise<C>;
  /** Writes it; undefined where it cannot be written. */
  readonly write: (content: C) => Promise<string | undefined>;
}

export class SentPages {
  private readonly asked: Kept<Sent>;
  private readonly written: Kept<Sent>;
  private readonly state: AskedTogether<string>;

  constructor(db: Queryable, room = KEPT) {
    this.asked = new Kept(room);
    this.written = new Kept(room);
    this.state = new AskedTogether(async () => {
      const found = await db.query<{ version: string }>({
        name: 'public state',
        text: 'select version from public_state',
      });
      return found.rows[0]?.version ?? '';
    });
  }

  /** Sends it, or that the browser has it already; tells whether there is any. */
  async send<C>(req: Request, res: Response, { key, type, content, write }: ToSend<C>): Promise<boolean> {
    const state = await this.state.now();
    const found = await this.asked.of(`${state} ${key}`, async () => {
      const made = await content();
      const of = createHash('sha256').update(JSON.stringify(made)).digest('base64');
      return this.written.of(`${key} ${of}`, async () => {
        const text = await write(made);
        return text === undefined ? undefined : new Sent(text, type);
      });
    });
    if (!found) return false;
    res.setHeader('Cache-Control', 'no-cache');
    await found.to(req, res);
    return true;
  }
}
