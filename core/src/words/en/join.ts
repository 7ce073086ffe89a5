/** "Solar fore and Solar aft", "A, B and C". */
export const listed = (names: readonly string[]): string =>
  names.length <= 1 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;

/** With what it counts: "1 cell", "8 cells". */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

/** "the sheet’s 28.00–28.40 V", "the sheet’s maximum of 26.40 V". */
export const sheetBand = ({ min, max }: { readonly min: number | null; readonly max: number | null }, numbers: string): string =>
  `the sheet’s ${min !== null && max !== null ? '' : max !== null ? 'maximum of ' : 'minimum of '}${numbers}`;

/** Who decides about fuses, cables and earthing. */
export const codesDecide = 'Local codes and a licensed electrician decide.';
