module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher'), require('../tools/test/karma-results.cjs')],
    browsers: ['Quiet'],
    customLaunchers: {
      Quiet: {
        base: 'ChromeHeadless',
        flags: require('../tools/test/chromium-flags.json'),
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
