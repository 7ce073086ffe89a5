import { printWithBasis } from '../sheet';
import { eraseRules, figureOfEntry, readPaper, wordsOfPicture, type PictureBlock, type Pixels } from './index';

/** One line of words of a picture: text and confidence, each letter ten pixels wide, digits twenty high. */
const line = (y: number, ...words: readonly (readonly [text: string, confidence?: number, height?: number])[]): PictureBlock => {
  let x = 0;
  const read = words.map(([text, confidence = 95, height = 20]) => {
    const word = { text, confidence, bbox: { x0: x, y0: y + 10 - height / 2, x1: x + 10 * text.length, y1: y + 10 + height / 2 } };
    x += 10 * text.length + 60;
    return word;
  });
  return { paragraphs: [{ lines: [{ bbox: { x0: 0, y0: y, x1: x, y1: y + 20 }, words: read }] }] };
};
const told = (...blocks: readonly PictureBlock[]): readonly string[] =>
  readPaper([{ number: 1, width: 1000, height: 1000, words: wordsOfPicture(blocks) }], {
    chemistry: 'lfp',
    shape: { cellsPerUnit: 4, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: null },
    assumed: { chemistry: false, cells: false },
  }).candidates.map((c) => [`${c.key}: ${printWithBasis(figureOfEntry(c.entry)).replaceAll('\u00a0', ' ')}`, ...c.doubts].join(', '));

describe('words of a picture', () => {
  const texts = (...words: readonly string[]): readonly string[] => wordsOfPicture([line(0, ...words.map((w) => [w] as const))]).map((w) => w.text);

  it('have the letters that alone make sense', () => {
    expect(texts('|14.2', '\\', '\\4', '—10', '45*C', 'º', 'C', '1O', 'l4.2', '0°Cto', '—')).toEqual([
      '14.2',
      'V',
      'V',
      '-10',
      '45°C',
      'º',
      'C',
      '10',
      '14.2',
      '0°C',
      'to',
      '–',
    ]);
    expect(texts('Float', 'voltage', 'LX-50', 'OK')).toEqual(['Float', 'voltage', 'LX-50', 'OK']);
  });

  it('are as high as their line: a dash is no raised mark', () => {
    const [word, dash] = wordsOfPicture([line(100, ['Float'], ['-', 95, 3])]);
    expect([word?.h, dash?.h, dash?.y]).toEqual([word?.h, word?.h, word?.y]);
    expect(word?.h).toBeCloseTo(26.6, 9);
    expect((word?.y ?? 0) + (word?.h ?? 0) / 2).toBeCloseTo(110, 9);
  });

  it('make figures that are sure only where every digit is, and the point is there', () => {
    expect(told(line(0, ['Float'], ['13.5'], ['V']))).toEqual(['floatVoltage: 13.5 V per battery']);
    expect(told(line(0, ['Float'], ['13.5', 79], ['V']))).toEqual(['floatVoltage: 13.5 V per battery, unclear']);
    expect(told(line(0, ['Float'], ['13.5', 80], ['V']))).toEqual(['floatVoltage: 13.5 V per battery']);
    // The point is what a picture loses first.
    expect(told(line(0, ['Float'], ['14'], ['V']))).toEqual(['floatVoltage: 14.0 V per battery, unclear']);
    expect(told(line(0, ['Float'], ['13.4 V (133–13.6 V)']))).toEqual(['floatVoltage: 13.4 V per battery, note, unclear']);
    expect(told(line(0, ['Float'], ['14.0'], ['V']))).toEqual(['floatVoltage: 14.0 V per battery']);
    expect(told(line(0, ['Charge temperature'], ['45'], ['°C']))).toEqual(['chargeTemperature: at least 45 °C, weakName']);
  });

  it('tell of a battery whether its volts are clear', () => {
    const facts = (volts: string) =>
      readPaper([{ number: 1, width: 1000, height: 1000, words: wordsOfPicture([line(0, ['Battery'], [volts], ['V'], ['100'], ['Ah'])]) }], {
        chemistry: 'lfp',
        shape: { cellsPerUnit: 4, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: null },
        assumed: { chemistry: true, cells: true },
      }).facts;
    expect([facts('12.8').nominalVolts?.unclear, facts('128').nominalVolts?.unclear, facts('12.8').capacityAh?.unclear]).toEqual([undefined, true, undefined]);
  });
});

describe('the ruled lines of a table', () => {
  /** White with black bars: x, y, width, height. */
  function picture(...bars: readonly (readonly [number, number, number, number])[]): Pixels {
    const [width, height] = [300, 200];
    const data = new Uint8ClampedArray(4 * width * height).fill(255);
    for (const [x, y, w, h] of bars)
      for (let i = y; i < y + h; i++) for (let j = x; j < x + w; j++) for (let c = 0; c < 3; c++) data[4 * (i * width + j) + c] = 0;
    return { data, width, height };
  }
  const dark = ({ data }: Pixels): number => Array.from({ length: data.length / 4 }, (_, i) => data[4 * i] === 0).filter(Boolean).length;

  it('go, across and upright, and what is no longer than a letter stays', () => {
    const lines = picture([10, 20, 250, 2], [10, 20, 2, 150]);
    eraseRules(lines);
    expect(dark(lines)).toBe(0);
    const letters = picture([50, 50, 40, 6], [120, 50, 6, 40]);
    eraseRules(letters);
    expect(dark(letters)).toBe(40 * 6 * 2);
    const over = picture([50, 50, 41, 1]);
    eraseRules(over);
    expect(dark(over)).toBe(0);
  });

  it('leave the letters beside them', () => {
    const both = picture([10, 20, 250, 2], [100, 40, 5, 25]);
    eraseRules(both);
    expect(dark(both)).toBe(5 * 25);
  });
});
