/** Packages that the packed programs need to run, copied as they lie installed. */
import { spawnSync } from 'node:child_process';
import { cpSync } from 'node:fs';
import { join, relative } from 'node:path';

/**
 * Folders of the packages that parts of this repository need to run, as npm has put them: those of one part alone lie in its own folder. What lies
 * inside a package comes along with it.
 *
 * @param {string} root
 * @param {readonly string[]} parts
 * @returns {string[]} from the root
 */
export function packagesOf(root, parts) {
  const { stdout, error } = spawnSync('npm', ['ls', '--all', '--omit=dev', '--parseable', ...parts.flatMap((part) => ['-w', part])], {
    cwd: root,
    encoding: 'utf8',
  });
  if (error) throw error;
  const inside = /node_modules\/(?!@calm-keel\/)/;
  const folders = stdout
    .split('\n')
    .map((path) => relative(root, path.trim()).replaceAll('\\', '/'))
    .filter((path) => inside.test(path) && path.split('node_modules/').length === 2);
  if (folders.length === 0) throw new Error('npm tells of no packages: install them first.');
  return [...new Set(folders)].sort();
}

/** What nobody needs to run a package. @param {string} path */
const superfluous = (path) => /\.(d\.[cm]?ts|map|md|markdown)$|\/(test|tests|docs|example|examples|benchmark|benchmarks|\.github)$/.test(path);

/**
 * Copies folders of packages to the same places of another root.
 *
 * @param {string} from
 * @param {string} to
 * @param {readonly string[]} folders from the root
 * @param {(path: string) => boolean} leftOut asked of each path, from the root
 */
export function copyPackages(from, to, folders, leftOut = () => false) {
  for (const folder of folders)
    cpSync(join(from, folder), join(to, folder), {
      recursive: true,
      dereference: true,
      filter: (path) => {
        const place = relative(from, path).replaceAll('\\', '/');
        return !superfluous(place.slice(folder.length)) && !leftOut(place);
      },
    });
}
