import { bad, good, parseNumber, tidy, type Result } from '../quantity';

/** Least and most that a bank may count with, of its rated capacity. */
const limits = { least: 0.1, most: 1.2 };

/**
 * The part of the rated capacity that a bank counts with, as somebody writes it: ampere-hours, percent, or the ratio itself.
 *
 * @param ratedAh rated capacity of the bank, Ah; null while nobody has said it
 * @returns the ratio; a problem where the text cannot be read, fits no bank, or may mean two things
 * @example readCapacityInUse('400 Ah', 464) // 0.8621
 */
export function readCapacityInUse(text: string, ratedAh: number | null): Result<number> {
  const match = /^\s*([\d.,]+)\s*(%|percent|ah)?\s*$/i.exec(text.replace(/\u00a0/g, ' '));
  const read = match ? parseNumber(match[1] ?? '') : null;
  if (!match || !read?.ok) return bad('capacity-unread', 'Write it as 400 Ah, 87 % or 0.87.');
  const value = read.value;
  const word = match[2]?.toLowerCase() ?? '';
  const fits = (ratio: number): boolean => ratio >= limits.least - 1e-9 && ratio <= limits.most + 1e-9;
  const ratios = {
    ratio: word === '' ? value : NaN,
    percent: word === '' || word === '%' || word === 'percent' ? value / 100 : NaN,
    ah: (word === '' || word === 'ah') && ratedAh !== null ? value / ratedAh : NaN,
  };
  if (word === 'ah' && ratedAh === null)
    return bad('capacity-unknown', 'The rated capacity is not known. Enter it on Spec, or write the part of it in percent.');
  const possible = [
    ...new Set(
      Object.values(ratios)
        .filter(fits)
        .map((ratio) => ratio.toFixed(6)),
    ),
  ];
  if (possible.length > 1) return bad('capacity-ambiguous', `${text.trim()} may be percent or Ah. Write the unit with it.`);
  const only = possible[0];
  return only === undefined
    ? bad('capacity-range', `A bank counts with ${limits.least * 100} to ${limits.most * 100} % of its rated capacity.`)
    : good(tidy(Number(only)));
}
