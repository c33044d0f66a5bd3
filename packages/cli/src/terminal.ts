/** Where the command reads and writes: the terminal, or a test. */
import { readFile, writeFile } from 'node:fs/promises';

export interface Terminal {
  readonly read: (file: string) => Promise<string>;
  readonly write: (file: string, content: string | Uint8Array) => Promise<void>;
  readonly say: (text: string) => void;
  readonly complain: (text: string) => void;
}

async function standardInput(): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of process.stdin) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

/** The real terminal. */
export const terminal = (): Terminal => ({
  read: (file) => (file === '-' ? standardInput() : readFile(file, 'utf8')),
  write: (file, content) => writeFile(file, content),
  say: (text) => void process.stdout.write(`${text}\n`),
  complain: (text) => void process.stderr.write(`${text}\n`),
});
