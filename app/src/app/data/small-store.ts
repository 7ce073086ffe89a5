/**
 * The small store of the browser, beside its database: short texts by key, shared by all pages. A browser may have none, or no room in it; then nothing is held,
 * and whoever asked goes on without.
 */

/** What is held under a key; null when nothing is. */
export function heldText(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** Holds a text under a key, or with null nothing any more. False when that was not possible. */
export function holdText(key: string, text: string | null): boolean {
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
    return true;
  } catch {
    return false;
  }
}

/** Everything held under keys that begin so, by what follows. */
export function heldUnder(prefix: string): readonly (readonly [string, string])[] {
  try {
    return Object.keys(localStorage).flatMap((key) => (key.startsWith(prefix) ? [[key.slice(prefix.length), localStorage.getItem(key) ?? ''] as const] : []));
  } catch {
    return [];
  }
}
