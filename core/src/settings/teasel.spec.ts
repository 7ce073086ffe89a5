import { type SpokenFinding } from '../words';
import { findFindings } from '../findings';
import { accept, applyChanges, type Job, openStops } from '../job';
import { plan, said, wholeTeasel } from '../testing/fixtures';
import type { Role } from '../card';
import { provingUncertainty } from './index';

const today = '2026-06-09';

/**
 * The whole launch worked out by hand from the sheet rev D; the arithmetic stands beside each row. Chargers in the order fore, aft, DC-DC,
 * alternator. The forward display reads 0.21 V high and cannot be calibrated. null: the device has no such setting.
 */
const table: readonly (readonly [Role, string, readonly (number | string | null)[]])[] = [
  [
    'chargeCurrentLimit',
    '0.4 C × 460 Ah = 184 A, less the alternator’s 100 A = 84 A; 84 × 45/120 = 31.5 → 31; 84 × 30/120 = 21 → 20 in steps of 2.5',
    [31, 31, 20, null],
  ],
  ['absorbVoltage', '28.1 × 1; fore 28.1 + 0.21 = 28.31 → 28.3, which makes 28.09', [28.3, 28.1, 28.1, 28.1]],
  ['bulkVoltage', 'as absorb: the school is long and cool', [null, null, null, 28.1]],
  ['absorbTime', '40 min everywhere; on the AR-2 well above its wrap at 10', [40, 40, 40, 40]],
  [
    'taperCurrent',
    '0.04 C × 460 = 18.4 A, + 2 A of least load = 20.4 A over 45 + 45 + 30 A: 7.65, 7.65 and 5.1 A; the alternator ends by time and holds up to 100 A while theirs fall: off, on the DC-DC the least',
    [0, 0, 0.5, null],
  ],
  ['floatVoltage', '26.9; fore 26.9 + 0.21 = 27.11 → 27.1', [27.1, 26.9, 26.9, 26.9]],
  ['rechargeVoltage', '26.4 − 0.031 proving = 26.369 → 26.3; fore + 0.21 → 26.5; DC-DC as 26.9 − 26.3 = 0.6 below float', [26.5, 26.3, 0.6, 26.3]],
  ['compensationSlope', 'lithium: off', [0, 0, null, 0]],
  [
    'lowTempCutoff',
    'fore 0 + 0 + 0.75 + 0.5 = 1.25 → 2; aft + 2.5 of felt = 3.75 → 4; DC-DC 0.75 + 1 = 1.75 → 2; alternator 5 × 420/3600 + 1 = 1.58 → 2',
    [2, 4, 2, 2],
  ],
  ['lowTempResume', 'cutoff + max(2, error + lead): 2 + 2; 4 + 2; 2 + 2.5 = 4.5 → 5; 2 + 3 = 5', [4, 6, 5, 5]],
  ['equaliseVoltage', 'stored at absorb; the D30 forces 28.1 + 0.2 = 28.3, 0.1 V under the most', [28.3, 28.1, 28.3, null]],
  ['highVoltageAlarm', 'most 28.4 + 0.4 = 28.8; trip 29.2 − 0.4 = 28.8', [null, null, null, 28.8]],
  ['inputStopVoltage', '12 V of lead rests at 12.8 V (not measured)', [null, null, 12.8, null]],
  ['inputStartVoltage', '12.8 + 0.4 of a running alternator = 13.2', [null, null, 13.2, null]],
  ['machineTempLimit', 'the machine’s 120 °C − 20 by the school long and cool', [null, null, null, 100]],
];

const monitor: readonly (readonly [Role, string, number])[] = [
  ['capacity', '2 × 230 Ah × 1.0', 460],
  ['fullDetectVoltage', 'lowest absorb 28.09 − 0.3 = 27.79 → 27.7', 27.7],
  ['fullDetectCurrent', 'net 18.4 × 1.05 = 19.3 → 19', 19],
  ['loadDisconnect', 'sheet', 24.6],
  ['loadReconnect', 'sheet', 25.8],
  ['lowVoltageAlarm', '24.6 + 0.4', 25],
];

describe('the whole launch by hand', () => {
  const p = plan(wholeTeasel());

  it('ceiling: 2 × 115 = 230 A at most, 0.4 C × 460 Ah = 184 A recommended binds, 92 A with one string off', () => {
    expect(p.ceiling.binding?.amps).toBeCloseTo(184, 9);
    expect(p.ceiling.candidates.find((c) => c.name === 'Most current')?.amps).toBe(230);
    expect(p.ceiling.candidates.find((c) => c.name === 'One string off')?.amps).toBeCloseTo(92, 9);
  });

  for (const [role, sum, values] of table)
    it(`${role}: ${sum}`, () => {
      expect(['fore', 'aft', 'dcdc', 'alternator'].map((c) => p.setting(c, role)?.value ?? null)).toEqual([...values]);
    });
  for (const [role, sum, value] of monitor)
    it(`monitor ${role}: ${sum}`, () => {
      expect(p.setting('monitor', role)?.value).toBe(value);
    });

  it('proving uncertainty: 2 × √((0.1 % of 26.4 / √3)² + (0.005 / √3)²) = 0.031 V', () => {
    expect(provingUncertainty(p.input, 26.4)).toBeCloseTo(2 * Math.hypot(0.0264 / Math.sqrt(3), 0.005 / Math.sqrt(3)), 9);
  });

  it('every setting of every device ends as set, or says why not', () => {
    for (const s of p.settings)
      expect(s.value !== null || s.noValue !== undefined)
        .withContext(`${s.charger} ${s.role}`)
        .toBeTrue();
    for (const device of [...p.input.system.chargers, ...p.input.system.companions]) {
      const card = p.input.cards.find((c) => c.id === device.card)!;
      for (const parameter of card.parameters) expect(p.setting(device.id, parameter.role)).withContext(`${device.id} ${parameter.role}`).toBeDefined();
    }
  });
});

/** Follows remedies until none of rank stop is left, choosing a way out by its label. */
function mend(job: Job, choose: (finding: SpokenFinding) => string): Job {
  for (let i = 0; i < 30; i++) {
    const stop = said(job, today).find((f) => f.severity === 'stop');
    if (!stop) return job;
    const remedy = stop.remedies.find((r) => r.label.startsWith(choose(stop))) ?? stop.remedies[0];
    if (!remedy) return job;
    job = applyChanges(job, remedy.changes);
  }
  return job;
}

describe('findings of the launch, before and after', () => {
  const before = said(wholeTeasel(), today);

  it('before: as found five stops, each the right one', () => {
    expect(before.filter((f) => f.severity === 'stop').map((f) => [f.code, f.charger ?? ''])).toEqual([
      ['coldProtection', 'dcdc'],
      ['cutoffBelowSheet', 'aft'],
      ['deratingExceeded', ''],
      ['alarmPastTrip', 'alternator'],
      ['presentOutsideBand', 'aft'],
    ]);
    expect(before.find((f) => f.code === 'deratingExceeded')?.text.replace(/\u00a0/g, ' ')).toBe(
      'The chargers can deliver 182 A. The sheet allows 23 A below 5 °C and 92 A below 12 °C.',
    );
  });

  for (const way of ['Raise', 'Stagger', 'Lower'])
    it(`the way out “${way}…” makes the derating stop go, and after all remedies none of rank stop is left`, () => {
      const derating = before.find((f) => f.code === 'deratingExceeded');
      const remedy = derating?.remedies.find((r) => r.label.startsWith(way));
      expect(remedy).toBeDefined();
      const once = applyChanges(wholeTeasel(), remedy?.changes ?? []);
      expect(findFindings(plan(once), today).some((f) => f.code === 'deratingExceeded')).toBeFalse();
      const done = mend(wholeTeasel(), (f) => (f.code === 'deratingExceeded' ? way : ''));
      expect(findFindings(plan(done), today).filter((f) => f.severity === 'stop')).toEqual([]);
    });

  it('staggered by hand: the DC-DC’s 20 A fit under 23 A, with 31 + 31 A under 92 A, and with the alternator’s 100 A under 184 A', () => {
    const job = { ...wholeTeasel(), schools: { ...wholeTeasel().schools, coldCurrent: 'stagger' as const } };
    const p = plan(job);
    expect(p.cold.sources.map((s) => [s.charger, s.fromC])).toEqual([
      ['fore', 5],
      ['aft', 5],
      ['dcdc', 0],
      ['alternator', 12],
    ]);
    // The same margins on top: 5 + 1.25, 5 + 3.75, 0 + 1.75, 12 + 1.58, rounded up.
    expect(['fore', 'aft', 'dcdc', 'alternator'].map((c) => p.setting(c, 'lowTempCutoff')?.value)).toEqual([7, 9, 2, 14]);
  });

  it('a stop that is accepted with a reason stands no longer, until its numbers change', () => {
    const stop = before.find((f) => f.code === 'coldProtection')!.finding;
    const job = accept(wholeTeasel(), stop, { reason: 'never run in winter', by: 'owner', date: today });
    const open = (j: Job): string[] => openStops(findFindings(plan(j), today), j).map((f) => f.code);
    expect(open(wholeTeasel()).length).toBe(5);
    expect(open(job)).not.toContain('coldProtection');
    expect(open({ ...job, system: { ...job.system, site: { ...job.system.site, bankLowC: -9 } } })).toContain('coldProtection');
  });
});
