/**
 * Which specs are asked for.
 *
 * @typedef {{node: string[] | null, page: string[] | null, journeys: string[] | null}} Choice
 *   Of each kind of specs: patterns of files, or null for none of that kind.
 */

/** Folders whose specs run in Node. */
export const nodeFolders = ['core', 'cli', 'wire', 'devices', 'server', 'demo', 'tools'];

/** @returns {Choice} Everything. */
export const everything = () => ({ node: nodeFolders.map((folder) => `${folder}/**/*.spec.ts`), page: ['**/*.spec.ts'], journeys: [] });

/**
 * What `--only` names: `core/settings`, `core/src/settings/fit.spec.ts`, `server`, `app/prove`, `e2e/prove`.
 *
 * @param {readonly string[]} places
 * @returns {{choice: Choice, wrong: string[]}} and the places that name nothing
 */
export function chosen(places) {
  /** @type {Choice} */
  const choice = { node: null, page: null, journeys: null };
  /** @type {string[]} */
  const wrong = [];
  for (const place of places) {
    const [top = '', ...rest] = place.replace(/\/+$/, '').split('/');
    if (nodeFolders.includes(top)) {
      const inside = top === 'core' && rest.length > 0 && rest[0] !== 'src' ? ['src', ...rest] : rest;
      (choice.node ??= []).push(specsIn([top, ...inside].join('/')));
    } else if (top === 'app') {
      const inside = rest[0] === 'src' ? rest.slice(rest[1] === 'app' ? 2 : 1) : rest;
      (choice.page ??= []).push(inside.length === 0 ? '**/*.spec.ts' : specsIn(['app', ...inside].join('/')));
    } else if (top === 'e2e') {
      // All journeys where none is named; Playwright takes a name as the beginning of a file’s.
      choice.journeys ??= [];
      if (rest.length > 0) choice.journeys.push(`${rest.join('/').replace(/(\.spec)?(\.ts)?$/, '')}.spec.ts`);
    } else wrong.push(place);
  }
  return { choice, wrong };
}

/** @param {string} place */
const specsIn = (place) => (place.endsWith('.ts') ? place.replace(/(\.spec)?\.ts$/, '.spec.ts') : `${place}/**/*.spec.ts`);

/**
 * The specs beside what was changed: folder by folder. A change of the core is also looked at by what stands on it in Node.
 *
 * @param {readonly string[]} paths changed files, from the root of the repository
 * @returns {Choice}
 */
export function besideChanges(paths) {
  const places = new Set();
  for (const path of paths) {
    const parts = path.split('/');
    if (parts[0] === 'core' && parts[1] === 'src') places.add(parts.length > 3 ? `core/${parts[2]}` : 'core');
    else if (parts[0] === 'app' && parts[2] === 'app') places.add(parts.length > 4 ? `app/${parts[3]}` : 'app');
    else if (parts[0] === 'e2e' && path.endsWith('.spec.ts')) places.add(path);
    else if (parts[0] === 'library') places.add('core/card');
    else if (nodeFolders.includes(parts[0] ?? '')) places.add(parts[0]);
  }
  return chosen([...places].sort()).choice;
}
