import { coverage } from '../job';
import { speakRow } from '../proof';
import { plan } from '../testing/fixtures';
import { demoJob } from '../testing/rehearsals';
import { subjectOf, testNamed, testRecordSchema, testsFor, type TestRecord } from './index';

const job = demoJob('tumbler');
const p = plan(job);
const own = job.system.companions.find((c) => testsFor(p).some((t) => t.test.code === 'thermostat' && t.subject.device.id === c.id))!;
const record = (answers: Readonly<Record<string, Readonly<Record<string, number | string>>>>): TestRecord =>
  testRecordSchema.parse({
    id: 'test',
    code: 'thermostat',
    device: own.id,
    begunAt: '2026-06-09T09:00:00.000Z',
    endedAt: null,
    by: 'KM',
    instrument: job.system.instruments[0]!.id,
    grade: 'measured',
    answers: Object.entries(answers).map(([step, values], i) => ({ step, at: `2026-06-09T09:0${i}:00.000Z`, values })),
    series: [],
    note: '',
    photos: [],
  });
const told = (answers: Parameters<typeof record>[0]) =>
  testNamed('thermostat')
    .judge(p, subjectOf(p, own.id)!, record(answers), { ...job.system.instruments[0]!, temperatureErrorC: 0.3 })
    .map((r) => speakRow(r, 'C'));
const at = p.setting(own.id, 'thermostatSetpoint')!.trueValue!;
const least = job.sheet.figures.chargeTemperature!.min!;
const cells = { cell: 3, shown: 3 };

describe('the thermostat in a cold bath', () => {
  it('speaks for every charger that its contact stops, and for no other', () => {
    const rows = told({ cells, trip: { celsius: at, amps: 0, opened: 'yes' } });
    expect(rows.map((r) => r.requirement.charger)).toEqual(job.system.chargers.flatMap((c) => (own.switches.includes(c.id) ? [c.id] : [])));
    expect(rows.every((r) => r.requirement.code === 'noChargeBelowMinimum')).toBeTrue();
  });

  it('proves where it opens warm enough for the cells, with the current gone', () => {
    expect(at).toBeGreaterThan(least);
    const [row] = told({ cells, trip: { celsius: at, amps: 0, opened: 'yes' } });
    expect([row?.verdict, row?.measured]).toEqual(['pass', at]);
    // A probe on a pad, so much warmer than the cells that they would be charged under the least.
    expect(told({ cells: { cell: 3, shown: 3 + at - least + 2 }, trip: { celsius: at, amps: 0, opened: 'yes' } })[0]?.verdict).toBe('fail');
  });

  it('fails where current still flows, or where the contact stays closed in ice water', () => {
    expect(told({ cells, trip: { celsius: at, amps: 3, opened: 'yes' } })[0]?.why).toContain('still flowed. That is charging.');
    expect(told({ cells, trip: { coldest: at - 8, opened: 'no' } })[0]?.verdict).toBe('fail');
    expect(told({ cells, trip: { coldest: at, opened: 'no' } })[0]?.verdict).toBe('inconclusive');
  });

  it('leaves open what was not read, and says nothing of what was not done', () => {
    expect(told({})).toEqual([]);
    expect(told({ cells, trip: { celsius: at, opened: 'yes' } })[0]?.next).toContain('A clamp meter');
    expect(told({ trip: { celsius: at, amps: 0, opened: 'yes' } })[0]?.why).toContain('was not measured');
  });

  it('is offered for a charger that has no cutoff of its own', () => {
    const charger = own.switches.find((id) => job.system.chargers.some((c) => c.id === id))!;
    const covered = coverage({ ...job, tests: [record({ cells, trip: { celsius: at, amps: 0, opened: 'yes' } })] }, p, []);
    const cold = covered.find((c) => c.requirement.code === 'noChargeBelowMinimum' && c.requirement.charger === charger);
    expect([cold?.verdict, cold?.by?.kind]).toEqual(['pass', 'test']);
  });
});
