import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../common.mjs';
import { jasmineCounts, karmaCounts, playwrightCounts, type Counts } from './results.mjs';

/** Two specs that pass, one that fails, one that is left out. */
const specs = `
describe('some', () => {
  it('passes', () => expect(1).toBe(1));
  it('passes too', () => expect('Executed 9 of 9 SUCCESS').toContain('9'));
  it('fails', () => expect(1).toBe(2));
  xit('is left out', () => undefined);
});
`;

describe('the counts of', () => {
  let folder = '';
  const at = (name: string): string => join(folder, name);
  beforeEach(() => {
    // Below node_modules, so that the runners find their packages.
    folder = mkdtempSync(join(root, 'node_modules/.counts-'));
  });
  afterEach(() => {
    rmSync(folder, { recursive: true, force: true });
  });

  /** Runs a runner of ours as a terminal with all its colours would, and hands over what its reporter wrote. */
  function results(program: string, args: readonly string[], term: string): { printed: string; text: string } {
    const env = { ...process.env, TERM: term, FORCE_COLOR: '3', COLORTERM: 'truecolor', SPEC_RESULTS: at('results.json'), NODE_OPTIONS: '' };
    const { stdout, stderr } = spawnSync(process.execPath, [join(root, 'node_modules', program), ...args], { cwd: folder, env, encoding: 'utf8' });
    if (!existsSync(at('results.json'))) throw new Error(`no results: ${stdout}${stderr}`);
    return { printed: stdout + stderr, text: readFileSync(at('results.json'), 'utf8') };
  }
  const ofThree = (counts: Counts): void => {
    expect([counts.passed, counts.failed]).toEqual([2, 1]);
  };

  it('specs in Node are the same in colours', () => {
    writeFileSync(at('some.spec.mjs'), specs);
    const args = ['--color', `--reporter=${root}tools/test/jasmine-results.mjs`, at('some.spec.mjs')];
    ofThree(jasmineCounts(results('jasmine/bin/jasmine.js', args, 'xterm-256color').text));
  });

  it('specs in Node tell a run that could not be loaded, and one with a spec singled out', () => {
    const args = [`--reporter=${root}tools/test/jasmine-results.mjs`, at('some.spec.mjs')];
    writeFileSync(at('some.spec.mjs'), 'describe("broken", () => { throw new Error("no"); });');
    expect(jasmineCounts(results('jasmine/bin/jasmine.js', args, 'dumb').text).failed).toBeGreaterThan(0);
    writeFileSync(at('some.spec.mjs'), specs.replace("it('passes'", "fit('passes'"));
    expect(jasmineCounts(results('jasmine/bin/jasmine.js', args, 'dumb').text)).toEqual(jasmine.objectContaining({ passed: 1, failed: 1 }));
  });

  it('specs in the browser are the same in colours', () => {
    writeFileSync(at('some.js'), specs);
    writeFileSync(
      at('karma.conf.cjs'),
      `const shared = require(${JSON.stringify(join(root, 'app/karma.conf.cjs'))});
      module.exports = (config) => { shared(config); config.set({ basePath: __dirname, files: ['some.js'], colors: true, singleRun: true, autoWatch: false }); };`,
    );
    const { printed, text } = results('karma/bin/karma', ['start', at('karma.conf.cjs')], 'xterm-256color');
    expect(printed).toContain('\u001b[');
    ofThree(karmaCounts(text));
  });

  it('journeys are the same in colours', () => {
    writeFileSync(
      at('some.spec.mjs'),
      `import { expect, test } from '@playwright/test';
      test('passes', () => expect(1).toBe(1)); test('passes too', () => undefined); test('fails', () => expect(1).toBe(2)); test.skip('is left out', () => undefined);`,
    );
    writeFileSync(at('playwright.config.mjs'), `export default { reporter: [['list'], ['json', { outputFile: process.env.SPEC_RESULTS }]] };`);
    const { printed, text } = results('@playwright/test/cli.js', ['test'], 'xterm-256color');
    expect(printed).toContain('\u001b[');
    ofThree(playwrightCounts(text));
  });

  it('a journey that passes only at a second try, and an error beside all journeys, are failures', () => {
    const test = (status: string) => ({ title: status, tests: [{ status, results: [{ duration: 5 }] }] });
    const report = { suites: [{ title: 'a', specs: [test('expected'), test('flaky'), test('skipped')] }], errors: [{ message: 'no server' }] };
    expect(playwrightCounts(JSON.stringify(report))).toEqual(jasmine.objectContaining({ passed: 1, failed: 2 }));
  });

  it('a browser that was lost is a failure, whatever it had passed', () => {
    const passed = { name: 'a', status: 'passed', ms: 1 };
    expect(karmaCounts(JSON.stringify({ specs: [passed], error: true }))).toEqual(jasmine.objectContaining({ passed: 1, failed: 1 }));
    expect(jasmineCounts(JSON.stringify({ complete: false, specs: [passed] })).failed).toBe(1);
  });
});
