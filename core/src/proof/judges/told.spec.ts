import { requirementsOf } from '../../requirements';
import type { Job } from '../../job';
import { plan, teasel, withCharger } from '../../testing/fixtures';
import { row, type Made } from '../../testing/judged';
import { keyed } from '../../testing/keyed';
import { madeLog } from '../../testing/logs';
import type { SpokenRow } from '../index';

/** Bulk for an hour and a half, absorb with a falling current for an hour, then float at this level for an hour and a half. */
const day = (float: number): Made =>
  madeLog(14_400, 10, (s) => {
    const wobble = 0.004 * Math.sin(s / 7);
    if (s < 5400) return { volts: 26.4 + (1.7 * s) / 5400, amps: 28, net: 25 };
    if (s < 9000) return { volts: 28.1 + wobble, amps: 3 + 25 * Math.exp(-(s - 5400) / 1200), net: 1 + 24 * Math.exp(-(s - 5400) / 1200) };
    return { volts: Math.max(float, 28.1 - (s - 9000) * 0.01) + wobble, amps: s < 9120 ? 0 : Math.floor(s / 480) % 3 === 0 ? 9 : 4, net: 0.5 };
  });
const read = keyed(teasel());
/** The launch as it was keyed, with aft’s float read as another value; undefined where nobody has read it. */
const floatRead = (shown: number | undefined): Job => {
  const { floatVoltage: _target, ...others } = read.system.chargers.find((c) => c.id === 'aft')!.present;
  return withCharger(read, 'aft', { present: shown === undefined ? others : { ...others, floatVoltage: shown } });
};
const floatOf = (job: Job, level: number): SpokenRow => row(day(level), 'floatAsProgrammed', 'aft', plan(job));

describe('as programmed, by what was read on the device', () => {
  it('is proved where the device was read and does it, and fails where it does not', () => {
    const [held, other] = [floatOf(read, 26.9), floatOf(read, 27.3)];
    expect([held.verdict, other.verdict]).toEqual(['pass', 'fail']);
    expect(held.why).toMatch(/26.77–27.03\sV is programmed\.$/);
  });

  it('is neither while nobody has read the device: what it was set to is not known', () => {
    for (const level of [26.9, 27.3]) {
      const open = floatOf(floatRead(undefined), level);
      expect(open.verdict).toBe('inconclusive');
      expect(open.witness).toBeUndefined();
      expect(open.why).toMatch(/26.77–27.03\sV is worked out\. Nobody has read what Solar aft is set to\.$/);
      expect(open.next).toBe('Read the setting on the device and enter it under “as found”, or key it by the run sheet.');
    }
    // The maker’s own question does not rest on that.
    expect(row(day(26.9), 'floatLevel', 'aft', plan(floatRead(undefined))).verdict).toBe('pass');
    expect(row(day(27.3), 'floatLevel', 'aft', plan(floatRead(undefined))).verdict).toBe('fail');
  });

  it('goes by what the device showed, not by what was worked out', () => {
    expect(floatOf(floatRead(27.3), 27.3).verdict).toBe('pass');
    expect(floatOf(floatRead(27.3), 27.6).verdict).toBe('fail');
  });

  it('stays open where the target is kept and the device showed something else: it was set since, or does not do what it shows', () => {
    const open = floatOf(floatRead(27.3), 26.9);
    expect(open.verdict).toBe('inconclusive');
    expect(open.why).toContain('That is the value worked out, and the device showed another when it was read');
    expect(open.next).toBe('Read the setting on the device again.');
  });

  it('a limit of current that nobody has read is neither kept nor broken', () => {
    const { chargeCurrentLimit: _limit, ...others } = read.system.chargers.find((c) => c.id === 'aft')!.present;
    const unread = withCharger(read, 'aft', { present: others });
    const high = madeLog(43_200, 10, (s) => ({ volts: 26.4, amps: Math.min(52, 60 * Math.sin((Math.PI * s) / 43_200)), net: 20, celsius: 20 }));
    expect(row(high, 'currentAsProgrammed', 'aft').verdict).toBe('fail');
    const open = row(high, 'currentAsProgrammed', 'aft', plan(unread));
    expect([open.verdict, /its limit was worked out as 45\.0\sA/.test(open.why)]).toEqual(['inconclusive', true]);
  });
});

describe('requirements as programmed', () => {
  const of = (job: Job, code: string) => requirementsOf(plan(job)).find((r) => r.code === code && r.charger === 'aft')!;

  it('say whether anybody has read the device, and both bands where it showed another value', () => {
    expect(of(read, 'floatAsProgrammed').notRead).toBeUndefined();
    expect(of(floatRead(undefined), 'floatAsProgrammed').notRead).toBeTrue();
    const other = of(floatRead(27.3), 'floatAsProgrammed');
    expect([other.notRead, other.band.min! < 27.3 && other.band.max! > 27.3, other.targetBand!.min! < 26.9 && other.targetBand!.max! > 26.9]).toEqual([
      undefined,
      true,
      true,
    ]);
    expect(of(read, 'floatAsProgrammed').targetBand).toBeUndefined();
  });

  it('a reading within a quarter of the band is the target, with the display’s own steps', () => {
    const { band } = of(read, 'floatAsProgrammed');
    const quarter = 0.25 * (band.max! - band.min!);
    expect(of(floatRead(Number((26.9 + 0.9 * quarter).toFixed(3))), 'floatAsProgrammed').targetBand).toBeUndefined();
    expect(of(floatRead(Number((26.9 + 1.1 * quarter).toFixed(3))), 'floatAsProgrammed').targetBand).toBeDefined();
  });

  it('of cutoff, recharge and slope ask for a reading too', () => {
    const bare = withCharger(read, 'aft', { present: {} });
    for (const code of ['cutoffAsProgrammed', 'resumeAsProgrammed', 'rechargeAsProgrammed', 'absorbAsProgrammed', 'currentAsProgrammed', 'slopeAsProgrammed'])
      expect([of(bare, code).notRead, of(read, code).notRead])
        .withContext(code)
        .toEqual([true, undefined]);
  });
});
