/** Reporter of the specs in the browser: all results as JSON to the file named in SPEC_RESULTS. */
const { writeFileSync } = require('node:fs');

function KarmaResults() {
  /** @type {import('./results.mjs').Spec[]} */
  const specs = [];
  let error = false;
  this.onSpecComplete = (_browser, result) => {
    const status = result.skipped || result.pending ? 'pending' : result.success ? 'passed' : 'failed';
    specs.push({ name: [...result.suite, result.description].join(' '), status, ms: result.time });
  };
  this.onBrowserError = () => {
    error = true;
  };
  this.onRunComplete = (browsers, results) => {
    if (results.error || results.disconnected || browsers.length === 0) error = true;
    if (process.env.SPEC_RESULTS) writeFileSync(process.env.SPEC_RESULTS, JSON.stringify({ specs, error }));
  };
}

module.exports = { 'reporter:results': ['type', KarmaResults] };
