import { mkdirSync, readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { woven, type Mutant } from './find';

/** A change of one file of the core, with the number by which the runner asks for it. */
export type Placed = Mutant & { readonly id: number; readonly file: string };

/** Things by what they have in common, in the order they come. */
export function grouped<T>(things: readonly T[], by: (thing: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const thing of things) groups.set(by(thing), [...(groups.get(by(thing)) ?? []), thing]);
  return groups;
}

/** Every TypeScript file below a folder, as paths from the root of the repository, in a fixed order. */
export const sourcesBelow = (root: string, folder: string): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.ts') && !path.endsWith('.d.ts'))
    .map((path) => `${folder}/${path}`)
    .sort();

/** One file of all specs of the core, with every change woven into it. Specs say which file they come from. */
export async function bundleSpecs(root: string, placed: readonly Placed[], outfile: string): Promise<void> {
  const specs = sourcesBelow(root, 'core/src').filter((path) => path.endsWith('.spec.ts'));
  const byFile = grouped(placed, (mutant) => mutant.file);
  mkdirSync(join(outfile, '..'), { recursive: true });
  await build({
    stdin: { contents: specs.map((path) => `import './${path}';`).join('\n'), resolveDir: root },
    bundle: true,
    format: 'esm',
    platform: 'node',
    packages: 'external',
    alias: { '@calm-keel/core': join(root, 'core/src') },
    outfile,
    logLevel: 'error',
    plugins: [
      {
        name: 'weave',
        setup: ({ onLoad }) => {
          onLoad({ filter: /core\/src\/.*\.ts$/ }, ({ path }) => {
            const name = relative(root, path);
            const text = readFileSync(path, 'utf8').replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href));
            if (path.endsWith('.spec.ts')) return { contents: `globalThis.__specs(${JSON.stringify(name)});\n${text}`, loader: 'ts' };
            return { contents: `globalThis.__specs('');\n${woven(text, byFile.get(name) ?? [])}`, loader: 'ts' };
          });
        },
      },
    ],
  });
}
