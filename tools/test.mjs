/**
 * Everything that must hold: linter, formatter, import directions, types, core specs, specs in the browser, end-to-end.
 * Installs what is missing first. The last line is “N passed, N failed” over all three kinds of specs; a failed check counts as one failure.
 */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { buildAll, copyData, ensureChromium, ensurePackages, ensurePdfReader, root, run } from './common.mjs';

await ensurePackages();
const chromium = await ensureChromium();
await ensurePdfReader();
copyData();
const bin = (name) => `${root}node_modules/.bin/${name}`;
let passed = 0;
let failed = 0;
const broken = [];

async function part(name, work) {
  const started = Date.now();
  const result = await work();
  passed += result.passed ?? 0;
  failed += result.failed ?? 0;
  if (result.failed) broken.push(name);
  if (result.output) console.log(result.output);
  console.log(`== ${name}: ${result.failed ? 'FAILED' : 'good'}, ${((Date.now() - started) / 1000).toFixed(0)} s`);
}

/** A check is good or not; it adds no passes. What it prints is shown when it is not good. */
const check = (name, program, args) =>
  part(name, async () => {
    const { code, output } = await run(bin(program), args, { capture: true, quiet: true });
    return code === 0 ? {} : { failed: 1, output };
  });

/** Runs specs whose counts stand in their output; a runner that counts nothing has failed. */
async function specs(program, args, options, count) {
  const { code, output } = await run(program, args, { ...options, capture: true, quiet: true });
  const counts = count(output);
  if (!counts || counts.passed + counts.failed === 0) return { failed: 1, output };
  const failed = counts.failed || (code === 0 ? 0 : 1);
  return { ...counts, failed, output: failed ? output : '' };
}

/** What is read without running it. The page’s own types, templates and specs are checked where they are built. */
async function read() {
  await check('linter', 'eslint', ['.', '--max-warnings', '0']);
  await check('formatter', 'prettier', ['--check', '--log-level', 'warn', '.']);
  const folders = ['core/src', 'app/src', 'devices/src', 'server/src', 'cli/src', 'demo', 'e2e'];
  await check('import directions', 'depcruise', [...folders, '--config', '.dependency-cruiser.cjs']);
  for (const project of ['core/tsconfig.src.json', 'core/tsconfig.spec.json', 'devices', 'server', 'cli', 'e2e', '.'])
    await check(`types of ${project}`, 'tsc', ['-p', project, '--noEmit']);
}

async function runSpecs() {
  await part('core, shell door, device and server specs', () => {
    const args = ['--import', 'tsx', 'node_modules/jasmine/bin/jasmine.js', '{core,cli,devices,server,demo}/**/*.spec.ts', '!**/node_modules/**'];
    return specs(process.execPath, args, {}, (output) => {
      const [, total, bad] = /(\d+) specs?, (\d+) failures?/.exec(output) ?? [];
      return total && { passed: total - bad, failed: Number(bad) };
    });
  });
  await part('browser specs', () =>
    specs(bin('ng'), ['test', '--watch=false'], { cwd: `${root}app`, env: { CHROME_BIN: chromium } }, (output) => {
      const last = [...output.matchAll(/Executed (\d+) of \d+ .*?(?:\((\d+) FAILED\))?/g)].at(-1);
      const total = Number(/TOTAL: (\d+) SUCCESS/.exec(output)?.[1] ?? last?.[1] ?? 0);
      const bad = Number([...output.matchAll(/(\d+) FAILED/g)].at(-1)?.[1] ?? 0);
      return { passed: /TOTAL: \d+ SUCCESS/.test(output) ? total : total - bad, failed: bad };
    }),
  );
  await part('build', async () => {
    await buildAll({ quiet: true });
    return {};
  });
}

// Two at a time: neither uses more than one core for long.
await Promise.all([read(), runSpecs()]);
await part('end-to-end', async () => {
  const results = `${root}e2e/test-results/results.json`;
  rmSync(results, { force: true });
  const { code } = await run(bin('playwright'), ['test'], { cwd: `${root}e2e`, env: { CHROME_BIN: chromium } });
  if (!existsSync(results)) return { failed: 1 };
  const { stats } = JSON.parse(readFileSync(results, 'utf8'));
  return { passed: stats.expected, failed: stats.unexpected + stats.flaky || (code === 0 ? 0 : 1) };
});

if (broken.length > 0) console.log(`\nFailed: ${broken.join(', ')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 || passed === 0 ? 1 : 0;
