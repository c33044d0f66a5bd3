/* global jasmine */
// A Jasmine helper: one seed for the order of specs and for properties, the slowest specs, and the plain closing line that the
// test script adds up.
import fc from 'fast-check';

/** The seed of a plain run. A submission never fails by chance; fresh seeds are what `npm run fuzz` is for. */
const PLAIN_SEED = '20261';
const seed = process.env.FOXTRAIL_SEED ?? PLAIN_SEED;
/** So many of the slowest specs are named, with their seconds. */
const SLOWEST = 12;

console.log(`Seed ${seed} (FOXTRAIL_SEED=${seed} runs it again)`);
jasmine.getEnv().configure({ seed });
fc.configureGlobal({ seed: Number(seed) });

let passed = 0;
let failed = 0;
const slow = [];

jasmine.getEnv().addReporter({
  specDone: (result) => {
    slow.push([result.duration, result.fullName]);
    if (result.status === 'passed') passed += 1;
    if (result.status === 'failed') {
      failed += 1;
      console.log(`\n✗ ${result.fullName}`);
    }
  },
  jasmineDone: (result) => {
    failed += result.failedExpectations.length;
    slow.sort(([a], [b]) => b - a);
    for (const [ms, name] of slow.slice(0, SLOWEST)) console.log(`${(ms / 1000).toFixed(1).padStart(6)} s  ${name}`);
    console.log(`\n${passed} passed, ${failed} failed`);
  },
});

// A busy machine is slow; a spec that hangs is told all the same.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 180_000;
