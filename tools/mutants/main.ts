/**
 * `npm run mutants -- --folder settings --sample 200 [--seed 1]`: makes small changes to the core, one at a time, and tells which of them
 * no spec of the core notices. `--folder` may be given several times, name a folder or a file below core/src, or be left out for all of it.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { randomFrom } from '../../core/src/physics';
import { bundleSpecs, grouped, sourcesBelow, type Placed } from './bundle';
import { mutantsOf } from './find';

const root = fileURLToPath(new URL('../../', import.meta.url));
const { values } = parseArgs({
  options: {
    folder: { type: 'string', multiple: true, default: [''] },
    sample: { type: 'string', default: '200' },
    seed: { type: 'string', default: '1' },
    workers: { type: 'string', default: '2' },
    kind: { type: 'string' },
  },
});

/** Changes that make no difference by which a test could tell them, and why. Named by their line, so that they do not drift. */
interface Neutral {
  readonly file: string;
  readonly line: string;
  readonly before: string;
  readonly after?: string;
  readonly why: string;
}
const neutral = JSON.parse(readFileSync(new URL('neutral.json', import.meta.url), 'utf8')) as readonly Neutral[];

const lineOf = (file: string, line: number): string => (readFileSync(join(root, file), 'utf8').split('\n')[line - 1] ?? '').trim();
const isNeutral = (m: Placed): boolean =>
  neutral.some((n) => n.file === m.file && n.before === m.before && (n.after === undefined || n.after === m.after) && lineOf(m.file, m.line) === n.line);

const wanted = values.folder.map((folder) => `core/src/${folder}`);
const files = sourcesBelow(root, 'core/src').filter(
  (path) => !path.endsWith('.spec.ts') && !path.startsWith('core/src/testing/') && wanted.some((folder) => path.startsWith(folder)),
);
const all = files
  .flatMap((file) => mutantsOf(readFileSync(join(root, file), 'utf8'), file).map((mutant) => ({ ...mutant, file })))
  .filter((mutant) => !values.kind || mutant.kind === values.kind)
  .map((mutant, id): Placed => ({ ...mutant, id }));
const random = randomFrom(Number(values.seed));
const drawn = all
  .map((mutant) => ({ mutant, at: random() }))
  .sort((a, b) => a.at - b.at)
  .slice(0, Number(values.sample))
  .map(({ mutant }) => mutant);

const short = (text: string): string => text.replace(/\s+/g, ' ').slice(0, 110);
const told = (m: Placed): string => `${m.file}:${m.line} ${m.kind}: ${short(m.before)} → ${m.statement ? 'left out' : short(m.after)}`;

const named = drawn.filter(isNeutral);
const sample = drawn.filter((mutant) => !isNeutral(mutant));
const work = mkdtempSync(join(root, 'node_modules/.mutants-'));
const bundle = join(work, 'specs.mjs');

interface Told {
  readonly caught?: boolean;
  readonly by?: string;
  readonly overallStatus?: string;
  readonly atLoading?: Readonly<Record<string, readonly number[]>>;
  readonly specs?: readonly {
    readonly id: string;
    readonly name: string;
    readonly file: string;
    readonly ms: number;
    readonly seen: readonly number[];
    readonly status: string;
  }[];
}

/** Runs the specs in a process of their own; one that does not end has noticed the change. */
function once(mutant: number, list: string | null, patienceMs: number): Promise<Told> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [fileURLToPath(new URL('child.mjs', import.meta.url)), bundle, String(mutant), ...(list ? [list] : [])], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    let out = '';
    child.stdout.on('data', (data: Buffer) => (out += data.toString()));
    const patience = setTimeout(() => child.kill('SIGKILL'), patienceMs);
    child.on('close', () => {
      clearTimeout(patience);
      const at = out.lastIndexOf('\n@@');
      resolve(at < 0 ? { caught: true, by: 'no end' } : (JSON.parse(out.slice(at + 3)) as Told));
    });
  });
}

try {
  await bundleSpecs(root, sample, bundle);
  const started = Date.now();
  const base = await once(-1, null, 3_600_000);
  if (base.overallStatus !== 'passed' || !base.specs)
    throw new Error(`The specs do not pass without any change: ${(base.specs ?? []).flatMap((s) => (s.status === 'failed' ? [s.name] : [])).join('; ')}`);
  const wholeMs = Date.now() - started;
  console.error(
    `${all.length} changes possible, ${drawn.length} drawn, ${named.length} of them neutral; ${base.specs.length} specs in ${(wholeMs / 1000).toFixed(0)} s`,
  );
  const atLoading = base.atLoading ?? {};
  const comesBy = (spec: { readonly file: string; readonly seen: readonly number[] }, id: number): boolean =>
    spec.seen.includes(id) || (atLoading[spec.file]?.includes(id) ?? false) || (atLoading['']?.includes(id) ?? false);
  const suites = grouped(base.specs, (spec) => spec.file);

  /** Specs that come by the change, those beside its file first, then the quick files. */
  const listFor = (mutant: Placed): string[] => {
    const folder = mutant.file.split('/').slice(0, 3).join('/');
    return [...suites]
      .map(([file, specs]) => ({ file, specs: specs.filter((spec) => comesBy(spec, mutant.id)) }))
      .sort((a, b) => Number(b.file.startsWith(`${folder}/`)) - Number(a.file.startsWith(`${folder}/`)) || cost(a.specs) - cost(b.specs))
      .flatMap(({ specs }) => specs.map((spec) => spec.id));
  };
  const cost = (specs: readonly { readonly ms: number }[]): number => specs.reduce((sum, spec) => sum + spec.ms, 0);

  const survivors: Placed[] = [];
  /** Fallbacks of an index that no spec reaches: there is always something at it. */
  let idle = 0;
  let done = 0;
  const queue = [...sample];
  const worker = async (n: number): Promise<void> => {
    for (let mutant = queue.shift(); mutant; mutant = queue.shift()) {
      const ids = listFor(mutant);
      if (ids.length === 0 && mutant.fallback) {
        idle++;
        continue;
      }
      const list = join(work, `list-${n}.json`);
      writeFileSync(list, JSON.stringify(ids));
      const { caught } = ids.length === 0 ? { caught: false } : await once(mutant.id, list, wholeMs * 3 + 30_000);
      if (!caught) {
        survivors.push(mutant);
        console.error(`  unnoticed: ${told(mutant)}`);
      }
      done++;
      if (done % 20 === 0) console.error(`${done} of ${sample.length}, ${survivors.length} unnoticed`);
    }
  };
  await Promise.all(Array.from({ length: Number(values.workers) }, (_, n) => worker(n)));

  survivors.sort((a, b) => a.file.localeCompare(b.file) || a.start - b.start);
  for (const mutant of survivors) console.log(told(mutant));
  const counted = sample.length - idle;
  const share = counted === 0 ? 100 : (100 * (counted - survivors.length)) / counted;
  console.log(
    `| ${values.folder.join(', ') || 'core'} | ${all.length} | ${counted} | ${counted - survivors.length} | ${share.toFixed(1)} % | ${named.length + idle} |`,
  );
} finally {
  rmSync(work, { recursive: true, force: true });
}
