/* global jasmine */
// A Jasmine helper: the plain closing line that the test script adds up.
let passed = 0;
let failed = 0;

jasmine.getEnv().addReporter({
  specDone: (result) => {
    if (result.status === 'passed') passed += 1;
    if (result.status === 'failed') {
      failed += 1;
      console.log(`\n✗ ${result.fullName}`);
    }
  },
  jasmineDone: (result) => {
    failed += result.failedExpectations.length;
    console.log(`\n${passed} passed, ${failed} failed`);
  },
});

// A busy machine is slow; a spec that hangs is told all the same.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;
