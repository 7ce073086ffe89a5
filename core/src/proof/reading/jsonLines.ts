import { fieldsOfJson } from '../../quantity';

/** Names of all values in the first lines, in the order they come up; at most 300. */
export function jsonKeys(lines: readonly string[]): readonly string[] {
  const keys = new Set<string>();
  for (const line of lines) for (const key of fieldsOfJson(line)?.keys() ?? []) if (keys.size < 300) keys.add(key);
  return [...keys];
}

/** Lines as rows of fields in the order of `headers`; a line that is no object is a row of one field, so that it is listed as unreadable. */
export const jsonRows = (lines: readonly string[], headers: readonly string[]): readonly (readonly string[])[] =>
  lines.map((line) => {
    if (line.trim() === '') return [''];
    const fields = fieldsOfJson(line);
    return fields ? headers.map((h) => fields.get(h) ?? '') : [line.slice(0, 40), ''];
  });
