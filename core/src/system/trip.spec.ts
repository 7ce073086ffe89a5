import { find, plan, said, wholeTeasel, withFigure, withSystem } from '../testing/fixtures';
import { quiet } from '../testing/findingCases';
import type { Job } from '../job';
import { lowestTrip } from './index';

const trip = (job: Job) => lowestTrip(job.sheet, job.system);
const withSpread = (job: Job, cellSpreadV: number | undefined): Job => {
  const { cellSpreadV: _gone, ...bank } = job.system.bank;
  return withSystem(job, { bank: { ...bank, ...(cellSpreadV === undefined ? {} : { cellSpreadV }) } });
};
/** A sheet that gives nothing but the trip of a cell. */
const onlyCell = (tripV: number, spread?: number): Job =>
  withSpread(withFigure(withFigure(quiet(), 'bmsOverVoltage', null), 'bmsCellOverVoltage', { max: tripV }), spread);

describe('the lowest trip', () => {
  it('is the pack’s while eight cells less their spread lie above it: (3.68 − 0.02) × 8 = 29.28 over 29.2', () => {
    expect(trip(wholeTeasel())).toEqual({ volts: 29.2, by: 'pack', cell: null });
    expect(trip(withSpread(wholeTeasel(), 0.03))).toEqual({ volts: 29.2, by: 'pack', cell: null });
  });

  it('is the highest cell’s where that comes first, with the spread that was measured, and with 0.1 V where none was', () => {
    const measured = trip(withSpread(wholeTeasel(), 0.04))!;
    expect(measured.volts).toBeCloseTo((3.68 - 0.04) * 8, 9);
    expect(measured.cell).toEqual({ tripV: 3.68, spreadV: 0.04, assumed: false });
    const assumed = trip(withSpread(wholeTeasel(), undefined))!;
    expect(assumed.volts).toBeCloseTo(28.64, 9);
    expect(assumed.cell?.assumed).toBeTrue();
  });

  it('is there on a sheet with a cell trip alone, and nowhere on one with neither', () => {
    expect(trip(onlyCell(3.55))?.volts).toBeCloseTo(27.6, 9);
    expect(trip(withFigure(onlyCell(3.55), 'bmsCellOverVoltage', null))).toBeNull();
  });
});

describe('a sheet that gives a cell trip alone', () => {
  const alarm = (job: Job): number | null | undefined => plan(job).setting('alternator', 'highVoltageAlarm')?.exact as number;
  const launch = (tripV: number): Job =>
    withSpread(withFigure(withFigure(wholeTeasel(), 'bmsOverVoltage', null), 'bmsCellOverVoltage', { max: tripV }), undefined);

  it('holds the alarm 0.4 V below it, and says by which cell: 8 × (3.68 − 0.1) − 0.4 = 28.24 V', () => {
    expect(alarm(launch(3.68))).toBeCloseTo(28.24, 9);
    const words = plan(launch(3.68))
      .setting('alternator', 'highVoltageAlarm')!
      .derivation.map((s) => s.words);
    expect(words).toContain('The BMS trips on its highest cell: 3.68 V less 0.10 V of assumed spread, × 8 cells is 28.64 V');
    expect(alarm(withFigure(launch(3.68), 'bmsCellOverVoltage', null))).toBeCloseTo(28.8, 9);
  });

  it('is no silence about absorb: at 28.1 V a cell trips at 3.55 V', () => {
    const text = find(onlyCell(3.55), 'cellSpread')!;
    expect(text.severity).toBe('attention');
    expect(text.text.replace(/\u00a0/g, ' ')).toBe(
      'Solar fore absorbs at 28.09 V, a mean of 3.51 V per cell. With 0.10 V of assumed spread the highest cell reaches 3.61 V, and the BMS trips at 3.55 V on any cell. Absorb must be at most 27.20 V.',
    );
    expect(text.hurts).toContain('Measure the cells at the end of absorb');
    expect(find(onlyCell(3.55), 'absorbNearTrip')).toBeUndefined();
  });

  it('is a stop where the spread was measured, and where an alarm would have to lie between', () => {
    expect(find(onlyCell(3.55, 0.1), 'cellSpread')?.severity).toBe('stop');
    expect(find(onlyCell(3.55, 0.1), 'cellSpread')?.hurts).toBe('One cell ahead of the others disconnects the bank before it is full.');
    const found = said(launch(3.55)).filter((f) => f.code === 'cellSpread');
    expect(found.map((f) => [f.charger, f.severity])).toEqual([
      ['alternator', 'stop'],
      ['fore', 'attention'],
      ['aft', 'attention'],
      ['dcdc', 'attention'],
    ]);
    expect(found[0]?.hurts).toContain('No alarm fits between absorb and this trip.');
  });

  it('counts as the trip for alarm and compensated absorb too', () => {
    expect(find(launch(3.55), 'alarmPastTrip')?.text).toContain('where the BMS trips on its highest cell, 27.6');
  });
});
