/** What a command is, and what all of them do alike: files opened, answers given as text or JSON, refusals told. */
import {
  readKnotText,
  refuse,
  sayRefusal,
  type KnotDocument,
  type Refusal,
  type Result,
  type View,
  type WordChoice,
} from '@foxtrail/core';
import type { Terminal } from './terminal.js';

/** How a command ends. */
export const CLEAN = 0;
export const FOUND = 1;
export const BAD = 2;
export type ExitCode = typeof CLEAN | typeof FOUND | typeof BAD;

export interface Options {
  readonly json: boolean;
  readonly tail: number | undefined;
  /** The words texts are written in, unless a knot names a school of its own. */
  readonly words: WordChoice;
  readonly pd: string | undefined;
  readonly step: number | undefined;
  /** A sentence to be read. */
  readonly text: string | undefined;
  readonly view: View;
  /** The side a form is seen from, as it was asked for. */
  readonly station: string;
  readonly out: string | undefined;
  /** One of the ways in which a knot is dressed. */
  readonly dressing: string | undefined;
}

/** A call of a command: the files it names, its options, and the terminal it is called from. */
export interface Call {
  readonly files: readonly string[];
  readonly options: Options;
  readonly io: Terminal;
}

export interface Command {
  readonly name: string;
  /** Its arguments and what it does, as lines of the help text. */
  readonly usage: readonly (readonly [call: string, does: string])[];
  readonly run: (call: Call) => Promise<ExitCode>;
}

export async function open(file: string, io: Terminal): Promise<Result<KnotDocument>> {
  let text: string;
  try {
    text = await io.read(file);
  } catch (error) {
    return refuse(file, `It cannot be read: ${(error as Error).message}.`, 'Give the path of a figure file.');
  }
  const read = readKnotText(text);
  return read.ok ? read : { ...read, place: `${file}: ${read.place}` };
}

const plain = ({ place, reason, remedy }: Refusal): object => ({ error: { place, reason, remedy } });

/** Tells why nothing came of it. */
export function complain(refusal: Refusal, { options, io }: Call): ExitCode {
  if (options.json) io.say(JSON.stringify(plain(refusal)));
  else io.complain(sayRefusal(refusal));
  return BAD;
}

/** Gives the answer: as JSON when that is asked for, else in lines. */
export function answer({ options, io }: Call, data: object, lines: () => readonly string[]): void {
  if (options.json) io.say(JSON.stringify(data, null, 2));
  else for (const line of lines()) io.say(line);
}

/** What a command makes of one file of several. */
export interface FileReport {
  readonly data: object;
  readonly lines: readonly string[];
  readonly clean: boolean;
}

/** Goes through all the files that are named; one that cannot be read does not keep the others from being looked at. */
export async function forEachFile(
  call: Call,
  command: string,
  look: (knot: KnotDocument) => Result<FileReport>,
): Promise<ExitCode> {
  const { files, options, io } = call;
  if (files.length === 0) return complain(refuse(command, 'No file is named.', 'Name one or more figure files.'), call);
  let code: ExitCode = CLEAN;
  const report: object[] = [];
  for (const file of files) {
    const read = await open(file, io);
    const found = read.ok ? look(read.value) : read;
    if (!found.ok) {
      io.complain(sayRefusal(found));
      code = BAD;
      report.push({ file, ...plain(found) });
      continue;
    }
    if (!found.value.clean && code === CLEAN) code = FOUND;
    report.push({ file, ...found.value.data });
    if (!options.json) found.value.lines.forEach((line, i) => io.say(i === 0 ? `${file}: ${line}` : line));
  }
  if (options.json) io.say(JSON.stringify(report, null, 2));
  return code;
}

/** Goes through the one file that is named. */
export async function withFile(
  call: Call,
  command: string,
  look: (knot: KnotDocument, file: string) => ExitCode | Promise<ExitCode>,
): Promise<ExitCode> {
  const [file] = call.files;
  if (file === undefined) return complain(refuse(command, 'No file is named.', 'Name a figure file.'), call);
  const read = await open(file, call.io);
  return read.ok ? look(read.value, file) : complain(read, call);
}
