import { pageOfText } from './paste';
import { tableTexts } from './table';

const text = (...lines: readonly string[]): string => tableTexts([pageOfText(lines.join('\n'))])[0] ?? '';

describe('pages as text that keeps its tables', () => {
  it('leaves a cell empty where the table is empty, so that what stands behind it stays in its column', () => {
    expect(text('Parameter\tRange\tStep\tDefault', 'Float voltage\t13.0–15.0 V\t\t13.6 V', 'Absorption time\t\t10 min\t120 min', 'Battery type\t\t\tAGM')).toBe(
      'Parameter\tRange\tStep\tDefault\nFloat voltage\t13.0–15.0 V\t\t13.6 V\nAbsorption time\t\t10 min\t120 min\nBattery type\t\t\tAGM',
    );
  });

  it('puts a cell under the head that it shares most of its width with, and two of one column together', () => {
    const page = pageOfText('Parameter      Range              Default\nRestart        12.0 to 13.5 V     12.6 V');
    // A value set to the right of its column, as figures often are.
    const moved = {
      ...page,
      words: page.words.map((w) => (w.text === '12.6' ? { ...w, x: w.x + 18 } : w.text === 'V' && w.x > 200 ? { ...w, x: w.x + 18 } : w)),
    };
    expect(tableTexts([moved])[0]?.split('\n').at(-1)).toBe('Restart\t12.0 to 13.5 V\t12.6 V');
  });

  it('is no table where no line heads one: cells stand as they are', () => {
    expect(text('Float voltage\t13.6 V', 'Absorb\t14.4 V\t2 h')).toBe('Float voltage\t13.6 V\nAbsorb\t14.4 V\t2 h');
    expect(tableTexts([])).toEqual([]);
  });

  it('leaves a line of one cell under a table as it is', () => {
    expect(text('Parameter\tRange\tDefault', 'Float voltage\t13–15 V\t13.6 V', 'Values at 25 °C')).toBe(
      'Parameter\tRange\tDefault\nFloat voltage\t13–15 V\t13.6 V\nValues at 25 °C',
    );
  });

  it('takes no line of figures for a head', () => {
    expect(text('a 1.5\tb 2.5\tc 3.5', 'x\t\ty')).toBe('a 1.5\tb 2.5\tc 3.5\nx\ty');
  });
});
