module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher'), require('../tools/test/karma-results.cjs')],
    browsers: ['Quiet'],
    customLaunchers: {
      Quiet: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    // Nothing is asserted on time; a busy machine must not fail a spec.
    client: { jasmine: { timeoutInterval: 600_000 } },
    captureTimeout: 600_000,
    browserNoActivityTimeout: 900_000,
    browserDisconnectTimeout: 120_000,
    reporters: ['dots', 'results'],
    restartOnFileChange: false,
  });
