/** Runs a computation that tells of its progress to its end at once. */
export function runOut<T>(work: Generator<unknown, T, unknown>): T {
  for (;;) {
    const step = work.next();
    if (step.done === true) return step.value;
  }
}
