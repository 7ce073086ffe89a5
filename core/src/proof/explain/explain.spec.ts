import { speak } from '../../quantity';
import { stageCode } from '../../charger';
import { plan, seeded, teasel, wholeTeasel } from '../../testing/fixtures';
import { demoLog, madeLog, type Sample } from '../../testing/logs';
import { proveLog, type Explanation, type Log, type LogReport } from '../index';

const p = plan(teasel());
const monitor = teasel().system.instruments[1]!;
const told = (made: { log: Log; report: LogReport }, of = p): readonly Explanation[] => proveLog(of, made.log, made.report, monitor).told;
const odd = (made: { log: Log; report: LogReport }, code: string, of = p): Explanation | undefined => told(made, of).find((t) => t.code === code);
const noise = (seed: number) => {
  const random = seeded(seed);
  return (size: number): number => (random() + random() + random() - 1.5) * size;
};

/** Bulk, absorb with a falling current, float, and the source gone: an ordinary day of one charger. */
const plainDay =
  (seed = 1, of: { readonly float?: number; readonly absorbFor?: number } = {}): ((s: number) => Sample) =>
  (s) => {
    const n = noise(seed + s);
    const { float = 26.9, absorbFor = 2400 } = of;
    if (s < 600) return { volts: 26.3 + n(0.01), amps: 0, array: 0 };
    if (s < 7800) return { volts: 26.5 + ((28.0 - 26.5) * (s - 600)) / 7200 + n(0.01), amps: 40, net: 36 };
    const t = s - 7800;
    if (t < absorbFor) return { volts: 28.1 + n(0.01), amps: 14 + 26 * Math.exp(-t / 900), net: 10 + 26 * Math.exp(-t / 900) };
    if (s < 20_000) return { volts: Math.max(float, 28.1 - (t - absorbFor) * 0.01) + n(0.01), amps: t < absorbFor + 120 ? 0 : 4, net: 0 };
    return { volts: 26.6 + n(0.01), amps: 0, array: 0, net: -4 };
  };

describe('what is told of an ordinary day', () => {
  const list = told(madeLog(23_000, 10, plainDay()));
  it('names each change with its cause and its numbers, in the order of time', () => {
    const changes = list.filter((t) => t.kind === 'change');
    expect(changes.map((t) => t.title)).toEqual(['Charging began', 'Absorb began', 'Absorb ended', 'The source went']);
    for (const t of changes) expect(t.cause).toMatch(/\d/);
    expect(list.map((t) => t.at)).toEqual([...list.map((t) => t.at)].sort((a, b) => a - b));
    expect(changes[1]?.cause).toMatch(/40\smin counted at voltage/);
    expect(changes[2]?.cause).toContain('Its time was done');
  });
  it('finds nothing odd in it', () => {
    expect(list.filter((t) => t.kind === 'odd').map((t) => t.code)).toEqual([]);
  });
});

describe('what is told of the beginning of absorb', () => {
  const plain = madeLog(23_000, 10, plainDay());
  const start = plain.log.time[0]!;
  const began = (log: Partial<Log>): Explanation | undefined => told({ ...plain, log: { ...plain.log, ...log } }).find((t) => t.title === 'Absorb began');
  const stage = (from: number, code = stageCode.absorb) =>
    ({
      chargers: {
        aft: { ...plain.log.chargers['aft'], stage: Uint8Array.from(plain.log.time, (t) => (t - start >= from && t - start < 10_200 ? code : stageCode.bulk)) },
      },
    }) satisfies Partial<Log>;

  it('why the charger was in absorb at three quarters of its charge, and nothing of it where the bank was full', () => {
    const soc = (percent: number) => ({ stateOfCharge: Float32Array.from(plain.log.time, () => percent) });
    expect(began(soc(74))?.means).toContain('goes by voltage, not by charge');
    expect(began(soc(74))?.means).toMatch(/The monitor showed 74 % then/);
    expect(began(soc(95))?.means).toContain('holds the voltage');
    expect(began(soc(95))?.means).toMatch(/The monitor showed 95 % then/);
    expect(began({})?.means).not.toContain('monitor');
  });

  it('what the charger itself reported, where that was another time or nothing', () => {
    expect(began(stage(7800))?.cause).not.toContain('reported');
    expect(began(stage(9000))?.cause).toMatch(/Solar aft itself reported absorb from \d\d:\d\d/);
    expect(began(stage(7800, stageCode.bulk))?.cause).toContain('itself reported no absorb here');
    const silent = { chargers: { aft: { ...plain.log.chargers['aft'], stage: Uint8Array.from(plain.log.time, () => 255) } } };
    expect(began(silent)?.cause).not.toContain('reported');
  });

  it('with the day where the log covers several', () => {
    const two = madeLog(110_000, 60, (s) => plainDay()(s % 86_400));
    expect(told(two).find((t) => t.title === 'The source went')?.cause).toMatch(/from \d+ Jun \d\d:\d\d/);
    expect(told(plain).find((t) => t.title === 'The source went')?.cause).not.toMatch(/Jun/);
  });
});

describe('odd things are named when they are there', () => {
  it('absorb that began on a touch, and a timer that waited', () => {
    const cloud = demoLog('teasel-broken-cloud');
    expect(odd(cloud, 'early-absorb')?.cause).toContain('touched');
    expect(odd(cloud, 'timer-waits')?.cause).toContain('by the clock');
    const clean = demoLog('teasel-clean-day');
    expect([odd(clean, 'early-absorb'), odd(clean, 'timer-waits')]).toEqual([undefined, undefined]);
  });

  it('loads that keep the current above the taper', () => {
    const held = (load: number) =>
      madeLog(4 * 3600, 10, (s) =>
        s < 3600
          ? { volts: 26.8 + s / 3000, amps: 40, net: 36 }
          : { volts: 28.1, amps: load + 1 + 34 * Math.exp(-(s - 3600) / 600), net: 1 + 34 * Math.exp(-(s - 3600) / 600) },
      );
    expect(odd(held(12), 'loads-hold-taper')?.cause).toContain('the loads took');
    expect(odd(held(0.2), 'loads-hold-taper')).toBeUndefined();
  });

  it('charging below the cutoff, with what the sensor must have read', () => {
    const dawn = demoLog('teasel-freezing-dawn');
    const warm = odd(dawn, 'cold-sensor-warm');
    expect(warm?.charger).toBe('aft');
    expect(speak(warm!.cause, 'C')).toContain('on a pad');
    expect(odd(demoLog('teasel-clean-day'), 'cold-sensor-warm')).toBeUndefined();
  });

  it('a low bank in full sun without charge', () => {
    const idle = (amps: number) => madeLog(3 * 3600, 10, () => ({ volts: 26.0, amps, array: 70, celsius: 20 }));
    expect(odd(idle(0), 'idle-in-sun')?.title).toContain('No new charge');
    expect(odd(idle(20), 'idle-in-sun')).toBeUndefined();
  });

  it('one charger in float while another holds absorb', () => {
    const motoring = demoLog('teasel-motoring', ['fore', 'aft', 'dcdc', 'alternator']);
    const broken = demoLog('teasel-broken-cloud');
    expect(odd(broken, 'sisters-apart')?.title).toContain('while Solar aft held absorb');
    expect(odd(motoring, 'sisters-apart', plan(wholeTeasel()))).toBeDefined();
    expect(odd(demoLog('teasel-clean-day'), 'sisters-apart')).toBeUndefined();
  });

  it('a temperature that leaps, and one that never moves', () => {
    const base = plainDay(5);
    const leap = madeLog(12_000, 10, (s) => ({ ...base(s), celsius: s < 6000 ? 15 : 27 }));
    expect(speak(odd(leap, 'temperature-leaps')!.cause, 'C')).toContain('15.0');
    const still = madeLog(22 * 3600, 60, (s) => ({ ...base(s % 20_000), celsius: 25 }));
    expect(speak(odd(still, 'temperature-stands')!.cause, 'C')).toContain('25.0');
    const alive = madeLog(22 * 3600, 60, (s) => ({ ...base(s % 20_000), celsius: 20 + Math.sin(s / 9000) }));
    expect([odd(alive, 'temperature-leaps'), odd(alive, 'temperature-stands')]).toEqual([undefined, undefined]);
  });

  it('a BMS that opened: no current into the bank, chargers giving, the bus leaping', () => {
    const base = plainDay(7);
    const open = madeLog(12_000, 10, (s) => (s > 9000 && s < 9120 ? { volts: 29.4, amps: 6, net: 0 } : { ...base(s), net: (base(s).net ?? 0) + 0.3 }));
    expect(odd(open, 'bms-opened')?.cause).toContain('the BMS had opened');
    expect(
      odd(
        madeLog(12_000, 10, (s) => ({ ...base(s), net: (base(s).net ?? 0) + 0.3 })),
        'bms-opened',
      ),
    ).toBeUndefined();
  });

  it('a monitor that calls it full too early, and one that is right', () => {
    const day = madeLog(23_000, 10, plainDay(9));
    const whole = plan(wholeTeasel());
    const soc = (at: number): Float32Array => Float32Array.from(day.log.time, (t) => (t - (day.log.time[0] ?? 0) < at ? 80 : 100));
    const full = (at: number) => odd({ ...day, log: { ...day.log, stateOfCharge: soc(at) } }, 'monitor-early', whole);
    expect(full(8000)?.cause).toContain('too early');
    expect(full(11_000)).toBeUndefined();
  });
});
