import { randomFrom } from '../physics';
import { rounds } from '../testing/rounds';
import { printWithBasis, type Chemistry } from '../sheet';
import {
  figureOfEntry,
  mostPages,
  pageOfText,
  pagesOf,
  readPaper,
  wordsOfItems,
  type OpenPdf,
  type PaperContext,
  type PaperPage,
  type PaperReading,
} from './index';

const known = (chemistry: Chemistry, change: Partial<PaperContext> = {}): PaperContext => ({
  chemistry,
  shape: { cellsPerUnit: chemistry === 'lfp' ? 4 : 6, cellsPerBlock: chemistry === 'lfp' ? 4 : 6, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: 100 },
  assumed: { chemistry: false, cells: false },
  ...change,
});
const read = (chemistry: Chemistry, text: string, change: Partial<PaperContext> = {}): PaperReading => readPaper([pageOfText(text)], known(chemistry, change));
/** Each reading as "figure: value, doubts". */
const told = (reading: PaperReading): readonly string[] =>
  reading.candidates.map((c) => [`${c.key}: ${printWithBasis(figureOfEntry(c.entry)).replaceAll('\u00a0', ' ')}`, ...c.doubts].join(', '));

describe('reading a paper', () => {
  it('takes of a table what charges the battery, and nothing that discharges, stores or protects it otherwise', () => {
    const lines = [
      'Maximum charge voltage\t14.6 V',
      'Charging voltage range\t14.0–14.6 V',
      'Recommended charge voltage\t14.2 V',
      'Max. continuous discharge current\t100 A',
      'Peak discharge current\t200 A (5 s)',
      'Max. continuous charge current\t50 A',
      'Standard charge current\t0.2C',
      'Discharge temperature\t-20 to 60 °C',
      'Operating temperature\t-20 to 60 °C',
      'Charge temperature\t0 to 45 °C',
      'Storage temperature\t-10 to 35 °C',
      'Float charge current\t2 A',
      'Low temperature cut-off (charge)\t0 °C',
      'High temperature cut-off (charge)\t55 °C',
      'BMS overvoltage release\t14.0 V',
    ];
    expect(told(read('lfp', lines.join('\n')))).toEqual([
      'absorbVoltage: 14.2 V (14.0–14.6) per battery',
      'chargeCurrentMax: at most 50 A per battery',
      'chargeCurrentRecommended: at most 0.20 C',
      'chargeTemperature: 0–45 °C',
      'bmsLowTemperature: at least 0 °C',
      'bmsRelease: 14.0 V per battery',
    ]);
  });

  it('reads a greatest charge voltage alone as the end of a band, and says that the name leaves it open', () => {
    expect(told(read('lfp', 'Maximum charge voltage\t14.6 V'))).toEqual(['absorbVoltage: at most 14.6 V per battery, weakName']);
    expect(told(read('lfp', 'Minimum charge voltage\t13.9 V'))).toEqual(['absorbVoltage: at least 13.9 V per battery, weakName']);
    expect(told(read('lfp', 'Charge voltage\t14.6 V'))).toEqual(['absorbVoltage: 14.6 V per battery']);
  });

  it('holds values for another temperature apart: the one at 25 °C is sure, the others are not', () => {
    const text = 'Absorption voltage at 0 °C\t14.9 V\nAbsorption voltage at 25 °C\t14.7 V\nAbsorption voltage at 40 °C\t14.1 V';
    expect(told(read('flooded', text))).toEqual([
      'absorbVoltage: 14.9 V per battery, condition, rival',
      'absorbVoltage: 14.7 V per battery',
      'absorbVoltage: 14.1 V per battery, condition, rival',
    ]);
    expect(told(read('flooded', 'Absorption voltage\t14.7 V at 10 °C'))).toEqual(['absorbVoltage: 14.7 V per battery, condition']);
    expect(told(read('flooded', 'Absorption voltage\t14.7 V at 20 °C'))).toEqual(['absorbVoltage: 14.7 V per battery']);
  });

  it('reads sentences: what stands nearest before a number names it, a time behind a voltage is its time', () => {
    expect(told(read('flooded', 'Boost 2.45 VPC, float 2.25 VPC, equalise 2.60 VPC for 3 h every 30 days.'))).toEqual([
      'absorbVoltage: 2.45 V per cell',
      'floatVoltage: 2.25 V per cell',
      'equaliseVoltage: 2.60 V per cell',
      'equaliseTime: 180 min',
      'equaliseInterval: 30 days',
    ]);
    expect(told(read('lfp', 'Set the absorption to 14.2 V for 30 minutes per 100 Ah. Charge current at most 50 A, recommended 20 A.'))).toEqual([
      'absorbVoltage: 14.2 V per battery',
      'absorbTime: 30 min/100 Ah per battery',
      'chargeCurrentMax: at most 50 A per battery',
      'chargeCurrentRecommended: at most 20 A per battery',
    ]);
  });

  it('knows “never below” from “below”, and a condition from a limit', () => {
    expect(told(read('lfp', 'Never charge below 0 °C.'))).toEqual(['chargeTemperature: at least 0 °C']);
    expect(told(read('lfp', 'Never charge above 45 °C.'))).toEqual(['chargeTemperature: at most 45 °C']);
    expect(told(read('lfp', 'Charge between 0 °C and 45 °C.'))).toEqual(['chargeTemperature: 0–45 °C']);
    expect(told(read('agm', 'Constant voltage charge at 25 °C'))).toEqual([]);
    expect(told(read('lfp', 'The charger should restart below 13.2 V.'))).toEqual(['rechargeVoltage: at most 13.2 V per battery']);
  });

  it('takes what is forbidden or switched off from a sentence, and only of figures that can be', () => {
    expect(told(read('lfp', 'Do not equalise. Temperature compensation must be disabled.'))).toEqual([
      'equaliseVoltage: not permitted',
      'compensationSlope: not needed',
    ]);
    expect(told(read('lfp', 'The battery must not be float charged.'))).toEqual(['floatVoltage: not permitted']);
    expect(told(read('lfp', 'Do not exceed the charge current.'))).toEqual([]);
  });

  it('marks what a paper tells twice differently on both, and tells once what it tells twice alike', () => {
    expect(told(read('lfp', 'Float voltage\t13.5 V\nFloat\t13.6 V'))).toEqual([
      'floatVoltage: 13.5 V per battery, rival',
      'floatVoltage: 13.6 V per battery, rival',
    ]);
    const [once, more] = read('lfp', 'Float voltage\t13.5 V\nFloat\t13.5 V').candidates;
    expect([once?.doubts, once?.boxes.length, more]).toEqual([[], 2, undefined]);
  });

  it('counts per cell where a head, a caption or a unit says so, and per battery where the numbers fit nothing else', () => {
    expect(told(read('agm', 'All voltages in volts per cell.\nAbsorption voltage\t2.40 V'))).toEqual(['absorbVoltage: 2.40 V per cell']);
    expect(told(read('agm', '\tV/cell\nFloat charge\t2.25–2.30'))).toEqual(['floatVoltage: 2.25–2.30 V per cell']);
    expect(told(read('agm', 'Float voltage\t13.6 V'))).toEqual(['floatVoltage: 13.6 V per battery']);
    // Two volts and a bit can be a cell’s only, and nobody says so.
    expect(told(read('agm', 'Float voltage\t2.27 V'))).toEqual(['floatVoltage: 2.27 V per cell, basisAssumed']);
    expect(told(read('agm', 'Float voltage\t27.2 V'))).toEqual(['floatVoltage: 27.2 V per battery, implausible']);
  });

  it('reads a value printed on two bases once, and looks at it when the two differ', () => {
    expect(told(read('lfp', 'Charge voltage\t14.2 V (3.55 V/cell)'))).toEqual(['absorbVoltage: 14.2 V per battery']);
    expect(told(read('lfp', 'Charge voltage\t14.2 V (3.56 V/cell)'))).toEqual(['absorbVoltage: 14.2 V per battery, unequal']);
    expect(told(read('agm', 'Float voltage\t13.6 V ± 1 %'))).toEqual(['floatVoltage: 13.600 V (13.464–13.736) per battery, tolerance']);
    expect(told(read('lfp', 'Charge temperature\t0–45 °C (32–113 °F)'))).toEqual(['chargeTemperature: 0–45 °C']);
  });

  it('reads columns of least, target and most with their unit in a column of its own', () => {
    const table = 'Parameter\tMin.\tTyp.\tMax.\tUnit\nCharge voltage\t14.1\t14.2\t14.4\tV\nCharge current\t–\t–\t50\tA\nCharge temperature\t0\t–\t45\t°C';
    expect(told(read('lfp', table))).toEqual([
      'absorbVoltage: 14.2 V (14.1–14.4) per battery',
      'chargeCurrentMax: at most 50 A per battery',
      'chargeTemperature: 0–45 °C',
    ]);
  });

  it('asks which battery it is where a table tells several apart, and reads the one that is chosen', () => {
    const table = '\tLX-50\tLX-100\nNominal voltage\t12.8 V\t25.6 V\nCharge voltage\t14.2 V\t28.4 V\nMax charge current\t25 A\t50 A';
    const open = read('lfp', table, { assumed: { chemistry: false, cells: true } });
    expect([open.batteries, open.battery, told(open)]).toEqual([['LX-50', 'LX-100'], null, []]);
    const chosen = read('lfp', table, { assumed: { chemistry: false, cells: true }, battery: 'lx 100' });
    expect([chosen.battery, chosen.readAs.cells, chosen.facts.nominalVolts?.value, told(chosen)]).toEqual([
      'LX-100',
      8,
      25.6,
      ['absorbVoltage: 28.4 V per battery', 'chargeCurrentMax: at most 50 A per battery'],
    ]);
  });

  it('makes stairs of a table of current against temperature, and none of one row or of rows out of order', () => {
    const table = 'below 0 °C\tno charging\n0–10 °C\t0.1 C\n10–20 °C\t0.3 C\n20–45 °C\t0.5 C';
    expect(read('lfp', table).derating?.rows).toEqual([
      { toC: 0, limit: 0, unit: 'C' },
      { toC: 10, limit: 0.1, unit: 'C' },
      { toC: 20, limit: 0.3, unit: 'C' },
      { toC: 45, limit: 0.5, unit: 'C' },
    ]);
    expect(read('lfp', table).derating?.boxes.length).toBe(4);
    expect(read('lfp', '0–10 °C\t0.1 C').derating).toBeNull();
    expect(read('lfp', '10–20 °C\t0.3 C\n0–10 °C\t0.1 C').derating).toBeNull();
  });

  it('takes battery and paper from its words, and neither of two answers', () => {
    const text = 'Haddow MN-150\nCharging data, revision B, 2023-04\nLiFePO4 battery, 25.6 V 150 Ah';
    const { facts } = read('lfp', text);
    expect(Object.fromEntries(Object.entries(facts).map(([key, fact]) => [key, (fact as { value: unknown }).value]))).toEqual({
      title: 'Haddow MN-150',
      revision: 'B',
      date: '2023-04',
      chemistry: 'lfp',
      nominalVolts: 25.6,
      capacityAh: 150,
    });
    expect(read('lfp', 'A LiFePO4 battery. Also as AGM.').facts.chemistry).toBeUndefined();
    expect(read('lfp', 'Printed 03/2024. Stand 05/2025.').facts.date).toBeUndefined();
  });

  it('reads with the paper’s own chemistry and cells only where nobody has said them', () => {
    const text = 'AGM battery, 24 V 110 Ah\nFloat voltage\t27.2 V';
    const paper = read('lfp', text, { assumed: { chemistry: true, cells: true } });
    expect([paper.readAs, told(paper)]).toEqual([{ chemistry: 'agm', cells: 12 }, ['floatVoltage: 27.2 V per battery']]);
    expect(read('lfp', text).readAs).toEqual({ chemistry: 'lfp', cells: 4 });
  });

  it('names a reading by its place, so that it stays when the paper is read otherwise', () => {
    const text = 'Absorption voltage\t28.2 V\nFloat voltage\t27.0 V\nFloat\t27.2 V';
    const ids = (cells: number) => read('lfp', text, { shape: { ...known('lfp').shape, cellsPerUnit: cells } }).candidates.map((c) => c.id);
    expect(ids(4)).toEqual(ids(8));
    expect(new Set(ids(8)).size).toBe(3);
  });

  it('looks at a value that a footnote with numbers belongs to', () => {
    const words = (text: string, y: number, size: number, x = 0): PaperPage['words'] =>
      text.split(' ').map((t, i) => ({ text: t, x: x + i * 60, y, w: t.length * 5, h: size }));
    const page = (note: string): PaperPage => ({
      number: 1,
      width: 500,
      height: 200,
      words: [
        ...words('Float', 20, 10),
        { text: '1', x: 27, y: 19, w: 3, h: 6 },
        ...words('13.5', 20, 10, 200),
        ...words('V', 20, 10, 226),
        ...words(note, 90, 8),
      ],
    });
    const doubts = (note: string) => readPaper([page(note)], known('lfp')).candidates.map((c) => c.doubts);
    expect(doubts('1 Reduce below 5 °C')).toEqual([['note']]);
    expect(doubts('1 If the charger has one')).toEqual([[]]);
  });

  it('gives what it can of any words at all, with places on the page', () => {
    const some = [
      'Float',
      'voltage',
      '13.5',
      'V',
      'charge',
      '–',
      '(',
      '14.2–14.4',
      '°C',
      'per',
      'cell',
      'Min.',
      'Max.',
      '±',
      '0.2',
      'C/20',
      'equalise',
      'not',
      '27,2',
      'at',
      '....',
      '«',
      '0',
    ];
    for (let seed = 1; seed <= rounds(300); seed++) {
      const random = randomFrom(seed);
      const upTo = (n: number): number => Math.floor(random() * n);
      const words = Array.from({ length: upTo(60) }, () => ({
        text: some[upTo(some.length)] ?? '',
        x: upTo(500),
        y: upTo(700),
        w: 1 + upTo(90),
        h: 4 + upTo(20),
      }));
      const chemistry = (['lfp', 'agm', 'flooded'] as const)[upTo(3)] ?? 'lfp';
      const { candidates } = readPaper([{ number: 1, width: 600, height: 800, words }], known(chemistry));
      for (const { boxes, entry } of candidates) {
        expect(boxes.every((box) => box.x >= 0 && box.y >= 0 && box.x + box.w <= 1 && box.w >= 0 && box.h >= 0))
          .withContext(String(seed))
          .toBeTrue();
        const ends = [entry.min, entry.target, entry.max].filter((n) => n !== undefined);
        expect(ends.every((n, i) => Number.isFinite(n) && (i === 0 || n >= (ends[i - 1] ?? n))))
          .withContext(String(seed))
          .toBeTrue();
      }
    }
  });
});

describe('words from runs of text', () => {
  it('parts a run at its spaces, each word about as long as its letters', () => {
    const words = wordsOfItems([{ str: 'Float voltage', transform: [10, 0, 0, 10, 50, 100], width: 60 }]);
    expect(words.map((w) => w.text)).toEqual(['Float', 'voltage']);
    const [one, two] = words;
    expect([one?.x, one?.y, one?.h]).toEqual([50, 92, 10]);
    expect((two?.x ?? 0) + (two?.w ?? 0)).toBeCloseTo(110, 9);
    expect(one?.w).toBeGreaterThan(15);
    expect(one?.w).toBeLessThan(25);
  });

  it('makes one word of runs that touch, and two of a raised mark beside its word', () => {
    const at = (str: string, x: number, size: number, y = 100) => ({ str, transform: [size, 0, 0, size, x, y], width: str.length * size * 0.5 });
    expect(wordsOfItems([at('−', 10, 10), at('3.5', 15, 10)]).map((w) => w.text)).toEqual(['−3.5']);
    expect(wordsOfItems([at('A', 10, 10), at('1', 15, 6, 96)]).map((w) => w.text)).toEqual(['A', '1']);
    expect(wordsOfItems([at('A', 10, 10), at('V', 18, 10)]).map((w) => w.text)).toEqual(['A', 'V']);
  });

  it('knows a head that is printed upwards', () => {
    const [word] = wordsOfItems([{ str: 'Minimum', transform: [0, -10, 10, 0, 80, 200], width: 40 }]);
    expect(word).toEqual(jasmine.objectContaining({ text: 'Minimum', turned: true, w: 10, y: 160 }));
    expect(word?.h).toBeCloseTo(40, 9);
  });
});

describe('the pages of a PDF', () => {
  const pdf = (count: number): OpenPdf & { cleaned: number } => ({
    numPages: count,
    cleaned: 0,
    getPage(number) {
      return Promise.resolve({
        // A page turned upside down by its viewport, as PDFs count from below.
        getViewport: () => ({ width: 600, height: 800, transform: [1, 0, 0, -1, 0, 800] }),
        getTextContent: () =>
          Promise.resolve({ items: [{ str: `Page ${number}`, width: 40, transform: [10, 0, 0, 10, 50, 700] }, { type: 'beginMarkedContent' }] }),
        cleanup: () => this.cleaned++,
      });
    },
  });

  it('are read from their upper left corners, at most so many', async () => {
    const long = pdf(mostPages + 20);
    const read = await pagesOf(long);
    if (read === 'stopped') return fail('it was stopped');
    expect([read.pages.length, read.count, long.cleaned]).toEqual([mostPages, mostPages + 20, mostPages]);
    expect(read.pages[1]?.words.map((w) => w.text)).toEqual(['Page', '2']);
    expect(read.pages[1]?.words[0]?.y).toBeCloseTo(800 - 700 - 8, 9);
  });

  it('stop when told to', async () => {
    const done: number[] = [];
    expect(await pagesOf(pdf(9), (n) => (done.push(n), n < 3))).toBe('stopped');
    expect(done).toEqual([1, 2, 3]);
  });
});
