import { speak } from '../quantity';
import { stageCode, type Stage } from '../charger';
import { plan, rookMoss, seeded, teasel, withCharger } from '../testing/fixtures';
import { madeLog, type Sample } from '../testing/logs';
import { proveLog, type Proof } from './index';
import { inferStages, levelsOf, referredVolts, type ChargerLevels, type Inferred } from './inference';
import type { Log } from './log';

/** A flooded bank of 24 V, with a charger whose absorb and float move with temperature. */
const lead: ChargerLevels = {
  absorbV: 28.8,
  floatV: 27.2,
  rechargeV: 25.2,
  cutoffC: null,
  taperA: null,
  absorbSeconds: 7200,
  equaliseV: null,
  zeroA: 0.3,
  toleranceV: 0.07,
  slope: -0.06,
  referenceC: 25,
  coldestC: -Infinity,
  hottestC: Infinity,
  fixed: new Set(),
  wallClock: false,
  sisters: [],
  source: 'light',
};
const h = 3600;

/** A charging day: bulk to 2 h, absorb to 4 h, float to 10 h, each level moved by the battery's temperature, and what `more` makes of it. */
const day =
  (more: (s: number, plain: Sample) => Sample = (_, plain) => plain, { absorbV, floatV, slope }: ChargerLevels = lead, celsius = 25) =>
  (s: number): Sample => {
    const shift = slope * (celsius - 25);
    const plain =
      s < 2 * h
        ? { volts: 25.5 + ((absorbV - 25.8) * s) / (2 * h) + shift, amps: 40 }
        : s < 4 * h
          ? { volts: absorbV + shift, amps: 8 + 30 * Math.exp(-(s - 2 * h) / 2400) }
          : s < 10 * h
            ? { volts: (floatV ?? 0) + shift, amps: 6 + 3 * Math.sin(s / 900) }
            : { volts: 25.4, amps: 0, array: 0 };
    return more(s, { celsius, ...plain });
  };

/** Where each stage begins, h, of a made log changed by `alter`. */
const told = (
  step: number,
  at: (s: number) => Sample,
  levels: ChargerLevels = lead,
  alter: (log: Log) => Log = (log) => log,
): { stages: readonly [Stage, number][]; seen: Inferred; stageAt: (hours: number) => Stage | undefined } => {
  const { log, report } = madeLog(12 * h, step, at);
  const seen = inferStages(alter(log), report, 'aft', levels);
  const start = log.time[0] ?? 0;
  return {
    stages: seen.spans.map((s) => [s.stage, Math.round(((s.from - start) / h) * 10) / 10]),
    seen,
    stageAt: (hours) => seen.spans.findLast((s) => s.from - start <= hours * h)?.stage,
  };
};
const without = (log: Log, ...columns: readonly ('arrayVolts' | 'batteryC' | 'bankAmps')[]): Log => {
  const { arrayVolts: _a, ...own } = log.chargers['aft'] ?? {};
  const { batteryC: _c, bankAmps: _b, ...rest } = log;
  return {
    ...rest,
    ...(columns.includes('batteryC') || !log.batteryC ? {} : { batteryC: log.batteryC }),
    ...(columns.includes('bankAmps') || !log.bankAmps ? {} : { bankAmps: log.bankAmps }),
    chargers: columns.includes('arrayVolts') ? { ...log.chargers, aft: own } : log.chargers,
  };
};
const usual: readonly Stage[] = ['bulk', 'absorb', 'float', 'off'];

describe('stages of a day that is not plain', () => {
  it('are those of the plain day when nothing else happens', () => {
    expect(told(60, day()).stages).toEqual([
      ['bulk', 0],
      ['absorb', 2],
      ['float', 4],
      ['off', 10],
    ]);
  });

  it('leave a recharge voltage where the card leaves it: a cold bank in float is not below it', () => {
    // At 5 °C float stands at 28.4 V; a load pulls the bank to 25.8 V, 0.6 V above recharge, and 24.6 V if that were moved too.
    const cold = day((s, p) => (s > 6 * h && s < 6.2 * h ? { ...p, volts: 25.8, amps: 40 } : p), lead, 5);
    const fixed = { ...lead, fixed: new Set(['rechargeV'] as const) };
    expect(told(60, cold, fixed).stages.map(([stage]) => stage)).toEqual([...usual]);
    // Where it does move, that is the begin of a new charge, as long as the voltage does not stand at float again without absorb.
    const never = day((s, p) => (s > 6 * h && s < 10 * h ? { ...p, volts: 25.8, amps: 40 } : p), lead, 5);
    expect(told(60, never, lead).stageAt(7)).toBe('bulk');
    expect(told(60, never, fixed).stageAt(7)).toBe('float');
  });

  it('keep a float that stands still while absorb moves', () => {
    const still = { ...lead, fixed: new Set(['floatV', 'rechargeV'] as const) };
    const at = day((s, p) => (s >= 4 * h && s < 10 * h ? { ...p, volts: 27.2 } : p), lead, 0);
    const { stages, seen } = told(60, at, still);
    expect(stages.map(([stage]) => stage)).toEqual([...usual]);
    expect(seen.floatV).toBeCloseTo(27.2, 1);
  });

  it('lose no float to a load that comes and goes, be it seven seconds in a sample or two minutes', () => {
    for (const [step, seconds] of [
      [300, 10],
      [10, 120],
      [60, 180],
    ] as const) {
      const surge = day((s, p) => (s >= 6 * h && s < 6 * h + Math.max(seconds, step) ? { ...p, volts: 24.8, amps: 40 } : p));
      expect(told(step, surge).stages.map(([stage]) => stage))
        .withContext(`${seconds} s every ${step} s`)
        .toEqual([...usual]);
    }
  });

  it('tell a new charge where absorb comes again', () => {
    const again = day((s, p) =>
      s >= 6 * h && s < 7 * h
        ? { ...p, volts: 24.8 + ((s - 6 * h) / h) * 3.8, amps: 40 }
        : s >= 7 * h && s < 9 * h
          ? { ...p, volts: 28.8, amps: 8 + 30 * Math.exp(-(s - 7 * h) / 2400) }
          : p,
    );
    expect(told(60, again).stages.map(([stage]) => stage)).toEqual(['bulk', 'absorb', 'float', 'bulk', 'absorb', 'float', 'off']);
  });

  it('find absorb beneath an equalise that towers over it, and the equalise', () => {
    const levels = { ...lead, equaliseV: 30.6, absorbSeconds: 3600 };
    const at = day((s, p) => (s >= 3 * h && s < 6 * h ? { ...p, volts: 30.6, amps: 9 } : p), levels);
    const { stages, seen } = told(60, at, levels);
    expect(seen.absorbSeen).toBeTrue();
    expect(seen.absorbV).toBeCloseTo(28.8, 1);
    expect(stages.map(([stage]) => stage)).toEqual(['bulk', 'absorb', 'equalise', 'float', 'off']);
  });

  it('find absorb beneath an equalise that is come to slowly, and not in a slow way up past a level that nothing held', () => {
    const levels = { ...lead, equaliseV: 30.6, absorbSeconds: 3600 };
    // Twenty-five minutes on the way from 28.8 to 30.6 V.
    const climb = (s: number): number => Math.min(30.6, 28.8 + ((s - 3 * h) / 1500) * 1.8);
    const at = day((s, p) => (s >= 3 * h && s < 6 * h ? { ...p, volts: climb(s), amps: 12 } : p), levels);
    const { seen, stageAt } = told(60, at, levels);
    expect([seen.absorbSeen, stageAt(2.5)]).toEqual([true, 'absorb']);
    expect(seen.absorbV).toBeCloseTo(28.8, 1);
    // Without a temperature too, where the equalise lies within what compensation might make of absorb.
    const near = { ...levels, equaliseV: 29.6 };
    const blind = told(
      60,
      day((s, p) => (s >= 3.6 * h && s < 4.2 * h ? { ...p, volts: 29.6, amps: 9 } : p), near),
      near,
      (log) => without(log, 'batteryC'),
    );
    expect(blind.seen.absorbV).toBeCloseTo(28.8, 1);
    expect(blind.stageAt(3)).toBe('absorb');
    // Where none is set, time above a level speaks against it.
    expect(told(60, at).seen.absorbV).toBeGreaterThan(29.5);
  });

  it('let a timer run by the clock where the card says so: under a cloud too', () => {
    // Ten minutes at voltage, then a cloud that holds the bank between float and absorb for hours.
    const levels = { ...lead, absorbSeconds: 3600 };
    const at = day((s, p) => {
      if (s < 2 * h + 600 || s >= 10 * h) return p;
      if (s < 5 * h) return { ...p, volts: 27.9 + 0.3 * Math.sin(s / 700), amps: 14 };
      return { ...p, volts: 27.2, amps: 6 + 3 * Math.sin(s / 900) };
    });
    expect(told(60, at, { ...levels, wallClock: true }).stageAt(3.6)).toBe('float');
    expect(told(60, at, levels).stageAt(3.6)).toBe('absorb');
  });

  it('take a level that was come down to for float, however near to absorb, and one risen to for absorb', () => {
    // Absorb for a quarter of an hour of coarse samples, then hours at a float that was keyed 0.7 V too high.
    const high = day((s, p) => {
      if (s < 2 * h || s >= 10 * h) return p;
      if (s < 2 * h + 900) return { ...p, volts: 28.8, amps: 20 };
      return s < 2.6 * h ? { ...p, volts: 28.8 - ((s - 2 * h - 900) / 1260) * 0.9, amps: 0 } : { ...p, volts: 27.9, amps: 4 + 2 * Math.sin(s / 900) };
    });
    const found = told(300, high, { ...lead, absorbSeconds: 900, toleranceV: 0.07 });
    expect(found.stageAt(5)).toBe('float');
    expect(found.seen.floatV).toBeCloseTo(27.9, 1);
    const low = day((s, p) =>
      s < 2 * h ? { ...p, volts: p.volts - 1 } : s >= 2 * h && s < 10 * h ? { ...p, volts: 28.1, amps: 4 + 30 * Math.exp(-(s - 2 * h) / 6000) } : p,
    );
    expect(told(300, low).stageAt(3)).toBe('absorb');
    expect(told(300, low).seen.absorbV).toBeCloseTo(28.1, 1);
  });

  it('read the levels of a log without temperature where the day has them', () => {
    const noise = seeded(4);
    const cold = day((s, p) => ({ ...p, volts: p.volts + (noise() - 0.5) * 0.02 - (s / h) * 0.012 }), lead, 12);
    const { stages, seen } = told(60, cold, lead, (log) => without(log, 'batteryC'));
    expect(seen.absorbSeen).toBeTrue();
    expect(stages.map(([stage]) => stage)).toEqual([...usual]);
  });

  it('follow a compensation only as far as the charger does', () => {
    const bounded = { ...lead, coldestC: 5 };
    const { log } = madeLog(h, 60, () => ({ volts: 30, amps: 5, celsius: -10 }));
    expect(referredVolts(log, bounded, 0)).toBeCloseTo(30 - 1.2, 4);
    expect(referredVolts(log, { ...lead, hottestC: -20 }, 0)).toBeCloseTo(30 - 2.7, 4);
    expect(referredVolts(log, lead, 0)).toBeCloseTo(30 - 2.1, 4);
  });
});

describe('a charger that gives nothing after absorb', () => {
  /** Absorb ends at 3 h by fading out while a sister holds the level until 4 h; the voltage sinks for five hours. */
  const sinking = day((s, p) => {
    if (s < 2 * h || s >= 10 * h) return s >= 10 * h ? { ...p, volts: 26.4 } : p;
    if (s < 2.5 * h) return { ...p, volts: 28.8, amps: 30 * Math.exp(-(s - 2 * h) / 300) };
    if (s < 4 * h) return { ...p, volts: 28.8, amps: 0 };
    return { ...p, volts: Math.max(27.3, 28.7 - ((s - 4 * h) / h) * 0.3), amps: 0 };
  });
  const blind = (log: Log): Log => without(log, 'arrayVolts');
  const sister = (log: Log, amps: (s: number) => number): Log => ({
    ...blind(log),
    chargers: { ...blind(log).chargers, fore: { amps: Float32Array.from(log.time, (t) => amps(t - (log.time[0] ?? 0))) } },
  });
  const kin = { ...lead, sisters: ['fore'] };

  it('is off as far as anybody can tell, without another word of its source', () => {
    expect(told(60, sinking, lead, blind).stageAt(6)).toBe('off');
  });

  it('is in float where the light was measured, and off where it was gone', () => {
    const lit = (until: number, hour: number, levels = lead): Stage | undefined =>
      told(60, sinking, levels, (log) => ({
        ...blind(log),
        irradiance: Float32Array.from(log.time, (t) => (t - (log.time[0] ?? 0) < until * h ? 600 : 0)),
      })).stageAt(hour);
    expect([lit(10, 6), lit(10, 11), lit(3.2, 6)]).toEqual(['float', 'off', 'off']);
    // Light is nothing to what an engine drives.
    expect(lit(24, 6, { ...lead, source: 'engine' })).toBe('off');
  });

  it('is in float where a sister that held the level was told to stop at once, or gives current again later', () => {
    expect(told(60, sinking, kin, (log) => sister(log, (s) => (s < 4 * h ? 20 : 0))).stageAt(6)).toBe('float');
    expect(told(60, sinking, kin, (log) => sister(log, (s) => (s < 4 * h ? 20 * (1 - s / (4 * h)) : s > 9.5 * h && s < 10 * h ? 2 : 0))).stageAt(6)).toBe(
      'float',
    );
    // A sister on another source tells nothing, nor one that fades with the light.
    expect(told(60, sinking, lead, (log) => sister(log, (s) => (s < 4 * h ? 20 : 0))).stageAt(6)).toBe('off');
    expect(told(60, sinking, kin, (log) => sister(log, (s) => Math.max(0, 20 * (1 - s / (4 * h))))).stageAt(6)).toBe('off');
  });

  it('and whose log begins there waits in float for as long as its source is there, and for longer than a dawn', () => {
    // The log begins while a sister holds absorb; this one gives nothing before the bank has come down to its float.
    const late =
      (floatV = 27.2, gone = 0) =>
      (s: number): Sample => ({
        celsius: 25,
        ...(s < 2 * h
          ? { volts: 28.8, amps: 0 }
          : s < 5 * h
            ? { volts: Math.max(floatV, 28.8 - ((s - 2 * h) / h) * 0.6), amps: 0 }
            : s < 10 * h
              ? { volts: floatV, amps: 6 + 3 * Math.sin(s / 900) }
              : { volts: 25.4, amps: 0, array: 0 }),
        ...(s < gone * h ? { array: 0 } : {}),
      });
    expect(told(60, late()).stages.map(([stage]) => stage)).toEqual(['float', 'off']);
    // Its own level is found beneath one that it never held itself.
    const { seen } = told(60, late(27.35));
    expect([seen.floatSeen, seen.absorbSeen]).toEqual([true, false]);
    expect(seen.floatV).toBeCloseTo(27.35, 1);
    // Without its source nobody can tell, and half an hour of light is a morning.
    expect(told(60, late(), lead, blind).stageAt(1)).toBe('off');
    const dawn = (hours: number) => told(60, (s) => (s < hours * h ? { ...late()(0), volts: 27.4 } : day()(s))).stageAt(0.2);
    expect([dawn(0.5), dawn(1)]).toEqual(['off', 'float']);
    // Well below float something would be given: it waits for nothing.
    expect(told(60, (s) => (s < 5 * h ? { ...late()(s), volts: 26 + 0.02 * Math.sin(s / 600) } : late()(s))).stageAt(3)).toBe('off');
    // One without a float is in none.
    expect(told(60, late(), { ...lead, floatV: null }).stageAt(1)).toBe('off');
  });

  it('is in what it reports, where nothing measured tells; a report does not overrule what is measured', () => {
    const said =
      (of: Stage, array = false) =>
      (log: Log) => {
        const stage = Uint8Array.from(log.time, (t) => (t - (log.time[0] ?? 0) > 4 * h && t - (log.time[0] ?? 0) < 10 * h ? stageCode[of] : 255));
        const own = array ? log : blind(log);
        return { ...own, chargers: { aft: { ...own.chargers['aft'], stage } } };
      };
    expect(told(60, sinking, lead, said('float')).stageAt(6)).toBe('float');
    expect(told(60, sinking, lead, said('rest')).stageAt(6)).toBe('rest');
    const dark = (s: number): Sample => ({ ...sinking(s), ...(s > 3 * h ? { array: 0 } : {}) });
    expect(told(60, dark, lead, said('float', true)).stageAt(6)).toBe('off');
  });
});

describe('the levels of a charger', () => {
  it('take none that is off for one of 0 V', () => {
    const job = teasel();
    const off = levelsOf(plan(withCharger(job, 'aft', { overrides: { floatVoltage: { value: 'off', reason: 'rests' } } } as never)), 'aft');
    const shown = plan(job).setting('aft', 'equaliseVoltage');
    expect(shown?.off === true ? levelsOf(plan(job), 'aft')?.equaliseV : null).toBeNull();
    expect(off?.floatV === 0).toBeFalse();
  });

  it('do not move where no sensor tells the charger the temperature, and move only as its card has it', () => {
    const job = rookMoss();
    expect(levelsOf(plan(job), 'mast')?.slope).toBeCloseTo(-0.024, 9);
    expect([...(levelsOf(plan(job), 'mast')?.fixed ?? [])]).toEqual(['rechargeV']);
    const mast = job.system.chargers.find((c) => c.id === 'mast')!;
    expect(levelsOf(plan(withCharger(job, 'mast', { sensor: { ...mast.sensor, fitted: false } })), 'mast')?.slope).toBe(0);
  });
});

describe('a charger whose own current the log does not have', () => {
  const job = rookMoss();
  const p = plan(job);
  /** A morning on which the loads take all that the panels give, and more of it from noon on. */
  const solarA = (s: number): number => (s < h ? 0 : s < 5 * h ? 6 : 25);
  const proved = (columns: (log: Log) => Partial<Log>): Proof => {
    const { log, report } = madeLog(8 * h, 60, (s) => ({ volts: s < h ? 12.1 : s < 5 * h ? 12.4 : 12.9, amps: 0 }));
    return proveLog(p, { ...log, chargers: {}, ...columns(log) }, report, job.system.instruments[0]!);
  };
  const columnOf = (log: Log, of: (s: number) => number): Float32Array => Float32Array.from(log.time, (t) => of(t - (log.time[0] ?? 0)));
  const stageAt = ({ stages }: Proof, hours: number): Stage | undefined => stages.findLast((s) => s.from - (stages[0]?.from ?? 0) <= hours * h)?.stage;
  const net = (log: Log): Float32Array => columnOf(log, (s) => solarA(s) - 8);

  it('gives in the morning what the loads take of it, where the file has them', () => {
    const proof = proved((log) => ({ bankAmps: net(log), loadAmps: columnOf(log, () => 8) }));
    expect([stageAt(proof, 0.5), stageAt(proof, 3), stageAt(proof, 7)]).toEqual(['off', 'bulk', 'bulk']);
    expect(proof.notes.join(' ')).toContain('worked out from the bank’s current and what the loads take');
    // Signs of loads go either way.
    expect(
      stageAt(
        proved((log) => ({ bankAmps: net(log), loadAmps: columnOf(log, () => -8) })),
        3,
      ),
    ).toBe('bulk');
  });

  it('is idle as far as the bank’s current alone tells', () => {
    expect(
      stageAt(
        proved((log) => ({ bankAmps: net(log) })),
        3,
      ),
    ).toBe('off');
  });

  it('gives what comes in at its input, less a loss', () => {
    const proof = proved((log) => ({ bankAmps: net(log), chargers: { mast: { inputWatts: columnOf(log, (s) => solarA(s) * 13) } } }));
    expect([stageAt(proof, 0.5), stageAt(proof, 3)]).toEqual(['off', 'bulk']);
    expect(proof.notes.join(' ')).toContain('worked out from the power at its input');
  });

  it('gives nothing that is only the error of the readings it is worked out from', () => {
    const proof = proved((log) => ({ bankAmps: columnOf(log, () => -29.2), loadAmps: columnOf(log, () => 30) }));
    expect(stageAt(proof, 3)).toBe('off');
    expect(
      stageAt(
        proved((log) => ({ bankAmps: columnOf(log, () => -29), loadAmps: columnOf(log, () => 30) })),
        3,
      ),
    ).toBe('bulk');
  });

  it('settles nothing that rests on how much flows', () => {
    const cold = (log: Log) => ({ bankAmps: columnOf(log, () => 52), batteryC: columnOf(log, () => -30) });
    const own = proved((log) => ({ ...cold(log), chargers: { mast: { amps: columnOf(log, () => 60) } } }));
    const worked = proved((log) => ({ ...cold(log), loadAmps: columnOf(log, () => 8) }));
    const of = (proof: Proof) => proof.rows.find((r) => r.requirement.code === 'noChargeBelowMinimum');
    expect(of(own)?.verdict).toBe('fail');
    expect(of(worked)?.verdict).toBe('inconclusive');
    expect(speak(of(worked)!.why, 'C')).toContain('worked out');
  });
});
