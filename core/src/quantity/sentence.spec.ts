import { isSentence, said, saidBand, saidBy, saidQuantity, speak, warmth, warmthBy, type Sentence, type Warmth } from './index';

/** A no-break space stands between number and unit. */
const plain = (sentence: Sentence, scale: 'C' | 'F'): string => speak(sentence, scale).replaceAll('\u00a0', ' ');

describe('a sentence', () => {
  it('speaks its temperatures in the scale of whoever reads it: a reading moves by 32, a difference does not', () => {
    const sentence = said`It stopped at ${warmth(5, 0)}, ${warmthBy(2)} colder than ${warmth(7)}.`;
    expect(plain(sentence, 'C')).toBe('It stopped at 5 °C, 2.0 °C colder than 7.0 °C.');
    expect(plain(sentence, 'F')).toBe('It stopped at 41 °F, 3.6 °F colder than 44.6 °F.');
  });

  it('without temperatures is its text', () => {
    expect(said`${'Solar aft'} gave ${3} times.`).toBe('Solar aft gave 3 times.');
    expect(said``).toBe('');
  });

  it('takes others in, and holds neighbouring text together', () => {
    const inner = said`down to ${warmth(-3)}`;
    const outer = said`It cooled ${inner}, ${'and'} ${''}stayed.`;
    expect(outer).toEqual(['It cooled down to ', { celsius: -3, digits: 1 }, ', and stayed.']);
    expect(plain(outer, 'F')).toBe('It cooled down to 26.6 °F, and stayed.');
    // What was stored as text before stays as it is.
    expect(plain(said`${'It held 28.1 V.'} But ${warmth(0, 0)}.`, 'F')).toBe('It held 28.1 V. But 32 °F.');
  });

  it('is told from what is none, where it was stored', () => {
    const stored: unknown = JSON.parse(JSON.stringify(said`down to ${warmth(-3)}`));
    expect([stored, 'It held.', []].map(isSentence)).toEqual([true, true, true]);
    const warm = { celsius: 1, digits: 1 };
    expect([[{ ...warm, digits: 0 }], [{ ...warm, digits: 9 }]].every(isSentence)).toBeTrue();
    expect(
      [null, 5, {}, warm, [5], [{}], [{ ...warm, celsius: '1' }], [{ ...warm, digits: 0.5 }], [{ ...warm, digits: -1 }], [{ ...warm, digits: 10 }]].some(
        isSentence,
      ),
    ).toBeFalse();
  });

  it('takes values and bands of any unit: only those of temperatures follow the scale', () => {
    const inF = (part: Sentence | Warmth): string => plain(said`${part}`, 'F');
    expect([inF(saidQuantity(5, '°C', 1)), inF(saidBy(5, '°C', 1)), inF(saidQuantity(5, 'V', 2)), inF(saidBy(5, 'A', 0))]).toEqual([
      '41.0 °F',
      '9.0 °F',
      '5.00 V',
      '5 A',
    ]);
    const band = (min?: number, max?: number, unit = '°C'): string =>
      inF(saidBand({ ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) }, unit, 0));
    expect([band(0, 10), band(0), band(undefined, 10), band(), band(27, 28, 'V'), band(27, undefined, 'V')]).toEqual([
      '32 °F to 50 °F',
      'at least 32 °F',
      'at most 50 °F',
      'any',
      '27–28 V',
      'at least 27 V',
    ]);
  });
});
