/**
 * Everything that must hold: linter, formatter, import directions, types, specs in Node, specs in the browser, the build, journeys on the
 * built page. Installs what is missing first. The last line is “N passed, N failed” over all three kinds of specs; a failed check counts as
 * one failure.
 *
 *   npm test                              the gate
 *   npm test -- --all                     with the long ones: what is looked at only before a change lands
 *   npm test -- --only core/settings      specs of one folder or file (core/…, cli, wire, server, devices, demo, tools, app/…, e2e/…), no checks
 *   npm test -- --only e2e/prove -g text  journeys whose title has the text
 *   npm test -- --changed                 specs beside what git says is changed
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { buildAll, copyData, ensureBuilt, ensureChromium, ensurePackages, ensurePdfReader, ensureSerialLines, jasmineArgs, root, run } from './common.mjs';
import { besideChanges, chosen, everything } from './test/choose.mjs';
import { jasmineCounts, karmaCounts, playwrightCounts } from './test/results.mjs';

const { values: asked } = parseArgs({
  options: {
    all: { type: 'boolean', default: false },
    only: { type: 'string', multiple: true, default: [] },
    changed: { type: 'boolean', default: false },
    grep: { type: 'string', short: 'g' },
    slow: { type: 'boolean', default: false },
  },
});
const some = asked.only.length > 0 || asked.changed;
const choice = choose();

await ensurePackages();
// The specs of the tools run every runner.
const chromium = choice.page || choice.journeys || choice.node?.some((pattern) => pattern.startsWith('tools')) ? await ensureChromium() : '';
if (choice.journeys) await ensurePdfReader();
if (choice.journeys || choice.node?.some((pattern) => /server|cli|wire/.test(pattern))) await ensureSerialLines();
copyData();
const bin = (/** @type {string} */ name) => `${root}node_modules/.bin/${name}`;
const results = mkdtempSync(join(tmpdir(), 'keel-results-'));
let passed = 0;
let failed = 0;
/** @type {string[]} */
const broken = [];

/** @typedef {{passed?: number, failed?: number, output?: string, slowest?: {name: string, ms: number}[]}} Outcome */

/** @param {string} name @param {() => Promise<Outcome>} work */
async function part(name, work) {
  const started = Date.now();
  const result = await work();
  passed += result.passed ?? 0;
  failed += result.failed ?? 0;
  if (result.failed) broken.push(name);
  if (result.failed && result.output) console.log(result.output);
  const count = result.passed === undefined ? '' : `, ${result.passed} passed`;
  console.log(`== ${name}: ${result.failed ? 'FAILED' : 'good'}${count}, ${((Date.now() - started) / 1000).toFixed(0)} s`);
  if (asked.slow) for (const { name: spec, ms } of result.slowest ?? []) console.log(`   ${(ms / 1000).toFixed(1)} s  ${spec}`);
}

/** A check is good or not; it adds no passes. What it prints is shown when it is not good. @param {string[]} args */
const check = (/** @type {string} */ name, /** @type {string} */ program, args) => () =>
  part(name, async () => {
    const { code, output } = await run(bin(program), args, { capture: true, quiet: true });
    return code === 0 ? {} : { failed: 1, output };
  });

/**
 * Runs specs and reads the results their reporter wrote. A runner that wrote none, or counted nothing, has failed; so has one that says it
 * has failed while its results do not.
 *
 * @param {string} name
 * @param {(text: string) => import('./test/results.mjs').Counts} read
 * @param {(file: string) => Promise<{code: number, output: string}>} work
 * @returns {Promise<Outcome>}
 */
async function specs(name, read, work) {
  const file = join(results, `${name}.json`);
  const { code, output } = await work(file);
  if (!existsSync(file)) return { failed: 1, output };
  const counts = read(readFileSync(file, 'utf8'));
  const none = counts.passed + counts.failed === 0;
  return { ...counts, failed: counts.failed || (code === 0 && !none ? 0 : 1), output: none ? `${output}\nNo spec was run.` : output };
}

const inNode = (/** @type {string[]} */ patterns) => () =>
  part('specs in Node', () =>
    specs('node', jasmineCounts, (file) => {
      const args = [...jasmineArgs(patterns), '--reporter=./tools/test/jasmine-results.mjs'];
      const env = { CHROME_BIN: chromium, SPEC_RESULTS: file, ...(asked.all || some ? { ALL_ROUNDS: '1' } : {}) };
      return run(process.execPath, asked.grep ? [...args, `--filter=${asked.grep}`] : args, { env, capture: true, quiet: true });
    }),
  );

// Types of the page’s specs are looked at with all others.
const inPage = (/** @type {string[]} */ patterns) => () =>
  part('specs in the browser', () =>
    specs('page', karmaCounts, (file) => {
      const include = patterns.flatMap((pattern) => ['--include', pattern]);
      return run(bin('ng'), ['test', '--watch=false', ...include], {
        cwd: `${root}app`,
        env: { CHROME_BIN: chromium, SPEC_RESULTS: file, NG_BUILD_TYPE_CHECK: '0' },
        capture: true,
        quiet: true,
        // An error between specs leaves the server of this runner waiting for ever.
        last: file,
      });
    }),
  );

const journeys = (/** @type {string[]} */ files) =>
  part('journeys', () =>
    specs('journeys', playwrightCounts, (file) => {
      const filter = [...(asked.grep ? ['-g', asked.grep] : []), ...(asked.all || some ? [] : ['--grep-invert', '@long'])];
      const env = { CHROME_BIN: chromium, SPEC_RESULTS: file, ...(asked.all ? { ALL_ROUNDS: '1' } : {}) };
      // They are watched as they go; nothing is shown again at the end.
      return run(bin('playwright'), ['test', ...filter, ...files], { cwd: `${root}e2e`, env });
    }),
  );

/** Two things at a time, in this order: none of them uses more than one core for long. @param {(() => Promise<void>)[]} works */
async function twoAtATime(works) {
  const queue = [...works];
  const lane = async () => {
    for (let next = queue.shift(); next; next = queue.shift()) await next();
  };
  await Promise.all([lane(), lane()]);
}

/** What is asked for on the command line. */
function choose() {
  if (!some) return everything();
  if (asked.changed) {
    const git = (/** @type {string[]} */ ...args) => spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
    return besideChanges([...git('diff', '--name-only', 'HEAD'), ...git('ls-files', '--others', '--exclude-standard')]);
  }
  const { choice: found, wrong } = chosen(asked.only);
  if (wrong.length === 0) return found;
  console.error(`--only does not know ${wrong.join(', ')}. Name a place such as core/settings, server, app/prove or e2e/prove.`);
  process.exit(1);
}

try {
  if (some) {
    await twoAtATime([...(choice.page ? [inPage(choice.page)] : []), ...(choice.node ? [inNode(choice.node)] : [])]);
    if (choice.journeys) {
      await part('build', async () => ({ output: await ensureBuilt() }));
      await journeys(choice.journeys);
    }
  } else {
    const folders = ['core/src', 'app/src', 'devices/src', 'wire/src', 'server/src', 'cli/src', 'demo', 'e2e', 'tools'];
    await twoAtATime([
      () =>
        part('build', async () => {
          await buildAll({ quiet: true });
          return {};
        }),
      () =>
        part('types and linter', async () => {
          const { code, output } = await run(process.execPath, ['tools/test/read.mjs'], { capture: true, quiet: true });
          return code === 0 ? {} : { failed: 1, output };
        }),
      inNode(choice.node ?? []),
      inPage(choice.page ?? []),
      check('types of the core by itself', 'tsc', ['-p', 'core/tsconfig.src.json', '--noEmit']),
      check('formatter', 'prettier', ['--check', '--log-level', 'warn', '.']),
      check('import directions', 'depcruise', [...folders, '--config', '.dependency-cruiser.cjs']),
    ]);
    await journeys([]);
  }
} finally {
  rmSync(results, { recursive: true, force: true });
}

if (broken.length > 0) console.log(`\nFailed: ${broken.join(', ')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 || passed === 0 ? 1 : 0;
