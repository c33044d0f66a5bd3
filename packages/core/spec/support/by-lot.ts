/** Numbers by lot, the same for the same seed (a linear congruential generator; Knuth, “The Art of Computer Programming” 2, 3.3.4). */
export const byLot = (seed: number): ((below: number) => number) => {
  let state = seed >>> 0;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
};
