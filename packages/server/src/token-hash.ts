/** How tokens are kept: what is found in a database opens nothing. */
import { createHash } from 'node:crypto';

export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();
