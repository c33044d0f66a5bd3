/** A text as it is sent: compressed once for all who get it, under a tag by which a browser that has it is told so. */
import type { Request, Response } from 'express';
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const ENCODINGS = ['br', 'gzip', 'identity'] as const;
type Encoding = (typeof ENCODINGS)[number];

/** How hard it is compressed: a picture is a tenth smaller than by the usual 4, for a fifth of a millisecond more. */
export const BROTLI = 5;

const encode: Readonly<Record<Encoding, (text: Buffer) => Promise<Buffer>>> = {
  br: (text) => promisify(brotliCompress)(text, { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI } }),
  gzip: (text) => promisify(gzip)(text),
  identity: (text) => Promise.resolve(text),
};

export class Sent {
  private readonly plain: Buffer;
  private readonly tag: string;
  private readonly encoded = new Map<Encoding, Promise<Buffer>>();

  /** `type`: its media type, as Express has it. */
  constructor(
    text: string,
    private readonly type: string,
  ) {
    this.plain = Buffer.from(text);
    this.tag = createHash('sha256').update(this.plain).digest('base64url').slice(0, 22);
  }

  /** Sends it, or that the browser has it already. */
  async to(req: Request, res: Response): Promise<void> {
    const encoding = ENCODINGS.find((e) => e === req.acceptsEncodings([...ENCODINGS])) ?? 'identity';
    res.vary('Accept-Encoding');
    res.setHeader('ETag', `"${this.tag}-${encoding}"`);
    if (encoding !== 'identity') res.setHeader('Content-Encoding', encoding);
    res.type(this.type).send(await this.as(encoding));
  }

  private as(encoding: Encoding): Promise<Buffer> {
    const before = this.encoded.get(encoding);
    if (before) return before;
    const made = encode[encoding](this.plain);
    this.encoded.set(encoding, made);
    return made;
  }
}
