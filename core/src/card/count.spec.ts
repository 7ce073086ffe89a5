import { seeded } from '../testing/fixtures';
import { countEnds, countFrom, fromWord, registersOf, registerForms, toWord, wordsFrom, wordsIn, type CountPlace } from './index';

const from = (at: Omit<CountPlace, 'register'>, ...words: readonly number[]): number | null =>
  countFrom({ register: 40, ...at }, (register) => words[register - 40]);

describe('numbers in registers', () => {
  it('are one word with a sign where nothing is said', () => {
    expect([from({}, 284), from({}, 65_535), from({}, 32_767), from({}, 32_769)]).toEqual([284, -1, 32_767, -32_767]);
    expect([fromWord(32_768), toWord(-1), toWord(284)]).toEqual([-32_768, 65_535, 284]);
    expect(registersOf({ register: 7 })).toEqual([7]);
  });

  it('are made of two words, the higher first where nothing is said', () => {
    expect(from({ form: 'int32' }, 1, 2)).toBe(65_538);
    expect(from({ form: 'int32', order: 'lowFirst' }, 2, 1)).toBe(65_538);
    expect(from({ form: 'int32' }, 0xffff, 0xfffe)).toBe(-2);
    expect(from({ form: 'uint32' }, 0xffff, 0xfffe)).toBe(4_294_967_294);
    expect(from({ form: 'uint16' }, 40_000)).toBe(40_000);
    // 13.6 as a float of 32 bits, written down by hand: 41 59 99 9A.
    expect(from({ form: 'float32' }, 0x4159, 0x999a)).toBe(13.6);
    expect(from({ form: 'float32', order: 'lowFirst' }, 0x999a, 0x4159)).toBe(13.6);
    expect(registersOf({ register: 7, form: 'float32' })).toEqual([7, 8]);
    expect(registerForms.map((form) => wordsIn({ form }))).toEqual([1, 1, 2, 2, 2]);
  });

  it('are not known where a word is missing, or says that there is no reading', () => {
    expect([from({}), from({ form: 'int32' }, 1), from({ form: 'float32' })]).toEqual([null, null, null]);
    expect([from({}, 32_768), from({ form: 'uint16' }, 65_535)]).toEqual([null, null]);
    expect([from({ form: 'int32' }, 0x8000, 0), from({ form: 'uint32' }, 0xffff, 0xffff)]).toEqual([null, null]);
    // Not a number, and without end.
    expect([from({ form: 'float32' }, 0x7fc0, 0), from({ form: 'float32' }, 0x7f80, 0)]).toEqual([null, null]);
  });

  it('are read as they were written, of every form and order; what does not fit stops at its end, and nothing known stays so', () => {
    const random = seeded(9);
    for (const form of registerForms)
      for (const order of [undefined, 'lowFirst'] as const) {
        const at = { register: 40, form, ...(order ? { order } : {}) };
        const back = (count: number | null): number | null => countFrom(at, (r) => wordsFrom(at, count)[r - 40]);
        expect(wordsFrom(at, 5).length).toBe(wordsIn({ form }));
        expect(back(null)).withContext(form).toBeNull();
        expect(back(NaN)).withContext(form).toBeNull();
        if (form === 'float32') {
          for (let i = 0; i < 200; i++) {
            const value = Number(((random() - 0.5) * 10 ** Math.floor(random() * 6)).toPrecision(6));
            expect(back(value)).toBeCloseTo(value, 9);
          }
          continue;
        }
        const { least, most } = countEnds[form];
        expect([back(most + 10), back(least - 10), back(most), back(least)])
          .withContext(form)
          .toEqual([most, least, most, least]);
        for (let i = 0; i < 200; i++) {
          const value = Math.round(least + random() * (most - least));
          expect(back(value)).toBe(value);
        }
      }
  });
});
