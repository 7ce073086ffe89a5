import { pageOfText, readPaper, type PaperReading } from '../paper';
import { batterySaid, batteryTaken, isOwnPaper, isTaken, jobSchema, newJob, paperAt, withBattery, withDerating, withPaper, withTaken, type Job } from './index';

const paper = [
  'Haddow MN-150',
  'Charging data, revision B, 2023-04',
  'LiFePO4 battery, 25.6 V 150 Ah',
  'Absorption voltage\t28.2 V',
  'below 0 °C\tno charging',
  '0–10 °C\t0.1 C',
].join('\n');
const reading: PaperReading = readPaper([pageOfText(paper)], {
  chemistry: 'lfp',
  shape: { cellsPerUnit: 4, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: null },
  assumed: { chemistry: true, cells: true },
});
const absorb = reading.candidates[0]!;
const said = batterySaid(reading.facts, reading.readAs);

/** A new job with two documents. */
function job(): Job {
  const file = (id: string) => ({ id, name: `${id}.pdf`, type: 'application/pdf' as const, bytes: 9 });
  return jobSchema.parse({ ...newJob('a', 'A', '2026-01-02T03:04:05Z'), attachments: [file('sheet'), file('letter')] });
}

describe('what is taken from a paper', () => {
  it('fills battery and document, cells from its volts, and leaves nothing assumed that it says', () => {
    const after = withBattery(job(), 'sheet', said);
    expect(after.sheet.unit).toEqual({ nominalVolts: 25.6, cellsInSeries: 8, capacityAh: 150 });
    expect([after.sheet.chemistry, after.sheet.document, after.sheet.revision, after.sheet.date]).toEqual(['lfp', 'Haddow MN-150', 'B', '2023-04']);
    expect([after.assumed?.['chemistry'], after.assumed?.['nominalVolts'], after.assumed?.['cellsInSeries']]).toEqual([undefined, undefined, undefined]);
    expect([batteryTaken(job(), 'sheet', said), batteryTaken(after, 'sheet', said), isOwnPaper(after, 'sheet')]).toEqual([false, true, true]);
    expect(jobSchema.safeParse(after).success).toBeTrue();
  });

  it('leaves assumed and unsaid what the paper does not say', () => {
    const after = withBattery(job(), 'sheet', { capacityAh: 90 });
    expect([after.sheet.unit.capacityAh, after.assumed?.['chemistry'], after.assumed?.['cellsInSeries'], after.sheet.document]).toEqual([90, true, true, '']);
    expect(withBattery(job(), 'sheet', { chemistry: 'agm' }).system.bank.hasBms).toBeFalse();
    expect(withBattery(job(), 'sheet', { chemistry: 'nmc' }).system.bank.hasBms).toBeTrue();
  });

  it('puts a figure on the sheet with its place, its words and nobody’s rank', () => {
    const after = withTaken(withBattery(job(), 'sheet', said), 'sheet', 'absorbVoltage', absorb);
    expect(after.sheet.figures.absorbVoltage).toEqual({
      state: 'stated',
      target: 28.2,
      unit: 'V',
      basis: 'unit',
      rank: 'notSaid',
      page: 'p. 1',
      quote: 'Absorption voltage  28.2 V',
      place: { document: 'sheet', page: 1, boxes: absorb.boxes.map((b) => ({ ...b })) },
    });
    expect(jobSchema.safeParse(after).success).toBeTrue();
    expect(isTaken(after, 'sheet', 'absorbVoltage', absorb.entry, 1)).toBeTrue();
    expect(isTaken(after, 'letter', 'absorbVoltage', absorb.entry, 1)).toBeFalse();
    expect(isTaken(after, 'sheet', 'absorbVoltage', { ...absorb.entry, target: 28.3 }, 1)).toBeFalse();
    expect(isTaken(after, 'sheet', 'absorbVoltage', { ...absorb.entry, basis: 'bank' }, 1)).toBeFalse();
    expect(isTaken(after, 'sheet', 'absorbVoltage', absorb.entry, 2)).toBeFalse();
  });

  it('says once of a paper whose figures it holds, for what was read from it and nothing else', () => {
    const both = withTaken(withTaken(withBattery(job(), 'sheet', said), 'sheet', 'absorbVoltage', absorb), 'letter', 'floatVoltage', absorb);
    expect(both.sheet.figures.floatVoltage?.from).toBe('letter.pdf');
    const letter = withPaper(both, 'letter', { title: 'Mail of May', rank: 'makerReply' });
    expect([letter.sheet.figures.absorbVoltage?.rank, letter.sheet.figures.floatVoltage?.rank, letter.sheet.rank]).toEqual([
      'notSaid',
      'makerReply',
      undefined,
    ]);
    expect([letter.sheet.document, paperAt(letter, 'letter').title]).toEqual(['Haddow MN-150', 'Mail of May']);
    const sheet = withPaper(letter, 'sheet', { rank: 'makerForOtherCharger' });
    expect([sheet.sheet.figures.absorbVoltage?.rank, sheet.sheet.figures.floatVoltage?.rank, sheet.sheet.rank]).toEqual([
      'makerForOtherCharger',
      'makerReply',
      'makerForOtherCharger',
    ]);
    // Read afterwards, a figure has what was said of its paper.
    expect(withTaken(sheet, 'letter', 'storageVoltage', absorb).sheet.figures.storageVoltage).toEqual(
      jasmine.objectContaining({ rank: 'makerReply', from: 'Mail of May' }),
    );
    expect(withTaken(sheet, 'sheet', 'storageVoltage', absorb).sheet.figures.storageVoltage?.rank).toBe('makerForOtherCharger');
  });

  it('says nothing of another paper when it says whose figures the sheet holds', () => {
    const both = withTaken(withTaken(withBattery(job(), 'sheet', said), 'sheet', 'absorbVoltage', absorb), 'letter', 'floatVoltage', absorb);
    const { figures } = withPaper(both, 'sheet', { rank: 'makerForThisCharger' }).sheet;
    expect([figures.absorbVoltage?.rank, figures.floatVoltage?.rank]).toEqual(['makerForThisCharger', 'notSaid']);
  });

  it('takes no second paper for the sheet’s own', () => {
    const first = withTaken(job(), 'letter', 'absorbVoltage', absorb);
    expect([isOwnPaper(first, 'letter'), isOwnPaper(first, 'sheet')]).toEqual([true, false]);
    expect(withBattery(first, 'sheet', said).sheet.document).toBe('');
  });

  it('takes the table of current when cold as it is printed', () => {
    expect(reading.derating && withDerating(job(), reading.derating).sheet.derating).toEqual([
      { toC: 0, limit: 0, unit: 'C' },
      { toC: 10, limit: 0.1, unit: 'C' },
    ]);
  });
});
