import { plan, teasel } from '../testing/fixtures';
import { withBatterySaid, withSheetTaken } from './apply';
import { jobSchema, newJob } from './job';

const empty = newJob('heron', 'Heron', '2026-06-01T08:00:00Z');
const { sheet } = teasel();

describe('the battery of a job, said in one go', () => {
  it('is its sheet and how many in series; strings stay open while nobody has said', () => {
    const said = withBatterySaid(empty, sheet, 2);
    expect(jobSchema.safeParse(said).success).toBeTrue();
    expect([said.sheet.battery, said.system.bank.unitsInSeries, plan(said).facts.nominalVolts]).toEqual([sheet.battery, 2, 51.2]);
    expect([said.assumed?.chemistry, said.assumed?.nominalVolts, said.assumed?.unitsInSeries, said.assumed?.stringsInParallel]).toEqual([
      undefined,
      undefined,
      undefined,
      true,
    ]);
    const strings = withBatterySaid(empty, sheet, 1, 3);
    expect([strings.system.bank.stringsInParallel, strings.assumed?.stringsInParallel]).toEqual([3, undefined]);
    // What belongs to the place is still nobody’s word.
    expect([strings.assumed?.bankLowC, strings.assumed?.maxA]).toEqual([true, true]);
  });

  it('a sheet taken puts an older one of the same battery beside it, and one of another battery away', () => {
    const older = { ...sheet, id: 'older', revision: 'A' };
    const other = { ...sheet, id: 'other', battery: 'Other' };
    const took = (from: typeof sheet): readonly string[] => withSheetTaken({ ...empty, sheet: from }, sheet).otherSheets.map((s) => s.id);
    expect([took(older), took(other), took(sheet)]).toEqual([['older'], [], []]);
    expect(withSheetTaken({ ...empty, sheet: other, otherSheets: [older, { ...sheet }] }, sheet).otherSheets.map((s) => s.id)).toEqual(['older']);
  });
});
