/**
 * What each runner wrote about its specs, as counts. The runners’ own printed text is for people: it is coloured, cut and reworded, and
 * nothing here reads it.
 *
 * @typedef {{name: string, status: string, ms: number}} Spec
 * @typedef {{passed: number, failed: number, slowest: {name: string, ms: number}[]}} Counts
 */

/** @template T @param {string} text @returns {T} */
const read = (text) => /** @type {T} */ (JSON.parse(text));

/** @param {readonly Spec[]} specs @returns {Counts} */
function count(specs) {
  const slowest = [...specs].sort((a, b) => b.ms - a.ms).slice(0, 8);
  return {
    passed: specs.filter(({ status }) => status === 'passed' || status === 'success').length,
    failed: specs.filter(({ status }) => status === 'failed').length,
    slowest: slowest.map(({ name, ms }) => ({ name, ms })),
  };
}

/**
 * Of the reporter in jasmine-results.mjs. A run that did not come to its end, or in which a spec was singled out, has failed.
 *
 * @param {string} text
 * @returns {Counts}
 */
export function jasmineCounts(text) {
  /** @type {{complete: boolean, specs: Spec[]}} */
  const { complete, specs } = read(text);
  const counts = count(specs);
  return complete ? counts : { ...counts, failed: counts.failed + 1 };
}

/**
 * Of the reporter in karma-results.cjs. A browser that stopped or disagrees with its own count has failed.
 *
 * @param {string} text
 * @returns {Counts}
 */
export function karmaCounts(text) {
  /** @type {{specs: Spec[], error: boolean}} */
  const { specs, error } = read(text);
  const counts = count(specs);
  return error && counts.failed === 0 ? { ...counts, failed: 1 } : counts;
}

/**
 * Of Playwright’s JSON reporter. A journey that passed only at a second try has failed; so has an error outside every journey.
 *
 * @param {string} text
 * @returns {Counts}
 */
export function playwrightCounts(text) {
  /** @typedef {{title: string, specs?: {title: string, tests: {status: string, results: {duration: number}[]}[]}[], suites?: Suite[]}} Suite */
  /** @type {{suites: Suite[], errors: unknown[]}} */
  const { suites, errors } = read(text);
  /** @type {Spec[]} */
  const specs = [];
  const states = /** @type {Record<string, string>} */ ({ expected: 'passed', unexpected: 'failed', flaky: 'failed' });
  const walk = (/** @type {Suite} */ suite, /** @type {string} */ within) => {
    for (const spec of suite.specs ?? [])
      for (const { status, results } of spec.tests)
        specs.push({ name: `${within} › ${spec.title}`, status: states[status] ?? status, ms: results.reduce((sum, r) => sum + r.duration, 0) });
    for (const inner of suite.suites ?? []) walk(inner, within || suite.title);
  };
  for (const suite of suites) walk(suite, suite.title);
  const counts = count(specs);
  return { ...counts, failed: counts.failed + errors.length };
}
