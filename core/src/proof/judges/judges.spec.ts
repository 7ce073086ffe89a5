import { plan, seeded, teasel, wholeTeasel, withFigure } from '../../testing/fixtures';
import { beside as anyBeside, row, solarLaunch, type Made } from '../../testing/judged';
import { madeLog, type Sample } from '../../testing/logs';
import { slopeRatio, type Verdict } from '../index';

const verdict = (made: Made, code: string, charger?: string, of = solarLaunch): Verdict => row(made, code, charger, of).verdict;
const noise = (seed: number) => {
  const random = seeded(seed);
  return (size: number): number => (random() + random() + random() - 1.5) * size;
};
/** The forward charger beside it. */
const beside = (made: Made, amps: (i: number) => number): Made =>
  anyBeside(made, 'fore', { amps: Float32Array.from(made.log.time, (_, i) => amps(i)), arrayVolts: new Float32Array(made.log.time.length).fill(70) });

/** Bulk for an hour and a half, absorb for an hour with a falling current, then float under a small load. */
const day =
  (change: Partial<{ level: number; amps: number; net: number; celsius: number; float: number }> = {}): ((s: number) => Sample) =>
  (s) => {
    const { level = 28.1, amps = 28, net = 25, celsius = 20, float = 26.9 } = change;
    const n = noise(Math.floor(s) + 3);
    if (s < 5400) return { volts: 26.4 + ((level - 26.6) * s) / 5400 + n(0.01), amps, net, celsius };
    const t = s - 5400;
    if (t < 3600) return { volts: level + n(0.01), amps: 3 + (amps - 3) * Math.exp(-t / 1200), net: 1 + (net - 1) * Math.exp(-t / 1200), celsius };
    return { volts: Math.max(float, level - (t - 3600) * 0.01) + n(0.01), amps: t < 3720 ? 0 : 4, net: 0.5, celsius };
  };
const log = (change: Parameters<typeof day>[0] = {}): Made => madeLog(14_400, 10, day(change));

describe('current', () => {
  it('into the bank: proved near the ceiling, fails above it, not tested on a weak day', () => {
    const most = solarLaunch.ceiling.binding!.amps;
    expect(verdict(log({ net: most * 0.9 }), 'currentCeiling')).toBe('pass');
    expect(verdict(log({ net: most * 1.15 }), 'currentCeiling')).toBe('fail');
    expect(row(log({ net: most * 0.2 }), 'currentCeiling').why).toContain('says nothing of a day');
    expect(verdict(log({ net: most * 0.2 }), 'currentCeiling')).toBe('notTested');
  });

  /** A sun of twelve hours whose top would be `peak`, cut off at `limit`. */
  const sunny = (peak: number, limit: number, cloud?: { readonly from: number; readonly to: number }): Made =>
    madeLog(43_200, 10, (s) => {
      const clear = peak * Math.sin((Math.PI * s) / 43_200);
      return { volts: 26.4, amps: Math.min(limit, cloud && s >= cloud.from && s < cloud.to ? 0.3 * clear : clear), net: 20, celsius: 20 };
    });

  it('of one charger: against what it was told, where a flat top with a knee shows that the limit held it', () => {
    const { max: most } = row(log(), 'currentAsProgrammed', 'aft').band;
    const told = row(log(), 'currentAsProgrammed', 'aft').requirement.toldA!;
    expect(most).toBeGreaterThan(told);
    const of = (made: Made): Verdict => verdict(made, 'currentAsProgrammed', 'aft');
    expect(of(sunny(1.4 * told, told))).toBe('pass');
    expect(row(sunny(1.4 * told, told), 'currentAsProgrammed', 'aft').witness).toContain('the limit held it, not the source');
    expect(of(sunny(1.4 * most!, 1.2 * most!))).toBe('fail');
    expect(of(sunny(0.3 * told, told))).toBe('notTested');
  });

  it('of one charger: a noon that comes up to the limit by chance is the sun’s own top', () => {
    const told = row(log(), 'currentAsProgrammed', 'aft').requirement.toldA!;
    const of = (made: Made): Verdict => verdict(made, 'currentAsProgrammed', 'aft');
    const noon = row(sunny(0.995 * told, 2 * told), 'currentAsProgrammed', 'aft');
    expect([noon.verdict, noon.why.includes('nothing shows that the limit held it')]).toEqual(['notTested', true]);
    // A cloud’s edge is no knee: what it uncovers is flat at noon for less than two hours.
    expect(of(sunny(0.995 * told, 2 * told, { from: 18_000, to: 20_400 }))).toBe('notTested');
    // So long and so flat no sun stands.
    const held = (hours: number): Made => madeLog(43_200, 10, (s) => ({ volts: 26.4, amps: s < hours * 3600 ? 0.995 * told : 0, net: 10, celsius: 20 }));
    expect([held(2.1), held(1.9)].map(of)).toEqual(['pass', 'notTested']);
    // Below what it was told by more than the instrument may be wrong, another thing held it.
    expect(of(sunny(1.4 * told, 0.9 * told))).toBe('notTested');
  });

  it('is not proved by samples further apart than a current may last', () => {
    const apart = (made: Made, seconds: number): Made => ({ ...made, report: { ...made.report, intervalSeconds: seconds } });
    const most = solarLaunch.ceiling.binding!.amps;
    const codes = [
      ['currentCeiling', log({ net: most * 0.9 })],
      ['currentForTemperature', log({ celsius: 8, net: 60 })],
    ] as const;
    for (const [code, made] of codes) {
      expect([60, 61].map((s) => verdict(apart(made, s), code)))
        .withContext(code)
        .toEqual(['pass', 'inconclusive']);
      expect(row(apart(made, 300), code).why)
        .withContext(code)
        .toContain('what flowed between two of them does not show');
    }
    // Too much is too much, however seldom it was written down.
    expect(verdict(apart(log({ net: most * 1.15 }), 300), 'currentCeiling')).toBe('fail');
  });

  it('for its temperature: a stair of the sheet kept, broken, left open by a poor thermometer, and never visited', () => {
    expect(verdict(log({ celsius: 8, net: 60 }), 'currentForTemperature')).toBe('pass');
    const broken = row(log({ celsius: 3, net: 60 }), 'currentForTemperature');
    expect(broken.verdict).toBe('fail');
    expect(broken.band.max).toBeCloseTo(23, 6);
    // Half a degree either way is another stair.
    expect(verdict(log({ celsius: 4.8, net: 60 }), 'currentForTemperature')).toBe('inconclusive');
    expect(verdict(log({ celsius: 20, net: 60 }), 'currentForTemperature')).toBe('notTested');
  });
});

describe('temperature', () => {
  it('too hot: charged, held, and never hot enough', () => {
    expect(verdict(log({ celsius: 49 }), 'noChargeAboveMaximum', 'aft')).toBe('fail');
    expect(
      verdict(
        madeLog(14_400, 10, () => ({ volts: 26.6, amps: 0, celsius: 49, light: 800 })),
        'noChargeAboveMaximum',
        'aft',
      ),
    ).toBe('pass');
    expect(verdict(log({ celsius: 20 }), 'noChargeAboveMaximum', 'aft')).toBe('notTested');
  });
});

describe('a new charge', () => {
  /** Absorb and float, then the bank drawn down to `low` by day, and bulk again. */
  const drawn = (low: number, bore?: number): Made =>
    madeLog(26_000, 10, (s) => {
      if (s < 14_400) return day()(s);
      const n = noise(Math.floor(s) + 9);
      const t = s - 16_400;
      const fall = (26.9 - low) / 4000;
      // Once before it bore what it needs not bear again, and came back.
      if (bore !== undefined && t > -1500 && t < -900) return { volts: bore + n(0.005), amps: 28, net: -20 };
      if (t < 4000) return { volts: 26.9 - fall * Math.max(0, t) + n(0.005), amps: 4, net: -20 };
      const volts = Math.min(28.1, low + (t - 4000) / 2000);
      return { volts: volts + n(0.005), amps: volts < 28.1 ? 28 : 4 + 24 * Math.exp(-(t - 8000) / 1500), net: 20 };
    });
  it('begins where the sheet asks and where it was told, or too early, or not at all', () => {
    expect(verdict(drawn(26.05, 26.36), 'rechargeLevel', 'aft')).toBe('pass');
    // It may have begun at any voltage from float down: in between it gives all it can either way.
    expect(verdict(drawn(26.15), 'rechargeLevel', 'aft')).toBe('inconclusive');
    expect(verdict(drawn(26.15, 26.6), 'rechargeLevel', 'aft')).toBe('inconclusive');
    expect(verdict(drawn(26.6), 'rechargeLevel', 'aft')).toBe('fail');
    expect(row(drawn(26.15), 'rechargeLevel', 'aft').why).toContain('began a new charge');
    // Coarse samples, or a gap before it, could hide a load that pulled the bank lower.
    const coarse = drawn(26.6);
    expect(verdict({ ...coarse, report: { ...coarse.report, intervalSeconds: 60 } }, 'rechargeLevel', 'aft')).toBe('inconclusive');
    const begun = row(coarse, 'rechargeLevel', 'aft').evidence!.from + 300;
    expect(verdict({ ...coarse, report: { ...coarse.report, gaps: [{ from: begun - 400, to: begun - 100 }] } }, 'rechargeLevel', 'aft')).toBe('inconclusive');
    expect(verdict({ ...coarse, report: { ...coarse.report, gaps: [{ from: begun - 4000, to: begun - 3900 }] } }, 'rechargeLevel', 'aft')).toBe('fail');
    expect(verdict(log(), 'rechargeLevel', 'aft')).toBe('notTested');
    expect(row(log(), 'rechargeLevel', 'aft').why).toContain('never fell below');
  });
});

describe('equalise', () => {
  it('is not to be seen where it is not permitted', () => {
    expect(verdict(log(), 'noEqualise', 'aft')).toBe('pass');
    expect(verdict(log({ level: 29.2 }), 'noEqualise', 'aft')).toBe('fail');
    expect(verdict(madeLog(1200, 10, day()), 'noEqualise', 'aft')).toBe('notTested');
    expect(row(log(), 'noEqualise', 'aft', plan(withFigure(teasel(), 'equaliseVoltage', { state: 'stated', target: 29, unit: 'V' })))).toBeUndefined();
  });
});

describe('chargers together', () => {
  it('agree when each holds one level by itself, and not when one bus voltage is credited to both', () => {
    // On the first day the one works alone, on the second the other.
    const twoDays = (level: number): Made => {
      const one = madeLog(2 * 86_400, 10, (s) => (s < 14_400 ? day()(s) : { volts: 26.4, amps: 0, net: -4, celsius: 20 }));
      const other = madeLog(2 * 86_400, 10, (s) => (s > 86_400 && s < 100_800 ? day({ level })(s - 86_400) : { volts: 26.4, amps: 0, net: -4, celsius: 20 }));
      const pick = (a: Float32Array, b: Float32Array): Float32Array => a.map((v, i) => (i * 10 < 86_400 ? v : (b[i] ?? NaN)));
      return {
        ...one,
        log: {
          ...one.log,
          bankVolts: pick(one.log.bankVolts, other.log.bankVolts),
          bankAmps: pick(one.log.bankAmps!, other.log.bankAmps!),
          chargers: { aft: one.log.chargers['aft']!, fore: other.log.chargers['aft']! },
        },
      };
    };
    expect(verdict(twoDays(28.1), 'chargersAgree')).toBe('pass');
    expect(verdict(twoDays(28.5), 'chargersAgree')).toBe('fail');
    // Of a third nobody has seen anything: two that differ fail all the same.
    const whole = plan(wholeTeasel());
    const open = row(twoDays(28.1), 'chargersAgree', undefined, whole);
    expect([open.verdict, /DC-DC.* not seen to hold absorb/.test(open.why)]).toEqual(['inconclusive', true]);
    expect(verdict(twoDays(28.5), 'chargersAgree', undefined, whole)).toBe('fail');
    const both = beside(log(), (i) => (i * 10 < 5400 ? 28 : i * 10 < 9000 ? 3 + 25 * Math.exp(-(i * 10 - 5400) / 1200) : i * 10 < 9120 ? 0 : 4));
    expect(verdict(both, 'chargersAgree')).toBe('notTested');
    expect(
      verdict(
        beside(log(), () => 0),
        'chargersAgree',
      ),
    ).toBe('notTested');
  });

  it('a BMS that opens shows where chargers give and the bank takes nothing', () => {
    const open = madeLog(14_400, 10, (s) => (s > 7000 && s < 7100 ? { volts: 29.3, amps: 10, net: 0, celsius: 20 } : day()(s)));
    const idle = (made: Made): Made => beside(made, () => 0);
    expect(verdict(idle(open), 'noDisconnect')).toBe('fail');
    expect(verdict(idle(log()), 'noDisconnect')).toBe('pass');
    const { bankAmps: _gone, ...without } = log().log;
    expect(verdict({ log: without, report: log().report }, 'noDisconnect')).toBe('notTested');
  });

  it('a monitor may call it full when absorb is done, not before', () => {
    const whole = plan(wholeTeasel());
    const at = (second: number): Made => {
      const made = log();
      return { ...made, log: { ...made.log, stateOfCharge: Float32Array.from(made.log.time, (t) => (t - made.log.time[0]! < second ? 70 : 100)) } };
    };
    expect(verdict(at(9300), 'monitorFull', 'monitor', whole)).toBe('pass');
    expect(verdict(at(5500), 'monitorFull', 'monitor', whole)).toBe('fail');
    expect(verdict(log(), 'monitorFull', 'monitor', whole)).toBe('notTested');
    // A charger that went to float after a moment at voltage has not filled the bank: that alone is no witness.
    const short = (absorbS: number): Made =>
      madeLog(14_400, 10, (s) => {
        const n = noise(Math.floor(s) + 3);
        if (s < 5400) return { volts: 26.4 + (1.5 * s) / 5400 + n(0.01), amps: 28, net: 25, celsius: 20 };
        const t = s - 5400;
        if (t < absorbS) return { volts: 28.1 + n(0.01), amps: 3 + 25 * Math.exp(-t / 1200), net: 1 + 24 * Math.exp(-t / 1200), celsius: 20 };
        return { volts: Math.max(26.9, 28.1 - (t - absorbS) * 0.01) + n(0.01), amps: t < absorbS + 120 ? 0 : 4, net: 0.5, celsius: 20 };
      });
    const fullAfter = (made: Made, second: number): Made => ({
      ...made,
      log: { ...made.log, stateOfCharge: Float32Array.from(made.log.time, (t) => (t - made.log.time[0]! < second ? 98 : 100)) },
    });
    const ended = (absorbS: number): Verdict => verdict(fullAfter(short(absorbS), 5400 + absorbS + 900), 'monitorFull', 'monitor', whole);
    expect([ended(600), ended(2700)]).toEqual(['inconclusive', 'pass']);
    // 40 minutes are asked: 38 are not all of them.
    expect([ended(2280), ended(2420)]).toEqual(['inconclusive', 'pass']);
    // What takes hardly anything is full; and where nobody wrote down what it takes, nobody can say.
    const taking = (net: number | null): Made => {
      const made = at(5500);
      const { bankAmps: _gone, ...without } = made.log;
      return { ...made, log: net === null ? without : { ...made.log, bankAmps: made.log.bankAmps!.map((a, i) => (i * 10 > 5300 && i * 10 < 5700 ? net : a)) } };
    };
    const taper = row(log(), 'absorbCompleted', 'aft').requirement.taperA!;
    expect([1.3 * taper, 1.2 * taper, null].map((net) => verdict(taking(net), 'monitorFull', 'monitor', whole))).toEqual([
      'fail',
      'inconclusive',
      'inconclusive',
    ]);
  });

  it('a monitor is judged by the worst of its days, and no day by the one before', () => {
    const whole = plan(wholeTeasel());
    // The second day begins with a bank that was drained overnight: full at 05:00 of it is hours too early.
    const made = madeLog(2 * 86_400, 10, (s) => (s % 86_400 < 14_400 ? day()(s % 86_400) : { volts: 26.2, amps: 0, net: -8, celsius: 20 }));
    const full = (second: number): Made => {
      const start = made.log.time[0]!;
      const of = (t: number): number => (t < 9300 ? 70 : t < 86_400 ? 100 : t < 86_400 + second ? 40 : 100);
      return { ...made, log: { ...made.log, stateOfCharge: Float32Array.from(made.log.time, (t) => of(t - start)) } };
    };
    expect(verdict(full(9300), 'monitorFull', 'monitor', whole)).toBe('pass');
    expect(verdict(full(3600), 'monitorFull', 'monitor', whole)).toBe('fail');
  });
});

describe('a slope called by its name', () => {
  it('by the ratio of what was measured to what is asked', () => {
    const named = (measured: number, asked: number, blocks = 1): string => slopeRatio(measured, asked, 6, blocks) ?? 'nothing';
    expect(named(-24, -4)).toContain('about 6 times too large: looks like a per-12 V figure entered as per cell');
    expect(named(-0.67, -4)).toContain('about 6 times too small: looks like a per-cell slope entered as per 12 V');
    expect(named(4, -4)).toContain('wrong sign');
    expect(named(0.05, -4)).toContain('no compensation at all');
    expect(named(-8, -4, 2)).toContain('about 2 times too large');
    expect(named(-4, 0)).toContain('compensation was left on');
    expect(named(-4.2, -4)).toBe('nothing');
    expect(named(-6.1, -4)).toBe('nothing');
  });
});
