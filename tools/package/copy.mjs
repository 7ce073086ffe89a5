/** Packages that programs need to run, copied as they lie installed. */
import { cpSync, existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Names of everything that packages need to run, themselves among them: dependencies of dependencies, and optional ones that are installed.
 *
 * @param {string} modules a folder node_modules
 * @param {readonly string[]} names
 * @param {ReadonlySet<string>} without
 */
export function neededBy(modules, names, without = new Set()) {
  /** @type {Set<string>} */
  const needed = new Set();
  const open = [...names];
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    const file = join(modules, name, 'package.json');
    if (needed.has(name) || without.has(name) || !existsSync(file)) continue;
    needed.add(name);
    const { dependencies = {}, optionalDependencies = {} } = /** @type {{dependencies?: object, optionalDependencies?: object}} */ (
      JSON.parse(readFileSync(file, 'utf8'))
    );
    open.push(...Object.keys(dependencies), ...Object.keys(optionalDependencies));
  }
  return [...needed].sort();
}

/** What nobody needs to run a package. @param {string} path */
const superfluous = (path) => /\.(d\.[cm]?ts|map|md|markdown)$|\/(test|tests|docs|example|examples|benchmark|benchmarks|\.github)$/.test(path);

/**
 * Copies packages into another folder.
 *
 * @param {string} from a folder node_modules
 * @param {string} to another
 * @param {readonly string[]} names
 * @param {(path: string) => boolean} leftOut
 */
export function copyPackages(from, to, names, leftOut = () => false) {
  for (const name of names) {
    cpSync(join(from, name), join(to, name), {
      recursive: true,
      dereference: true,
      filter: (path) => {
        const inside = path.slice(from.length).replaceAll('\\', '/');
        return !superfluous(inside.slice(name.length)) && !leftOut(inside);
      },
    });
  }
}
