import { readFileSync } from 'node:fs';
import { teasel, withFigure } from '../testing/fixtures';
import { isNewerRevision, sheetDifferences, sheetSchema, usableSheet } from './index';

const sheet = (id: string) => sheetSchema.parse(JSON.parse(readFileSync(new URL(`../../../library/sheets/${id}.json`, import.meta.url), 'utf8')));
const c = sheet('pellow-lb-25-rev-c');
const d = sheet('pellow-lb-25-rev-d');

describe('two revisions of one sheet', () => {
  it('differ in three figures, each with its size', () => {
    expect(
      sheetDifferences(c, d).map((x) => [x.name, x.before.replace(/\u00a0/g, ' '), x.after.replace(/\u00a0/g, ' '), x.by.replace(/\u00a0/g, ' ')]),
    ).toEqual([
      ['Absorb voltage', '28.7 V (28.4–28.8) per battery', '28.1 V (28.0–28.4) per battery', '0.60 V less'],
      ['Float voltage', '27.3 V per battery', '26.9 V (26.7–27.1) per battery', '0.40 V less'],
      ['Absorb time', '60 min', '40 min', '20 min less'],
    ]);
    expect(sheetDifferences(d, d)).toEqual([]);
  });

  it('are in the order of their dates, and only of the same battery', () => {
    expect([isNewerRevision(d, c), isNewerRevision(c, d), isNewerRevision(d, d)]).toEqual([true, false, false]);
    expect(isNewerRevision({ ...d, battery: 'LB-12/100' }, c)).toBeFalse();
    expect(isNewerRevision({ ...c, date: '2024-09-20' }, c)).toBeFalse();
  });

  it('tell the same figure on another basis as the same', () => {
    const perCell = {
      ...d,
      figures: { ...d.figures, absorbVoltage: { ...d.figures.absorbVoltage!, basis: 'cell' as const, min: 3.5, target: 28.1 / 8, max: 3.55 } },
    };
    expect(sheetDifferences(d, perCell)).toEqual([]);
    expect(sheetDifferences(d, { ...d, unit: { ...d.unit, capacityAh: 200 }, derating: [] }).map((x) => x.name)).toEqual(['Battery', 'Current when cold']);
  });
});

describe('the reference policy', () => {
  const job = withFigure(teasel(), 'floatVoltage', { rank: 'sameChemistry' });

  it('maker only takes out what is not the maker’s; best available lets it count', () => {
    const strict = usableSheet(job.sheet, 'makerOnly');
    expect(strict.withheld.map((w) => w.key)).toEqual(['floatVoltage']);
    expect(strict.sheet.figures.floatVoltage).toBeUndefined();
    expect(usableSheet(job.sheet, 'bestAvailable')).toEqual({ sheet: job.sheet, withheld: [] });
  });

  it('a letter and a sheet for another charger are the maker’s own paper', () => {
    for (const rank of ['makerReply', 'makerForOtherCharger'] as const)
      expect(usableSheet(withFigure(teasel(), 'floatVoltage', { rank }).sheet, 'makerOnly').withheld).toEqual([]);
  });
});
