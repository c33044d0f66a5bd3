/**
 * npm run keys: computes the key of every pattern anew and writes src/keys.ts. A spec says when that is due.
 */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { format, resolveConfig } from 'prettier';
import { keysOfPatterns } from '../src/keys-computed.js';

const file = fileURLToPath(new URL('../src/keys.ts', import.meta.url));
const text = `/**
 * The keys of the patterns, as computed once: a first look-up has not to wait for them. Written by \`npm run keys\`; a spec
 * computes them anew and compares.
 */
import type { KnotKeys } from '@foxtrail/core';

export const KEYS: Readonly<Record<string, KnotKeys>> = ${JSON.stringify(keysOfPatterns())};
`;
writeFileSync(file, await format(text, { ...(await resolveConfig(file)), parser: 'typescript' }));
