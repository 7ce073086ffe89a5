import { madeLog, type Sample } from '../testing/logs';
import { aloneEnglish, sayFor } from '../words';
import { newJob } from '../job';
import { shownAlone, type Log, type LogFact, type LogReport } from './index';

interface Made {
  readonly log: Log;
  readonly report: LogReport;
}
const factsOf = ({ log, report }: Made): readonly LogFact[] => shownAlone(log, report);
function fact<C extends LogFact['code']>(made: Made, code: C): (LogFact & { readonly code: C }) | undefined {
  return factsOf(made).find((f): f is LogFact & { readonly code: C } => f.code === code);
}
const noise = (s: number): number => 0.008 * Math.sin(s / 3) + 0.005 * Math.cos(s / 11);
/** Bulk that rises for two hours, an hour at 28.4 V with a falling current, then two hours at 27.0 V. */
const day = (s: number): Sample => {
  if (s < 7200) return { volts: 26 + (2.4 * s) / 7200 + noise(s), amps: 30, net: 28, celsius: 4 + s / 7200 };
  if (s < 10_800) return { volts: 28.4 + noise(s), amps: 4 + 26 * Math.exp(-(s - 7200) / 1500), net: 2, celsius: 5 };
  return { volts: 27 + noise(s), amps: 3, net: 0.2, celsius: 6 };
};
const whole = madeLog(18_000, 10, day);
const start = whole.log.time[0]!;

describe('what a log shows by itself', () => {
  it('its extremes, and when', () => {
    const high = fact(whole, 'highestVolts')!.seen;
    expect(high.value).toBeCloseTo(28.41, 1);
    expect(high.at - start).toBeGreaterThanOrEqual(7190);
    expect(high.at - start).toBeLessThan(10_800);
    expect(fact(whole, 'lowestVolts')!.seen.at - start).toBeLessThan(60);
    expect(fact(whole, 'mostAmps')).toEqual({ code: 'mostAmps', charger: 'aft', seen: { value: 30, at: start } });
  });

  it('the level at which the volts stayed, for how long, and what the current did; a bulk that rises is no level', () => {
    const stay = fact(whole, 'stayedHigh')!;
    expect((stay.lowV + stay.highV) / 2).toBeCloseTo(28.4, 1);
    expect(stay.seconds / 60).toBeGreaterThan(50);
    expect(stay.seconds / 60).toBeLessThanOrEqual(67);
    expect([stay.days, stay.amps!.of, stay.amps!.first > 20, stay.amps!.last < 8]).toEqual([1, 'chargers', true, true]);
    expect([stay.from >= start + 7200 - 450, stay.to < start + 10_800]).toEqual([true, true]);
    const below = fact(whole, 'stayedBelow')!;
    expect((below.lowV + below.highV) / 2).toBeCloseTo(27, 1);
    expect(below.seconds / 60).toBeGreaterThan(110);
    const rising = madeLog(7200, 10, day);
    expect([fact(rising, 'stayedHigh'), fact(rising, 'stayedBelow')]).toEqual([undefined, undefined]);
  });

  it('five minutes are a level and four are none', () => {
    const held = (minutes: number): Made =>
      madeLog(7200, 10, (s) => (s < 5000 || s > 5000 + minutes * 60 ? { volts: 25 + s / 2000 + noise(s), amps: 20 } : { volts: 28.4, amps: 10 }));
    expect(fact(held(5.5), 'stayedHigh')?.highV).toBeCloseTo(28.4, 2);
    expect(fact(held(4.5), 'stayedHigh')).toBeUndefined();
  });

  it('a dip of a load is no end of a level, and a gap is', () => {
    const dipped = madeLog(18_000, 10, (s) => ({ ...day(s), ...(s > 9000 && s < 9060 ? { volts: 27.6 } : {}) }));
    expect(fact(dipped, 'stayedHigh')!.seconds).toBeGreaterThan(3000);
    const keep = Array.from(whole.log.time, (t, i) => [t - start, i] as const).filter(([s]) => s < 8400 || s > 9600);
    const cut = (values: Float32Array): Float32Array => Float32Array.from(keep.map(([, i]) => values[i] ?? NaN));
    const gapped: Made = {
      report: whole.report,
      log: {
        ...whole.log,
        time: Float64Array.from(keep.map(([s]) => s + start)),
        bankVolts: cut(whole.log.bankVolts),
        bankAmps: cut(whole.log.bankAmps!),
        batteryC: cut(whole.log.batteryC!),
        chargers: { aft: { amps: cut(whole.log.chargers['aft']!.amps!) } },
      },
    };
    expect(fact(gapped, 'stayedHigh')!.seconds).toBeLessThanOrEqual(2700);
    expect(fact(gapped, 'counted')!.unknownSeconds).toBeGreaterThanOrEqual(1200);
  });

  it('levels of several days are told from least to most: compensation moves them', () => {
    const days = madeLog(2 * 86_400, 30, (s) => {
      const t = s % 86_400;
      return t < 18_000 ? { ...day(t), volts: (day(t).volts ?? 0) + (s > 86_400 ? 0.5 : 0) } : { volts: 25.5, amps: 0, net: -2, celsius: 5 };
    });
    const stay = fact(days, 'stayedHigh')!;
    expect(stay.days).toBe(2);
    expect(stay.lowV).toBeCloseTo(28.4, 1);
    expect(stay.highV).toBeCloseTo(28.9, 1);
  });

  it('how cold and how warm the battery was while something flowed into it, and whose sensor says so', () => {
    expect(fact(whole, 'chargedCold')!.seen).toEqual({ value: 4, at: start });
    // What drips into a full bank is no charge.
    expect(fact(whole, 'chargedHot')!.seen.value).toBe(5);
    expect(fact(whole, 'chargedCold')!.sensorKnown).toBe(whole.log.batterySensor !== undefined);
    const { batterySensor: _known, ...nobody } = whole.log;
    expect(fact({ ...whole, log: nobody }, 'chargedCold')!.sensorKnown).toBeFalse();
    // Nothing flows in: only how warm it was is told.
    const idle = madeLog(3600, 10, () => ({ volts: 25.6, amps: 0, net: -3, celsius: -2 }));
    expect(fact(idle, 'chargedCold')).toBeUndefined();
    expect(fact(idle, 'noCharge')!.coldest.value).toBe(-2);
  });

  it('the charge in and out by hand: 28 A for two hours, 2 A for one, 0.2 A for two', () => {
    const { inAh, outAh, unknownSeconds, reversed } = fact(whole, 'counted')!;
    expect(inAh).toBeCloseTo(56 + 2 + 0.4, 0);
    expect([outAh, unknownSeconds, reversed]).toEqual([0, 0, false]);
    const out = madeLog(7200, 10, () => ({ volts: 25.6, amps: 0, net: -6 }));
    expect(fact(out, 'counted')!.outAh).toBeCloseTo(12, 1);
  });

  it('nothing of what the log has no column for', () => {
    const bare: Made = { report: whole.report, log: { time: whole.log.time, offsetMinutes: null, bankVolts: whole.log.bankVolts, chargers: {} } };
    const codes = factsOf(bare).map((f) => f.code);
    expect(codes).toEqual(['highestVolts', 'stayedHigh', 'stayedBelow', 'lowestVolts']);
    expect(fact(bare, 'stayedHigh')!.amps).toBeUndefined();
  });

  it('in the reader’s scale, with what nobody has said named', () => {
    const say = sayFor(newJob('a', 'A', '2026-01-01T00:00:00Z'), 'F');
    const { batterySensor: _known, ...nobody } = whole.log;
    const told = factsOf({ ...whole, log: nobody }).map((f) => aloneEnglish.fact(f, say));
    const cold = told.find((t) => t.title === 'Coldest battery while it was charged')!;
    expect(cold.value).toMatch(/^39\.2\s°F$/);
    expect(cold.more).toBe('Nobody has said which sensor wrote it.');
    expect(told.find((t) => t.title.startsWith('Highest level'))!.more).toMatch(
      /^Within 0\.07\sV for (1\sh|5\d\smin|1\sh \d\smin)\. In the longest stretch the current from the chargers went from \d\d\.\d\sA to \d\.\d\sA\.$/,
    );
  });
});
