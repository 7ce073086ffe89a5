import type { Job } from '../job';
import type { Basis, FigureKey } from '../sheet';
import { override, quiet, skarrow, tumbler, withCard } from '../testing/findingCases';
import { codes, find, rookMoss, said, wholeTeasel, withFigure } from '../testing/fixtures';

const about = (job: Job): readonly string[] =>
  said(job)
    .filter((f) => f.severity !== 'note')
    .map((f) => `${f.code} ${f.charger ?? ''} ${f.role ?? ''} ${f.figure ?? ''}`.trim());
/** What is found on a job and was not found on the one before. */
const added = (job: Job, before: Job): readonly string[] => about(job).filter((a) => !about(before).includes(a));

describe('a figure on the wrong basis', () => {
  const wrong: readonly (readonly [string, Job, FigureKey, Basis])[] = [
    ['the launch', wholeTeasel(), 'absorbVoltage', 'cell'],
    ['the launch', wholeTeasel(), 'floatVoltage', 'block'],
    ['the launch', wholeTeasel(), 'disconnectVoltage', 'cell'],
    ['the mast', rookMoss(), 'absorbVoltage', 'unit'],
    ['the hut', skarrow(), 'absorbVoltage', 'bank'],
    ['the stage', tumbler(), 'absorbVoltage', 'block'],
    ['the stage', tumbler(), 'bmsCellOverVoltage', 'unit'],
  ];
  for (const [name, job, key, basis] of wrong)
    it(`is told once on ${name}, ${key} taken per ${basis}, without what only follows from it`, () => {
      expect(added(withFigure(job, key, { basis }), job)).toEqual([`basisSuspicious   ${key}`.trim()]);
    });

  it('hides nothing that stands without it', () => {
    const job = withFigure(wholeTeasel(), 'absorbVoltage', { basis: 'cell' });
    expect(codes(job)).toContain('coldProtection');
    // Aft float was found at 27.6 V: float has its own figure.
    expect(find(job, 'presentOutsideBand')?.text).toMatch(/^Solar aft: float was found at 27\.6\sV/);
    expect(codes(withFigure(job, 'floatVoltage', { min: 25 }))).toContain('presentOutsideBand');
  });

  it('brings everything back once it is mended', () => {
    const loud: Job = { ...quiet(), overrides: [override('absorbVoltage', 28.8)] };
    expect(codes(loud)).toContain('absorbOutsideBand');
    expect(codes(withFigure(loud, 'absorbVoltage', { basis: 'cell' }))).not.toContain('absorbOutsideBand');
  });

  it('is no doubt where no other basis would mend it: a trip that is merely low stands, and what follows from it is told', () => {
    const job = withFigure(quiet(), 'bmsOverVoltage', { max: 28 });
    expect(find(job, 'basisSuspicious')?.remedies).toEqual([]);
    expect(codes(job)).toContain('absorbNearTrip');
  });
});

describe('a cell count that does not fit its volts', () => {
  const counted = (cellsInSeries: number): Job => {
    const job = quiet();
    return { ...job, sheet: { ...job.sheet, unit: { ...job.sheet.unit, cellsInSeries } } };
  };

  it('is told by itself, not with every figure that comes out wrong by it', () => {
    expect(added(counted(4), quiet())).toEqual(['cellCountMismatch']);
  });
});

describe('a battery that nobody has entered', () => {
  it('is not held against the chargers: what holds for lithium alone or at 12 V alone is not told', () => {
    const job = rookMoss();
    const lithium: Job = { ...job, sheet: { ...job.sheet, chemistry: 'lfp', unit: { nominalVolts: 12.8, cellsInSeries: 4, capacityAh: 100 }, figures: {} } };
    expect(codes(lithium)).toContain('chemistryNotSupported');
    const unsaid: Job = { ...lithium, assumed: { chemistry: true } };
    expect(codes(unsaid)).not.toContain('chemistryNotSupported');
    expect(codes(unsaid)).not.toContain('compensationOnLithium');
    expect(codes(unsaid)).toContain('batteryNotSaid');
    expect(codes(unsaid)).toContain('fuseMissing');
  });

  it('is not held against a charger of another voltage class', () => {
    const job = withCard(quiet(), 'varrow-s45', (card) => ({ ...card, ratings: { ...card.ratings, systemVolts: [48] } }));
    expect(codes(job)).toContain('systemVoltageMismatch');
    expect(codes({ ...job, assumed: { unitsInSeries: true } })).not.toContain('systemVoltageMismatch');
    expect(codes({ ...job, assumed: { unitsInSeries: true } })).toContain('systemNotSaid');
  });
});

describe('an override outside the sheet', () => {
  it('of absorb or float is told once, with whose it is', () => {
    const job: Job = { ...quiet(), overrides: [{ ...override('floatVoltage', 27.6), reviewedBy: 'installer' }] };
    expect(
      said(job)
        .filter((f) => f.charger === 'aft' && f.role === 'floatVoltage' && f.code !== 'chargersDisagree')
        .map((f) => [f.severity, f.text.replace(/\u00a0/g, ' ')]),
    ).toEqual([['stop', 'Solar aft: float is overridden by the owner and comes to 27.60 V, 0.50 V above the sheet’s 26.70–27.10 V.']]);
  });
});
