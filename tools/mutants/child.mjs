/**
 * Runs the bundled specs once, with one change made or with none, and tells the result on the standard output.
 * Called with the bundle, the number of the change (-1: none, and tell which spec comes by which change) and, where only some specs are
 * wanted, a file that lists them in order.
 */
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import jasmineCore from 'jasmine-core';

const [bundle = '', active = '-1', list] = process.argv.slice(2);
const chosen = Number(active);
/** What comes by while a file of specs, or anything else (''), is loaded. @type {Map<string, Set<number>>} */
const atLoading = new Map([['', new Set()]]);
let seen = /** @type {Set<number>} */ (atLoading.get(''));
Object.assign(globalThis, {
  __m: chosen < 0 ? (/** @type {number} */ id) => (seen.add(id), false) : (/** @type {number} */ id) => id === chosen,
});

const jasmine = jasmineCore.boot();
const env = jasmine.getEnv();
env.configure({ random: false, stopOnSpecFailure: chosen >= 0 });
/** @type {{id: string, name: string, file: string, ms: number, seen: number[], status: string}[]} */
const specs = [];
let file = '';
/** @type {Map<string, string>} */
const files = new Map();
const register = globalThis.it;
Object.assign(globalThis, {
  __specs: (/** @type {string} */ name) => {
    file = name;
    seen = atLoading.get(name) ?? new Set();
    atLoading.set(name, seen);
  },
  it: (/** @type {Parameters<typeof it>} */ ...args) => {
    const spec = /** @type {{id: string}} */ (/** @type {unknown} */ (register(...args)));
    files.set(spec.id, file);
    return spec;
  },
});
/** What comes by in the preparations of the suites that are open, the outermost first: it belongs to every spec in them. @type {Set<number>[]} */
const prepared = [];
env.addReporter({
  suiteStarted: () => {
    seen = new Set();
    prepared.push(seen);
  },
  suiteDone: () => {
    prepared.pop();
    seen = prepared.at(-1) ?? new Set();
  },
  specStarted: () => {
    seen = new Set();
  },
  specDone: (result) => {
    const own = seen;
    // What is prepared between two specs belongs to those that follow.
    seen = prepared.at(-1) ?? new Set();
    specs.push({
      id: result.id,
      name: result.fullName,
      file: files.get(result.id) ?? '',
      ms: result.duration ?? 0,
      seen: chosen < 0 ? [...new Set([...prepared.flatMap((set) => [...set]), ...own])] : [],
      status: result.status,
    });
  },
});
const tell = (/** @type {object} */ result) => process.stdout.write(`\n@@${JSON.stringify(result)}\n`, () => process.exit(0));
try {
  await import(pathToFileURL(bundle).href);
  const { overallStatus } = /** @type {{overallStatus: string}} */ (
    await env.execute(list ? /** @type {never} */ (JSON.parse(readFileSync(list, 'utf8'))) : undefined)
  );
  const broken = specs.find((spec) => spec.status === 'failed');
  tell(
    chosen < 0
      ? { overallStatus, atLoading: Object.fromEntries([...atLoading].map(([name, ids]) => [name, [...ids]])), specs }
      : { caught: overallStatus === 'failed', by: broken?.name ?? 'loading' },
  );
} catch (error) {
  tell({ overallStatus: 'failed', caught: true, by: `loading: ${String(error).slice(0, 200)}`, specs: [] });
}
