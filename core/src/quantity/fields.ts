import { isRecord } from './record';

/** Puts values under their path: {"bank": {"volts": 13.2}} is “bank.volts”. Lists and what lies deeper than four levels are left out. */
function flat(value: unknown, prefix: string, out: Map<string, string>, depth: number): void {
  if (isRecord(value)) {
    if (depth <= 4) for (const [key, inner] of Object.entries(value)) flat(inner, prefix === '' ? key : `${prefix}.${key}`, out, depth + 1);
  } else if (prefix !== '' && (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean')) out.set(prefix, String(value));
}

/** The values of a JSON text by their path, as they are written; null for what is no object with a value in it. */
export function fieldsOfJson(text: string): Map<string, string> | null {
  try {
    const out = new Map<string, string>();
    flat(JSON.parse(text), '', out, 0);
    return out.size > 0 ? out : null;
  } catch {
    return null;
  }
}
