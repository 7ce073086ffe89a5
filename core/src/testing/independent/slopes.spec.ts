import { proveLog, type ProofRow } from '../../proof';
import { ownProbe } from '../../system';
import { plan, rookMoss, seeded } from '../fixtures';
import { simulate, type SimCharger, type SimDay } from './simulate';

/** Eight days of a bank whose charger moves its levels otherwise than it was told; only the sheet is known. */
describe('a slope that nobody keyed', () => {
  const job = rookMoss();
  const p = plan(job);
  const rows = (slope: number, cloud: number): ReadonlyMap<string, ProofRow> => {
    const day: SimDay = {
      days: 8,
      stepS: 60,
      startHour: 0,
      capacityAh: p.facts.capacityAh ?? 480,
      ocvEmptyV: 11.6,
      ocvFullV: 12.6,
      kneeV: 1.1,
      kneeWide: 0.06,
      ohms: 0.03,
      polarOhms: 0.035,
      polarS: 1200,
      charge: 0.7,
      meanC: 12,
      swingC: 8,
      cloud,
      loadA: 1.5,
      loadExtraA: 2,
    };
    const charger: SimCharger = {
      id: 'mast',
      limitA: 40,
      cableOhms: 0.00025,
      arrayA: 45,
      absorbV: 14.7,
      floatV: 13.4,
      rechargeV: 12.4,
      absorbS: 10_800,
      taperA: 0.5,
      wallClock: false,
      slope,
      cutoffC: null,
      resumeC: 0,
      sensorOffsetC: 0,
    };
    const made = simulate(day, [charger], seeded(31));
    const steps = (values: readonly number[], step: number): Float32Array => Float32Array.from(values, (x) => Math.round(x / step) * step);
    const log = {
      time: Float64Array.from(made.t, (t) => 1_780_000_000 + t),
      offsetMinutes: 0,
      bankVolts: steps(made.volts, 0.01),
      bankAmps: steps(made.net, 0.1),
      batteryC: steps(made.celsius, 0.1),
      batterySensor: ownProbe,
      chargers: { mast: { amps: steps(made.chargers[0]?.amps ?? [], 0.1), arrayVolts: steps(made.chargers[0]?.array ?? [], 0.1) } },
    };
    const report = { rows: log.time.length, skipped: 0, firstSkipped: [], intervalSeconds: 60, gaps: [], notes: [] };
    return new Map(proveLog(p, log, report, job.system.instruments[0]!).rows.map((r) => [r.requirement.code, r]));
  };

  for (const [cloud, slope] of [
    [0, 0.024],
    [0.6, 0.012],
    [0.3, 0],
    [0.3, -0.048],
    [0, -0.072],
  ] as const)
    it(`of ${slope * 1000} mV/°C is found, and proves no level of absorb that only a warm afternoon brings into its band`, () => {
      const of = rows(slope, cloud);
      expect(of.get('compensation')?.verdict).toBe('fail');
      expect(((of.get('compensation')?.measured ?? NaN) * 6) / 1000).toBeCloseTo(slope, 2);
      expect(of.get('absorbLevel')?.verdict).not.toBe('pass');
      expect(of.get('absorbAsProgrammed')?.verdict).not.toBe('pass');
    });

  it('is none where the charger moves as it was told', () => {
    const of = rows(-0.024, 0.3);
    expect(of.get('compensation')?.verdict).not.toBe('fail');
    expect(of.get('absorbLevel')?.verdict).toBe('pass');
  });
});
