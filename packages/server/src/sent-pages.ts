/**
 * What visitors are sent, kept as it is sent: written once, compressed once, under a tag by which a browser that has it is told so. Whether
 * it is good still is one short question to the database, asked once for all who wait.
 */
import type { Request, Response } from 'express';
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { AskedTogether } from './asked-together.js';
import type { Queryable } from './database.js';
import { Kept } from './kept.js';

/** How many are kept, the last asked for; a page is up to half a megabyte, and a tenth of it compressed. */
const KEPT = 256;
/** How hard they are compressed: harder than what is sent only once. */
const BROTLI = 7;

const ENCODINGS = ['br', 'gzip', 'identity'] as const;
type Encoding = (typeof ENCODINGS)[number];

const encode: Readonly<Record<Encoding, (text: Buffer) => Promise<Buffer>>> = {
  br: (text) => promisify(brotliCompress)(text, { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI } }),
  gzip: (text) => promisify(gzip)(text),
  identity: (text) => Promise.resolve(text),
};

/** A text as it is sent. */
class Sent {
  private readonly plain: Buffer;
  private readonly tag: string;
  private readonly encoded = new Map<Encoding, Promise<Buffer>>();

  constructor(text: string) {
    this.plain = Buffer.from(text);
    this.tag = createHash('sha256').update(this.plain).digest('base64url').slice(0, 22);
  }

  as(encoding: Encoding): Promise<Buffer> {
    const before = this.encoded.get(encoding);
    if (before) return before;
    const made = encode[encoding](this.plain);
    this.encoded.set(encoding, made);
    return made;
  }

  tagOf(encoding: Encoding): string {
    return `"${this.tag}-${encoding}"`;
  }
}

export interface ToSend {
  /** What is asked for: names it among all that is kept. */
  readonly key: string;
  /** Its media type, as Express has it. */
  readonly type: string;
  /** What it is made of: anything JSON can say. Made of the same, it is not written anew. Rejected where there is none. */
  readonly content: () => Promise<unknown>;
  /** Writes it; undefined where it cannot be written. */
  readonly write: (content: never) => Promise<string | undefined>;
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
  async send(req: Request, res: Response, { key, type, content, write }: ToSend): Promise<boolean> {
    const state = await this.state.now();
    const found = await this.asked.of(`${state} ${key}`, async () => {
      const made = await content();
      const of = createHash('sha256').update(JSON.stringify(made)).digest('base64');
      return this.written.of(`${key} ${of}`, async () => {
        const text = await write(made as never);
        return text === undefined ? undefined : new Sent(text);
      });
    });
    if (!found) return false;
    const encoding = ENCODINGS.find((e) => e === req.acceptsEncodings([...ENCODINGS])) ?? 'identity';
    res.vary('Accept-Encoding');
    res.setHeader('Cache-Control', 'no-cache');
    res.setHeader('ETag', found.tagOf(encoding));
    if (encoding !== 'identity') res.setHeader('Content-Encoding', encoding);
    res.type(type).send(await found.as(encoding));
    return true;
  }
}
