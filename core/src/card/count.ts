import type { RegisterForm, Telemetry } from './telemetry';

/** What an unknown or unavailable register holds. */
export const noReading = -32_768;

/** A 16-bit word as a signed number. */
export const fromWord = (word: number): number => (word > 32_767 ? word - 65_536 : word);
/** A number from −32,768 to 65,535 as a 16-bit word. */
export const toWord = (value: number): number => (value < 0 ? value + 65_536 : value);

/** Where a number stands, and how its words make it. */
export type CountPlace = Pick<Telemetry['values'][number], 'register' | 'form' | 'order'>;

const isFloat = (form: RegisterForm | undefined): form is 'float32' => form === 'float32';
/** How many words a number takes. */
export const wordsIn = ({ form }: Pick<CountPlace, 'form'>): 1 | 2 => (form === 'int32' || form === 'uint32' || isFloat(form) ? 2 : 1);
/** Every register that a number takes. */
export const registersOf = (at: CountPlace): readonly number[] => (wordsIn(at) === 2 ? [at.register, at.register + 1] : [at.register]);

/** What a number holds that nobody has measured, by its form. */
const nothing: Readonly<Record<RegisterForm, number>> = { int16: noReading, uint16: 65_535, int32: -2_147_483_648, uint32: 4_294_967_295, float32: NaN };
/** The least and the greatest count of a form: what says that there is no reading is none. */
export const countEnds: Readonly<Record<Exclude<RegisterForm, 'float32'>, { readonly least: number; readonly most: number }>> = {
  int16: { least: -32_767, most: 32_767 },
  uint16: { least: 0, most: 65_534 },
  int32: { least: -2_147_483_647, most: 2_147_483_647 },
  uint32: { least: 0, most: 4_294_967_294 },
};
/** Digits of a float of 32 bits that mean anything. */
const floatDigits = 7;

/**
 * The count that words make; null where one of them is missing, or where they say that there is no reading: −32,768, and for the other forms
 * 65,535, −2,147,483,648, 4,294,967,295, or no finite number.
 *
 * @example countFrom({ register: 4, form: 'uint32' }, (r) => (r === 4 ? 1 : 2)) // 65538
 */
export function countFrom(at: CountPlace, wordAt: (register: number) => number | undefined): number | null {
  const words = registersOf(at).map(wordAt);
  const [first, second] = words;
  if (first === undefined || words.includes(undefined)) return null;
  const { form = 'int16', order } = at;
  if (second === undefined) {
    const count = form === 'uint16' ? first : fromWord(first);
    return count === nothing[form] ? null : count;
  }
  const view = new DataView(new ArrayBuffer(4));
  view.setUint16(0, order === 'lowFirst' ? second : first);
  view.setUint16(2, order === 'lowFirst' ? first : second);
  if (isFloat(form)) {
    const count = view.getFloat32(0);
    return Number.isFinite(count) ? Number(count.toPrecision(floatDigits)) : null;
  }
  const count = form === 'uint32' ? view.getUint32(0) : view.getInt32(0);
  return count === nothing[form] ? null : count;
}

/** The words of a count; those of no reading where there is none. Counts outside the form stop at its ends. */
export function wordsFrom({ form = 'int16', order }: Pick<CountPlace, 'form' | 'order'>, count: number | null): readonly number[] {
  const view = new DataView(new ArrayBuffer(4));
  if (isFloat(form)) view.setFloat32(0, count ?? NaN);
  else {
    const { least, most } = countEnds[form];
    const whole = count === null || !Number.isFinite(count) ? nothing[form] : Math.max(least, Math.min(most, Math.round(count)));
    if (wordsIn({ form }) === 1) return [toWord(whole)];
    view.setUint32(0, whole < 0 ? whole + 2 ** 32 : whole);
  }
  const words = [view.getUint16(0), view.getUint16(2)];
  return order === 'lowFirst' ? words.reverse() : words;
}
