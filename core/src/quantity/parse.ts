import { bad, good, type Result } from './result';

/**
 * Reads a number as people type it: decimal point or comma, a true minus or a hyphen, spaces around.
 * Refuses thousands separators, because "1,234" means two things.
 *
 * @returns the number, or a sentence that says what could not be read
 * @example parseNumber('28,1') // { ok: true, value: 28.1 }
 */
export function parseNumber(text: string): Result<number> {
  const plain = text.trim().replace(/[−–]/g, '-');
  if (plain === '') return bad('number-empty', 'Nothing is entered here. Type a number.');
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(plain))
    return bad('number-unreadable', `“${text.trim()}” is not a number. Type digits with one point or comma, without the unit.`);
  const value = Number(plain.replace(',', '.'));
  return Number.isFinite(value) && Math.abs(value) < 1e12 ? good(value) : bad('number-too-large', `“${text.trim()}” is too large to be a real figure.`);
}
