/** Reporter of the specs in Node: what failed goes to the console, and all results as JSON to the file named in SPEC_RESULTS. */
import { writeFileSync } from 'node:fs';

export default class {
  /** @type {import('./results.mjs').Spec[]} */
  #specs = [];

  /** @param {jasmine.SpecResult} result */
  specDone({ fullName, status, duration, failedExpectations }) {
    this.#specs.push({ name: fullName, status, ms: duration ?? 0 });
    if (status === 'failed') console.log([`✗ ${fullName}`, ...failedExpectations.map((f) => `    ${f.message}\n${f.stack ?? ''}`)].join('\n'));
  }

  /** @param {jasmine.SuiteResult} result What fails around specs, in what is done before or after all of them. */
  suiteDone({ fullName, failedExpectations }) {
    this.#around(fullName, failedExpectations);
  }

  /** @param {jasmine.JasmineDoneInfo} result */
  jasmineDone({ overallStatus, failedExpectations, incompleteReason }) {
    this.#around('loading the specs', failedExpectations);
    const file = process.env.SPEC_RESULTS;
    if (file) writeFileSync(file, JSON.stringify({ complete: overallStatus !== 'incomplete', reason: incompleteReason, specs: this.#specs }));
  }

  /** @param {string} name @param {jasmine.FailedExpectation[]} failed */
  #around(name, failed) {
    if (failed.length === 0) return;
    this.#specs.push({ name, status: 'failed', ms: 0 });
    console.log([`✗ ${name}`, ...failed.map((f) => `    ${f.message}\n${f.stack ?? ''}`)].join('\n'));
  }
}
