import { findFindings } from '../findings';
import { plan, wholeTeasel } from '../testing/fixtures';

/** The whole launch, worked out by hand from the sheet rev D; sums beside the values. */
describe('the whole launch by hand', () => {
  const p = plan(wholeTeasel());
  const keyed = (role: Parameters<typeof p.setting>[1]) => ['fore', 'aft', 'dcdc', 'alternator'].map((c) => p.setting(c, role)?.value ?? null);

  it('ceiling: 2 × 115 = 230 A at most, 0.4 C × 460 Ah = 184 A recommended binds', () => {
    expect(p.ceiling.binding?.amps).toBeCloseTo(184, 9);
    expect(p.ceiling.candidates.find((c) => c.name === 'Most current')?.amps).toBe(230);
  });

  it('current: the alternator has no limit and counts 100 A; 84 A are shared 45 : 45 : 30 and rounded down to 1 A and 2.5 A steps', () => {
    // 84 × 45 / 120 = 31.5 → 31; 84 × 30 / 120 = 21 → 20.
    expect(keyed('chargeCurrentLimit')).toEqual([31, 31, 20, null]);
  });

  it('voltages: 28.1 absorb, 26.9 float, 26.4 recharge less the proving uncertainty; the forward display reads 0.21 V high', () => {
    expect(keyed('absorbVoltage')).toEqual([28.3, 28.1, 28.1, 28.1]);
    expect(p.setting('fore', 'absorbVoltage')?.trueValue).toBeCloseTo(28.09, 6);
    expect(keyed('floatVoltage')).toEqual([27.1, 26.9, 26.9, 26.9]);
    // The DC-DC charger counts recharge below float: 26.9 − 26.3 = 0.6.
    expect(keyed('rechargeVoltage')).toEqual([26.5, 26.3, 0.6, 26.3]);
  });

  it('taper: 0.04 C × 460 Ah + 2 A = 20.4 A over 45 + 45 + 30 A and the alternator’s 100 A, which has no taper of its own', () => {
    const sum =
      (p.setting('fore', 'taperCurrent')?.trueValue ?? 0) +
      (p.setting('aft', 'taperCurrent')?.trueValue ?? 0) +
      (p.setting('dcdc', 'taperCurrent')?.trueValue ?? 0);
    expect(sum).toBeLessThanOrEqual(20.4);
  });

  it('equalise: stored at absorb; the DC-DC charger’s forced gap makes 28.3 V, 0.1 V under the maximum', () => {
    expect(keyed('equaliseVoltage')).toEqual([28.3, 28.1, 28.3, null]);
    expect(p.setting('dcdc', 'equaliseVoltage')?.within).toBe('inside');
  });

  it('absorb time: 40 min, on the alternator never below its wrap at 10', () => {
    expect(keyed('absorbTime')).toEqual([40, 40, 40, 40]);
  });

  it('as found: no cold protection on the DC-DC charger, the derating table passed until 12 °C', () => {
    const findings = findFindings(p, '2026-06-09');
    expect(findings.find((f) => f.code === 'coldProtection')?.charger).toBe('dcdc');
    expect(findings.find((f) => f.code === 'deratingExceeded')?.text).toContain('the sources may give 182\u00a0A');
    expect(findings.find((f) => f.code === 'deratingExceeded')?.text).toContain('Below 12\u00a0°C');
  });
});
