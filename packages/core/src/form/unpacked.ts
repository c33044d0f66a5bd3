/** A form from its file's content, read before: by `readForm`, or sent by the house's own server. */
import type { FormFile } from './file.js';
import type { Chain, Solid } from './form.js';
import type { SetForm } from './set.js';

export const unpacked = ({ ropes, solids, proof, runs }: FormFile): SetForm => ({
  proof,
  runs,
  chains: ropes.map(({ places, at, ...rest }): Chain => ({
    ...rest,
    x: Float64Array.from(places),
    at: Float64Array.from(at),
  })),
  solids: solids.map(({ places, ...rest }): Solid => ({ ...rest, x: Float64Array.from(places) })),
});
