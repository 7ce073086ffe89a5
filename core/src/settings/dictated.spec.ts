import { cardSchema, type Card } from '../card';
import { findFindings } from '../findings';
import { beginProgramming, sheetOf, type Job } from '../job';
import { requirementsOf } from '../requirements';
import { said, wholeTeasel, withCharger } from '../testing/fixtures';
import type { Charger } from '../system';
import { deriveSettings } from './derive';

const roles: NonNullable<Card['dictated']>['roles'] = ['absorbVoltage', 'chargeCurrentLimit', 'compensationSlope'];
/** The launch whose aft charger lets another say three of its figures. */
const launch = (dictatedBy?: Charger['dictatedBy'], whenLost?: NonNullable<Card['dictated']>['whenLost']): Job => {
  const job = wholeTeasel();
  const cards = job.cards.map((c) => (c.id === 'varrow-s45' ? cardSchema.parse({ ...c, dictated: { roles, ...(whenLost ? { whenLost } : {}) } }) : c));
  return withCharger({ ...job, cards }, 'aft', dictatedBy ? { dictatedBy } : {});
};
const battery = { by: 'battery' as const };
const asProgrammed = (job: Job) =>
  requirementsOf(deriveSettings(job))
    .filter((r) => r.charger === 'aft' && r.question === 'programmed')
    .map((r) => r.code);

describe('figures that another device says over a data line', () => {
  it('are worked out and keyed all the same, and say that they count when the line is lost', () => {
    const plain = deriveSettings(launch()).setting('aft', 'absorbVoltage')!;
    const taken = deriveSettings(launch(battery)).setting('aft', 'absorbVoltage')!;
    expect([taken.value, taken.trueValue, taken.dictated]).toEqual([plain.value, plain.trueValue, 'battery']);
    expect(plain.dictated).toBeUndefined();
    expect(taken.derivation.at(-1)).toEqual(
      jasmine.objectContaining({ words: jasmine.stringMatching(/^While its data line is up, the battery says this figure/) as never }),
    );
    expect(deriveSettings(launch(battery)).setting('aft', 'floatVoltage')?.dictated).toBeUndefined();
    expect(deriveSettings(launch(battery)).setting('fore', 'absorbVoltage')?.dictated).toBeUndefined();
    const job = beginProgramming(launch({ by: 'device', device: 'monitor' }), { at: '2026-06-09T08:00:00.000Z', by: 'KM', way: 'display' }, 'meter');
    const steps = sheetOf(job).steps.filter((s) => s.device === 'aft' && s.value && roles.includes(s.value.role));
    expect(steps.length).toBeGreaterThan(0);
    for (const step of steps) expect(step.notes[0]).toBe('It counts when the data line is lost: while it is up, Monitor says this figure.');
  });

  it('are not asked to be as programmed: what is held then is not what the device was told', () => {
    expect(asProgrammed(launch())).toEqual(jasmine.arrayContaining(['absorbAsProgrammed', 'currentAsProgrammed', 'slopeAsProgrammed', 'floatAsProgrammed']));
    const left = asProgrammed(launch(battery));
    for (const code of ['absorbAsProgrammed', 'currentAsProgrammed', 'slopeAsProgrammed'] as const) expect(left).not.toContain(code);
    expect(left).toContain('floatAsProgrammed');
    // What the maker asks of the bank is asked whoever says the figures.
    const specified = (job: Job) => requirementsOf(deriveSettings(job)).filter((r) => r.question === 'specified');
    expect(specified(launch(battery))).toEqual(specified(launch()));
  });

  it('count for nobody while nobody has said who says them, or that nobody does', () => {
    expect(asProgrammed(launch({ by: 'nobody' }))).toEqual(asProgrammed(launch()));
    expect(asProgrammed(launch({ by: 'device' }))).toEqual(asProgrammed(launch()));
    const other = withCharger(wholeTeasel(), 'aft', { dictatedBy: battery });
    expect(asProgrammed(other)).toEqual(asProgrammed(wholeTeasel()));
  });

  it('are told by what becomes of them when the line is lost', () => {
    const told = (job: Job) => findFindings(deriveSettings(job), '2026-06-09').filter((f) => f.code === 'dictatedLine');
    const text = (job: Job) => said(job).find((f) => f.code === 'dictatedLine')?.text;
    expect(told(launch()).length).toBe(0);
    expect(told(launch(battery, 'ownFigures')).length).toBe(0);
    expect(told(launch(battery, 'stops')).map((f) => f.severity)).toEqual(['note']);
    expect(told(launch(battery)).map((f) => f.severity)).toEqual(['attention']);
    expect(text(launch(battery))).toContain('What it does when the data line is lost is not known.');
    expect(text(launch(battery, 'stops'))).toBe('Solar aft stops charging when its data line to the battery is lost.');
    expect(text(launch({ by: 'device', device: 'monitor' }, 'lastFigures'))).toBe(
      'Solar aft goes on with the last absorb, charge current limit and compensation slope of Monitor when its data line is lost.',
    );
  });
});
