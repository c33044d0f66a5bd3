/** `foxtrail invariants`: what a figure or a PD code comes to, however it is drawn. */
import {
  accept,
  checkPd,
  closedStrands,
  crossingsOf,
  figureClosure,
  liftedTangles,
  linkingNumber,
  pdJones,
  pdOf,
  pdSigns,
  readMap,
  refuse,
  sayJones,
  sayRefusal,
  signatureOf,
  skeinVector,
  vectorData,
  windingAbout,
  type KnotDocument,
  type Result,
} from '@foxtrail/core';
import * as laurent from '@foxtrail/core/laurent';
import { answer, CLEAN, complain, open, type Call, type Command } from '../command.js';

/** What a knot or a PD code comes to, as plain data. */
function knotInvariants({ name, method: { figure } }: KnotDocument): object {
  const crossings = crossingsOf(figure);
  const closure = figureClosure(figure);
  const spars = figure.hosts.filter((h) => h.kind === 'spar');
  const signature = signatureOf(figure);
  const lifted = readMap(figure).ok && signature.ok ? liftedTangles(figure) : undefined;
  const first = lifted?.tangles[0];
  const closed = first ? closedStrands(first) : [];
  return {
    name,
    ...(signature.ok ? { key: signature.value.key } : { declined: sayRefusal(signature) }),
    ropes: figure.ropes.length,
    crossings: crossings.length,
    signs: crossings.map((c) => c.sign),
    windings: figure.ropes.flatMap((r) =>
      spars.map((h) => ({ rope: r.id, host: h.id, turns: windingAbout(figure, r.id, h.id) })),
    ),
    linking: closed.flatMap((a, i) => closed.slice(i + 1).map((b) => (first ? linkingNumber(first, a, b) : 0))),
    skein: (lifted?.tangles ?? []).map((t) => ({
      lifts: Object.fromEntries(t.lifts),
      vector: vectorData(skeinVector(t)),
    })),
    closure: closure.ok
      ? {
          components: closure.components,
          writhe: closure.writhe,
          pd: pdOf(closure.tangle, closure.closure),
          bracket: laurent.terms(closure.jones),
          jones: sayJones(closure.jones),
        }
      : { reason: closure.reason },
  };
}

function pdInvariants(text: string): Result<object> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return refuse(
      'PD code',
      `It is not JSON: ${(error as Error).message}.`,
      'Write it as [[1,4,2,5],[3,6,4,1],[5,2,6,3]].',
    );
  }
  if (!Array.isArray(data) || !data.every((c) => Array.isArray(c)))
    return refuse('PD code', 'It is not a list of crossings.', 'Write each as [i,j,k,l].');
  const code = checkPd(data as number[][]);
  if (!code.ok) return code;
  const jones = pdJones(code.value);
  return accept({
    crossings: code.value.length,
    writhe: pdSigns(code.value).reduce<number>((a, b) => a + b, 0),
    bracket: laurent.terms(jones),
    jones: sayJones(jones),
  });
}

async function invariantsOf({ files: [file], options, io }: Call): Promise<Result<object>> {
  if (options.pd !== undefined) return pdInvariants(options.pd);
  if (file === undefined) return refuse('invariants', 'No file is named.', 'Name a figure file, or give --pd.');
  const read = await open(file, io);
  return read.ok ? accept(knotInvariants(read.value)) : read;
}

const lines = (value: object, indent = ''): string[] =>
  Object.entries(value).flatMap(([key, v]: [string, unknown]) =>
    typeof v === 'object' && v !== null && !Array.isArray(v)
      ? [`${indent}${key}:`, ...lines(v, `${indent}  `)]
      : [`${indent}${key}: ${typeof v === 'string' ? v : JSON.stringify(v)}`],
  );

export const invariants: Command = {
  name: 'invariants',
  usage: [
    ['FILE | --pd "[[1,4,2,5],…]"', 'crossings, writhe, linking numbers, skein vectors, PD code, Jones polynomial'],
  ],
  run: async (call) => {
    const found = await invariantsOf(call);
    if (!found.ok) return complain(found, call);
    answer(call, found.value, () => lines(found.value));
    return CLEAN;
  },
};
