// Web unit tests in Debian's Chromium.
process.env.CHROME_BIN ??= '/usr/bin/chromium';

/** Prints the plain closing line that the test script adds up. */
function CountReporter() {
  this.onRunComplete = (_browsers, results) =>
    console.log(`${results.success} passed, ${results.failed + (results.error && !results.failed ? 1 : 0)} failed`);
}

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [
      require('karma-jasmine'),
      require('karma-chrome-launcher'),
      { 'reporter:count': ['type', CountReporter] },
    ],
    reporters: ['dots', 'count'],
    hostname: '127.0.0.1',
    listenAddress: '127.0.0.1',
    browsers: ['Debian'],
    customLaunchers: {
      Debian: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
          // No press of a person makes a spec's sound heard.
          '--autoplay-policy=no-user-gesture-required',
        ],
      },
    },
    // A busy machine is slow; what hangs is told all the same.
    // The order of specs is the same every time, or by the seed that is given; Jasmine prints it.
    client: { jasmine: { timeoutInterval: 30_000, random: true, seed: process.env.FOXTRAIL_SEED ?? '20261' } },
    restartOnFileChange: false,
    singleRun: true,
  });
