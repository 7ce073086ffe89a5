import { requirementsOf } from '../requirements';
import type { Plan } from '../settings';
import { plan, rookMoss, teasel, wholeTeasel, withFigure } from '../testing/fixtures';
import { madeLog, readCsv, type Sample } from '../testing/logs';
import { stageCode } from '../charger';
import { proveLog, writeLog, type ChargerColumns, type Log, type LogReport, type ProofRow, type Verdict } from './index';

const p = plan(teasel());
const whole = plan(wholeTeasel());
const monitor = teasel().system.instruments[1]!;
interface Made {
  readonly log: Log;
  readonly report: LogReport;
}
const rowsOf = (made: Made, of = p): readonly ProofRow[] => proveLog(of, made.log, made.report, monitor).rows;
const row = (made: Made, code: string, charger?: string, of = p): ProofRow =>
  rowsOf(made, of).find((r) => r.requirement.code === code && r.requirement.charger === charger)!;
const change = (made: Made, log: Partial<Log>): Made => ({ ...made, log: { ...made.log, ...log } });
const column = (made: Made, at: (second: number) => number): Float32Array => Float32Array.from(made.log.time, (t) => at(t - made.log.time[0]!));
/** Another charger beside "aft". */
const beside = (made: Made, id: string, columns: ChargerColumns): Made => change(made, { chargers: { ...made.log.chargers, [id]: columns } });
const aft = (made: Made, columns: ChargerColumns): Made => beside(made, 'aft', { ...made.log.chargers['aft'], ...columns });

describe('no charge when cold', () => {
  /** Four hours of frost in which the charger gives nothing. */
  const frost = (more: Partial<Sample> = {}): Made => madeLog(4 * 3600, 10, () => ({ celsius: -3, volts: 26.5, amps: 0, array: 95, ...more }));
  const cold = (made: Made, charger = 'aft', of = p): ProofRow => row(made, 'noChargeBelowMinimum', charger, of);

  it('is not proved by an array at its open-circuit volts: snow and a dead isolator leave it there', () => {
    const { verdict, why } = cold(frost());
    expect(verdict).toBe('notTested');
    expect(why).toContain('under snow too');
  });

  it('is proved by light that was measured, and not by less than a charger can use', () => {
    expect(cold(frost({ light: 100 })).witness).toBe('Its source was there: the light on the array was measured.');
    expect(cold(frost({ light: 99 })).verdict).toBe('notTested');
  });

  it('is proved by a sister on the same sky, and not by one that hardly gives anything or has another source', () => {
    const sister = (amps: number, id = 'fore', of = p) => {
      const made = frost();
      return cold(beside(made, id, { amps: column(made, () => amps) }), 'aft', of);
    };
    expect(sister(3).witness).toContain('Solar fore gave current');
    expect(sister(0.8).verdict).toBe('notTested');
    expect(sister(30, 'alternator', whole).verdict).toBe('notTested');
  });

  it('of a DC-DC charger is put to the test by its engine', () => {
    const made = frost();
    const dcdc = beside(made, 'dcdc', { amps: column(made, () => 0) });
    expect(cold(dcdc, 'dcdc', whole).verdict).toBe('notTested');
    expect(cold(change(dcdc, { engine: column(made, () => 1800) }), 'dcdc', whole).witness).toContain('the engine was turning');
    expect(cold(beside(dcdc, 'alternator', { amps: column(made, () => 40) }), 'dcdc', whole).verdict).toBe('pass');
  });

  it('is proved by a hold that the charger itself reports', () => {
    const made = frost();
    const stage = Uint8Array.from(made.log.time, () => stageCode.cold);
    expect(cold(aft(made, { stage })).witness).toContain('reported that it held back');
  });

  it('is proved by its own current minutes before, in like light, and by nothing older', () => {
    // The cells pass the least ten minutes after the charger has stopped, or an hour after.
    const stopped = (after: number): Made =>
      madeLog(4 * 3600, 10, (s) => ({ volts: 26.5, amps: s < 3600 ? 20 : 0, net: s < 3600 ? 18 : -2, celsius: s < 3600 + after ? 1.5 : -3 }));
    expect(cold(stopped(0)).witness).toContain('gave current itself within a quarter of an hour');
    expect(cold(stopped(3600)).verdict).toBe('notTested');
  });

  it('counts what the bank takes: what the loads took neither fails nor proves', () => {
    const fed = frost({ amps: 4, net: -3, light: 300 });
    expect(cold(fed).verdict).toBe('inconclusive');
    expect(cold(fed).why).toContain('which the loads took: nothing held it back');
    expect(cold(frost({ amps: 4, net: 2, light: 300 })).verdict).toBe('fail');
    // Without the bank's current a few amps may all have gone to the loads; more than they take cannot have.
    const { bankAmps: _gone, ...alone } = frost({ amps: 4 }).log;
    expect(cold({ ...fed, log: alone }).verdict).toBe('inconclusive');
    const { bankAmps: _too, ...much } = frost({ amps: 30 }).log;
    expect(cold({ ...fed, log: much }).verdict).toBe('fail');
  });
});

describe('the sensor of a temperature column', () => {
  const made = madeLog(4 * 3600, 10, () => ({ celsius: -1.2, volts: 26.5, amps: 0, light: 300 }));
  const cold = (batterySensor: string | undefined, of = p): ProofRow => {
    const { batterySensor: _before, ...log } = made.log;
    return row({ ...made, log: batterySensor === undefined ? log : { ...log, batterySensor } }, 'noChargeBelowMinimum', 'aft', of);
  };

  it('has to be known before anything that rests on it is settled', () => {
    expect(cold('probe').verdict).toBe('pass');
    expect(cold(undefined).verdict).toBe('inconclusive');
    expect(cold(undefined).next).toBe('Say beside the log which sensor wrote its temperature.');
    expect(cold('nobody').verdict).toBe('inconclusive');
    // The voltage of lithium does not move with temperature.
    expect(row(change(made, { batterySensor: undefined as never }), 'neverAboveMaximum').verdict).toBe('pass');
  });

  it('on a pad reads warmer than the cells by what System knows of it', () => {
    const sensor = teasel().system.chargers.find((c) => c.id === 'aft')!.sensor;
    expect(sensor.offsetC).toBeGreaterThan(1);
    const warm = madeLog(4 * 3600, 10, () => ({ celsius: 1, volts: 26.5, amps: 12, net: 10 }));
    expect(row(warm, 'noChargeBelowMinimum', 'aft').verdict).toBe('notTested');
    const felt = row(change(warm, { batterySensor: 'aft' }), 'noChargeBelowMinimum', 'aft');
    expect([felt.verdict, felt.measured]).toEqual(['fail', 1 - sensor.offsetC]);
    expect(felt.budget[0]?.name).toBe(`Sensor of Solar aft ± ${sensor.errorC} °C`);
  });

  it('lags behind what it measures, and that is in the ±', () => {
    const { lagSeconds, errorC } = teasel().system.chargers.find((c) => c.id === 'aft')!.sensor;
    const warming = madeLog(4 * 3600, 10, (s) => ({ celsius: -4 + s / 3600, volts: 26.5, amps: 12, net: 10 }));
    const { budget } = row(change(warming, { batterySensor: 'aft' }), 'noChargeBelowMinimum', 'aft');
    expect(budget.map((l) => l.halfWidth)).toEqual([errorC, jasmine.any(Number) as never]);
    expect(budget[1]!.halfWidth).toBeCloseTo(lagSeconds / 3600, 3);
  });

  it('is told by the head of its column, and written there again', () => {
    const read = (head: string) => {
      const got = readCsv(`time,bank_V,${head},aft_A\n2026-06-14T10:00:00Z,26.5,12.0,3\n2026-06-14T10:00:10Z,26.5,12.1,3\n2026-06-14T10:00:20Z,26.5,12.1,3\n`, [
        'fore',
        'aft',
      ]);
      return got.ok ? got.value.log.batterySensor : 'unread';
    };
    expect([read('battery_probe_degC'), read('battery_aft_degC'), read('battery_degC'), read('cell temperature (°C)')]).toEqual([
      'probe',
      'aft',
      undefined,
      'probe',
    ]);
    expect(writeLog(made.log)).toContain('time,bank_V,bank_A,battery_probe_degC,irradiance_W/m2,aft_A,aft_array_V\n');
    expect(read('temp aft [°F]')).toBe('aft');
  });
});

describe('a level held', () => {
  const day = (at: (minute: number) => Sample): Made => madeLog(6 * 3600, 10, (s) => at(s / 60));
  /** An hour and a half of bulk, then what is given, then float under a load that comes and goes. */
  const absorb = (at: (minute: number) => Sample, minutes = 60): Made =>
    day((m) =>
      m < 90
        ? { volts: 26.6 + m / 70, amps: 40, net: 36 }
        : m < 90 + minutes
          ? at(m - 90)
          : { volts: 26.9, amps: Math.floor(m / 8) % 3 === 0 ? 9 : 3, net: 0.5 },
    );
  const fall = (m: number): number => 5 + 30 * Math.exp(-m / 15);

  it('is proved where the current falls while the voltage stands', () => {
    const held = row(
      absorb((m) => ({ volts: 28.1, amps: fall(m), net: fall(m) - 4 })),
      'absorbLevel',
      'aft',
    );
    expect([held.verdict, held.witness]).toEqual([
      'pass',
      jasmine.stringMatching(/^The voltage stood while its current moved between \d+\.\d.A and \d+\.\d.A\.$/),
    ]);
  });

  it('is not proved on a hump in which volts and amps rise and fall together', () => {
    // The sun's own hump, within the tolerance of the level for forty minutes.
    const hump = row(
      absorb((m) => ({ volts: 28.15 - 0.06 * ((m - 30) / 30) ** 2, amps: 30 - 9 * ((m - 30) / 30) ** 2, net: 26 - 9 * ((m - 30) / 30) ** 2 })),
      'absorbLevel',
      'aft',
    );
    expect(hump.verdict).toBe('inconclusive');
    expect(hump.why).toContain('Nothing shows that Solar aft held it there');
  });

  it('is not proved of a charger that stood flat at its limit, nor of one that another held there', () => {
    const both = (own: (m: number) => number, other: (m: number) => number): ProofRow => {
      const made = absorb((m) => ({ volts: 28.1, amps: own(m), net: own(m) + other(m) - 4 }));
      return row(beside(made, 'fore', { amps: column(made, (s) => (s < 5400 ? 40 : s < 9000 ? other((s - 5400) / 60) : 0)) }), 'absorbLevel', 'aft');
    };
    expect(both(() => 20, fall).verdict).toBe('inconclusive');
    // Its current falls, and the sister takes it over: a cloud on one roof.
    expect(
      both(
        (m) => 30 - m / 4,
        (m) => 5 + m / 4,
      ).verdict,
    ).toBe('inconclusive');
    // Both come down together: each backs off by itself.
    expect(both(fall, fall).verdict).toBe('pass');
  });

  it('is proved where its array stands far above the volts at which it works', () => {
    const throttled = (volts: number): ProofRow => {
      const made = absorb(() => ({ volts: 28.1, amps: 20, net: 16 }));
      return row(aft(made, { arrayVolts: column(made, (s) => (s < 5400 ? 70 : volts)) }), 'absorbLevel', 'aft');
    };
    expect(throttled(74.3).witness).toBe('Its array stood at 74 V, above the 70 V at which it works: the charger held it back.');
    expect(throttled(74.1).verdict).toBe('inconclusive');
  });

  it('is told day by day: the worst decides and carries its date', () => {
    const two = (second: number): Made =>
      madeLog(2 * 86_400, 30, (s) => {
        const m = (s % 86_400) / 60;
        const level = s < 86_400 ? 28.07 : second;
        if (m < 90) return { volts: 26.6 + m / 70, amps: 40, net: 36 };
        if (m < 150) return { volts: level, amps: fall(m - 90), net: fall(m - 90) - 4 };
        return m < 360 ? { volts: 26.9, amps: Math.floor(m / 8) % 3 === 0 ? 9 : 3, net: 0.5 } : { volts: 26.5, amps: 0, net: -3 };
      });
    expect(row(two(28.07), 'absorbLevel', 'aft').why).toContain('nearest to its limit of 2 days');
    const worse = row(two(28.02), 'absorbLevel', 'aft');
    expect(worse.verdict).toBe('inconclusive');
    expect(worse.why).toMatch(/held 28\.02.V .* on \d+ Jun, the worst of 2 days/);
  });

  it('of one sample in five minutes is no level: one sample has no scatter of its own', () => {
    const rare = madeLog(6 * 3600, 300, (s) =>
      s < 5400 ? { volts: 26.6 + s / 4200, amps: 40 } : s < 5900 ? { volts: 28.1, amps: 20 } : { volts: 26.9, amps: 3 },
    );
    expect(row(rare, 'absorbLevel', 'aft').verdict).toBe('notTested');
  });
});

describe('absorb completed', () => {
  const bulk = (m: number): Sample => ({ volts: 26.6 + m / 70, amps: 40, net: 36 });
  const float = (m: number): Sample => ({ volts: 26.9, amps: Math.floor(m / 8) % 3 === 0 ? 9 : 3, net: 0.5 });
  const of = (at: (minute: number) => Sample, step = 10, minutes = 30): ProofRow =>
    row(
      madeLog(6 * 3600, step, (s) => (s < 5400 ? bulk(s / 60) : s < 5400 + minutes * 60 ? at(s / 60 - 90) : float(s / 60))),
      'absorbCompleted',
      'aft',
    );

  it('by a fallen current, while the voltage stood', () => {
    const done = of((m) => ({ volts: 28.1, amps: 4 + 34 * Math.exp(-m / 8), net: 34 * Math.exp(-m / 8) }), 10, 20);
    expect([done.verdict, done.unit]).toEqual(['pass', 'A']);
  });

  it('not by a cloud, under which volts and amps fall together within the tolerance', () => {
    const cloud = of((m) => ({ volts: 28.12 - (m > 18 ? 0.05 : 0), amps: m > 18 ? 12 : 38, net: m > 18 ? 8 : 34 }), 10, 20);
    expect(cloud.verdict).not.toBe('pass');
    expect(cloud.why).toContain('a cloud may have done it');
  });

  it('by the bank’s own current, where two fill it together and neither comes down by itself', () => {
    // One follows the sun, the other what the bank still takes: the bank is filled all the same.
    const made = madeLog(6 * 3600, 10, (s) => {
      if (s < 5400) return bulk(s / 60);
      const m = s / 60 - 90;
      return m < 30 ? { volts: 28.1, amps: 20, net: 40 * Math.exp(-m / 12) } : float(s / 60);
    });
    const both = beside(made, 'fore', { amps: column(made, (s) => (s < 5400 ? 40 : s < 7200 ? 24 + 20 * Math.exp(-(s - 5400) / 720) : 0)) });
    const done = row(both, 'absorbCompleted', 'aft');
    expect([done.verdict, done.witness]).toEqual(['pass', jasmine.stringContaining('The voltage stood while the bank’s current moved between')]);
    // Whose level it is nobody can say.
    expect(row(both, 'absorbLevel', 'aft').verdict).toBe('inconclusive');
  });

  it('not by a single sample of five minutes', () => {
    expect(of((m) => ({ volts: 28.1, amps: m < 8 ? 38 : 9, net: m < 8 ? 34 : 5 }), 300, 10).verdict).not.toBe('pass');
  });

  it('not by a current whose sign looks reversed', () => {
    const made = madeLog(6 * 3600, 10, (s) => (s < 5400 ? bulk(s / 60) : s < 6600 ? { volts: 28.1, amps: 34, net: 30 } : { volts: 26.9, amps: 3, net: 0.5 }));
    const turned = change(made, { bankAmps: made.log.bankAmps!.map((a) => -a) });
    expect(row(turned, 'absorbCompleted', 'aft').verdict).not.toBe('pass');
    expect(row(turned, 'currentCeiling').why).toContain('its sign looks reversed');
    expect(row(turned, 'noDisconnect').verdict).toBe('notTested');
  });

  /** Days of which each is told how long it stands at absorb, in minutes; 0 stays in bulk until dark. */
  const days = (...minutes: readonly number[]): ProofRow =>
    row(
      madeLog(minutes.length * 86_400, 60, (s) => {
        const m = (s % 86_400) / 60;
        const stands = minutes[Math.floor(s / 86_400)] ?? 0;
        if (m < 90) return stands === 0 ? { volts: 26.6, amps: 20, net: 16 } : bulk(m);
        if (m < 90 + stands) return { volts: 28.1, amps: 60 - (m - 90) / 10, net: 56 - (m - 90) / 10 };
        return m < 400 && stands > 0 ? float(m) : { volts: 26.4, amps: 0, net: -3, array: 0 };
      }),
      'absorbCompleted',
      'aft',
    );

  it('is counted over all days: one cut short fails, one that never came there keeps it open', () => {
    expect([days(60, 60).verdict, days(60, 60).why]).toEqual(['pass', jasmine.stringContaining('Completed on 2 of 2 days.')]);
    const short = days(60, 12, 60);
    expect([short.verdict, short.why]).toEqual([
      'fail',
      jasmine.stringMatching(/It then went on to float\. Completed on 2 of 3 days\. Cut short on \d+ Jun\./),
    ]);
    const never = days(60, 0, 60);
    expect([never.verdict, never.why]).toEqual(['inconclusive', jasmine.stringMatching(/Completed on 2 of 3 days\. Not reached on \d+ Jun\./)]);
  });

  it('is left open where a gap could hold what is missing, or the log ends, or the source goes', () => {
    const made = madeLog(6 * 3600, 10, (s) => (s < 5400 ? bulk(s / 60) : s < 7800 ? { volts: 28.1, amps: 60 - s / 600, net: 50 - s / 600 } : float(s / 60)));
    // 40 minutes at voltage, of which 20 were not written down.
    const keep = [...made.log.time.keys()].filter((i) => i < 560 || i > 680);
    const pick = (c: Float32Array): Float32Array => Float32Array.from(keep, (i) => c[i] ?? NaN);
    const gapped: Made = {
      report: made.report,
      log: {
        ...made.log,
        time: Float64Array.from(keep, (i) => made.log.time[i] ?? 0),
        bankVolts: pick(made.log.bankVolts),
        bankAmps: pick(made.log.bankAmps!),
        batteryC: pick(made.log.batteryC!),
        chargers: { aft: { amps: pick(made.log.chargers['aft']!.amps!) } },
      },
    };
    const open = row(gapped, 'absorbCompleted', 'aft');
    expect([open.verdict, open.why]).toEqual(['inconclusive', jasmine.stringMatching(/Nothing is known of 20.min/)]);
    const ends = madeLog(6000, 10, (s) => (s < 5400 ? bulk(s / 60) : { volts: 28.1, amps: 60, net: 50 }));
    expect(row(ends, 'absorbCompleted', 'aft').why).toContain('The log ends before absorb did.');
    const dusk = madeLog(9000, 10, (s) =>
      s < 5400 ? bulk(s / 60) : s < 6000 ? { volts: 28.1, amps: 60, net: 50 } : { volts: 26.5, amps: 0, net: -3, array: 0 },
    );
    expect(row(dusk, 'absorbCompleted', 'aft').why).toContain('Its source was gone');
  });

  it('counts at no level under the one that is asked', () => {
    const low = row(
      madeLog(6 * 3600, 10, (s) =>
        s < 5400 ? { ...bulk(s / 60), volts: 26.4 + s / 4500 } : s < 9000 ? { volts: 27.6, amps: 60 - s / 300, net: 40 - s / 300 } : float(s / 60),
      ),
      'absorbCompleted',
      'aft',
    );
    expect(low.verdict).not.toBe('pass');
  });
});

describe('a current limit', () => {
  const told = row(
    madeLog(3600, 10, () => ({ volts: 26.6, amps: 10 })),
    'currentAsProgrammed',
    'aft',
  ).requirement.toldA!;
  const gave = (amps: (s: number) => number): ProofRow =>
    row(
      madeLog(4 * 3600, 10, (s) => ({ volts: 26.6, amps: amps(s) })),
      'currentAsProgrammed',
      'aft',
    );

  it('is proved by a flat top, not by a dull day that comes near it, nor by a moment at it', () => {
    expect(gave(() => told).witness).toContain('the limit held it, not the source');
    expect(gave(() => 0.85 * told).verdict).toBe('notTested');
    expect(gave((s) => told * (0.4 + 0.6 * Math.exp(-(((s - 7200) / 400) ** 2)))).why).toContain('It only touched that');
    expect(gave(() => told * 1.2).verdict).toBe('fail');
  });

  it('of the bank is proved near what can flow at the most', () => {
    const most = p.ceiling.binding!.amps;
    const net = (amps: number): ProofRow =>
      row(
        madeLog(7200, 10, () => ({ volts: 26.6, amps: 20, net: amps })),
        'currentCeiling',
      );
    const limits = p.input.system.chargers.reduce((sum, c) => sum + (p.setting(c.id, 'chargeCurrentLimit')?.trueValue ?? 0), 0);
    expect(net(0.9 * Math.min(most, limits)).verdict).toBe('notTested');
    expect(net(0.95 * Math.min(most, limits)).verdict).toBe('pass');
  });

  it('is not broken by a sum of chargers of which the loads took a part', () => {
    const made = madeLog(7200, 10, () => ({ volts: 26.6, amps: 400 }));
    const { bankAmps: _gone, ...log } = beside(made, 'fore', { amps: column(made, () => 10) }).log;
    expect(row({ ...made, log }, 'currentCeiling').verdict).toBe('inconclusive');
    expect(row({ ...made, log: { ...log, loadAmps: column(made, () => 5) } }, 'currentCeiling').verdict).toBe('fail');
  });
});

describe('the BMS stayed closed', () => {
  const day = (at: (s: number) => Sample | null): Made =>
    madeLog(4 * 3600, 10, (s) => at(s) ?? { volts: 26.6 + s / 12_000, amps: 30, net: 26 + Math.sin(s / 300), celsius: 20 });
  const closed = (made: Made): ProofRow => row(made, 'noDisconnect');

  it('not where its shunt idles at a tenth of an amp while the bus leaps', () => {
    expect(closed(day(() => null)).verdict).toBe('pass');
    const open = closed(day((s) => (s > 7000 && s < 7100 ? { volts: 28.4, amps: 6, net: s % 20 === 0 ? 0.1 : -0.1 } : null)));
    expect([open.verdict, open.why]).toEqual(['fail', jasmine.stringContaining('the BMS had opened')]);
  });

  it('not where the bus goes against the current: out of discharge into less volts', () => {
    const taken = (volts: number): Made =>
      day((s) => (s > 6900 && s < 7000 ? { volts: 27.3, amps: 0, net: -2 } : s >= 7000 && s < 7200 ? { volts, amps: 7, net: 0 } : null));
    expect(closed(taken(26.9)).verdict).toBe('fail');
    expect(closed(taken(27.25)).verdict).toBe('pass');
  });

  it('a bank that sinks from absorb to float at no current has not opened', () => {
    const sinks = closed(
      day((s) =>
        s > 6000 && s <= 7000 ? { volts: 28.1, amps: 20, net: 16 } : s > 7000 && s < 7100 ? { volts: 28.1 - (s - 7000) / 80, amps: 0.2, net: 0 } : null,
      ),
    );
    expect(sinks.verdict).not.toBe('fail');
  });

  it('not where the current was known for a part of the log only, nor where chargers fed the loads and nothing else was to be seen', () => {
    const made = day(() => null);
    const holed = change(made, { bankAmps: made.log.bankAmps!.map((a, i) => (i % 9 === 0 ? a : NaN)) });
    expect(closed(holed).verdict).toBe('inconclusive');
    const fed = closed(day((s) => (s > 7000 ? { volts: 26.9, amps: 5, net: 0 } : null)));
    expect([fed.verdict, fed.why]).toEqual(['inconclusive', jasmine.stringContaining('with the BMS open it would look the same')]);
  });

  it('not between samples that are far apart', () => {
    const rare = madeLog(4 * 3600, 300, () => ({ volts: 26.8, amps: 30, net: 26, celsius: 20 }));
    expect([closed(rare).verdict, closed(rare).why]).toEqual(['inconclusive', jasmine.stringMatching(/5.min apart: an opening between two of them/)]);
  });
});

describe('a slope', () => {
  const mast = plan(rookMoss());
  const meter = rookMoss().system.instruments[0]!;
  const days = (amps: (hour: number) => number, celsiusError = meter.temperatureErrorC): ProofRow => {
    const text = Array.from({ length: 9 * 720 }, (_, i) => {
      const hour = (i / 30) % 24;
      const celsius = 12 + 10 * Math.sin((i / 30 / 216) * 2 * Math.PI) + 4 * Math.sin(((hour - 9) / 24) * 2 * Math.PI);
      const on = hour > 9 && hour < 16;
      return `${1_781_400_000 + i * 120},${(on ? 14.7 - 0.024 * (celsius - 25) : 12.6).toFixed(3)},${on ? 3 : -1},${celsius.toFixed(2)},${(on ? amps(hour) : 0).toFixed(2)}`;
    }).join('\n');
    const read = readCsv(`time,bank_V,bank_A,battery_probe_degC,mast_A\n${text}\n`, ['mast']);
    if (!read.ok) throw new Error('unreadable');
    return proveLog(mast, read.value.log, read.value.report, { ...meter, temperatureErrorC: celsiusError }).rows.find(
      (r) => r.requirement.code === 'slopeAsProgrammed',
    )!;
  };

  it('has the error of its thermometer in the ±', () => {
    const [good, poor] = [days((h) => 3 + 10 * Math.exp(-(h - 9)), 0.5), days((h) => 3 + 10 * Math.exp(-(h - 9)), 5)];
    expect(good.verdict).toBe('pass');
    expect(poor.uncertainty!).toBeGreaterThan(3 * good.uncertainty!);
    expect(good.budget.some((l) => l.name.startsWith('Battery temperature ± 0.5 °C at each end of'))).toBeTrue();
    expect(poor.verdict).toBe('inconclusive');
  });

  it('of a bank that nothing was seen to regulate is not proved', () => {
    const flat = days(() => 6, 0.5);
    expect(flat.verdict).not.toBe('pass');
  });
});

describe('no float', () => {
  const sheet = (state: 'notPermitted' | 'stated'): Plan =>
    plan(withFigure(teasel(), 'floatVoltage', state === 'notPermitted' ? { state, min: undefined, target: undefined, max: undefined } : {}));
  const resting = sheet('notPermitted');
  /** An hour and a half of bulk, forty minutes of absorb, then what is given, for so many hours. */
  const day = (after: (s: number) => Sample, hours = 5): Made =>
    madeLog(7800 + hours * 3600, 10, (s) =>
      s < 5400
        ? { volts: 26.6 + s / 4000, amps: 40, net: 36, light: 700 }
        : s < 7800
          ? { volts: 28.1, amps: 5 + 30 * Math.exp(-(s - 5400) / 800), net: 30 * Math.exp(-(s - 5400) / 800), light: 700 }
          : { light: 700, ...after(s - 7800) },
    );
  const rests = (s: number): Sample => ({ volts: Math.max(26.6, 28.1 - s / 600), amps: 0, net: -3 });
  const told = (made: Made, of = resting): ProofRow => row(made, 'noFloat', 'aft', of);

  it('is asked where the sheet permits none, instead of a level that nobody published', () => {
    const codes = (of: Plan): string[] => requirementsOf(of).flatMap((r) => (r.charger === 'aft' ? [r.code] : []));
    expect([codes(resting).includes('noFloat'), codes(resting).includes('floatLevel')]).toEqual([true, false]);
    expect([codes(sheet('stated')).includes('noFloat'), codes(sheet('stated')).includes('floatLevel')]).toEqual([false, true]);
  });

  it('fails where volts over rest were held for hours, in float or in an absorb that did not end', () => {
    const float = told(day(() => ({ volts: 27.2, amps: 4, net: 0.5 })));
    expect([float.verdict, float.why]).toEqual(['fail', jasmine.stringMatching(/held 27\.20.V for 5.h after absorb; the sheet permits no float/)]);
    const on = told(day(() => ({ volts: 28.1, amps: 5, net: 1 })));
    expect(on.verdict).toBe('fail');
  });

  it('is proved by hours of light after absorb in which it rested', () => {
    const good = told(day(rests));
    expect([good.verdict, good.witness]).toEqual(['pass', jasmine.stringMatching(/the light on the array was measured.* It had it for 5.h after absorb\./)]);
    expect(told(day(rests, 0.5)).verdict).toBe('notTested');
    const { irradiance: _gone, ...dark } = day(rests).log;
    expect(told({ ...day(rests), log: dark }).verdict).toBe('notTested');
  });

  it('half an hour of it does not fail, an hour does', () => {
    const held = (minutes: number): ProofRow => told(day((s) => (s < minutes * 60 ? { volts: 27.2, amps: 4, net: 0.5 } : rests(s + 900))));
    expect([held(20).verdict, held(60).verdict]).toEqual(['pass', 'fail']);
  });
});

describe('a recharge', () => {
  const told = p.setting('aft', 'rechargeVoltage')!.trueValue!;
  /** Absorb and float, then a bank drawn down in full light to `low`, by a charger that gives nothing. */
  const idle = (low: number, more: Partial<Sample> = {}): ProofRow =>
    row(
      madeLog(5 * 3600, 10, (s) =>
        s < 3600
          ? { volts: 26.6 + s / 2600, amps: 40, net: 36, light: 700, celsius: 20 }
          : s < 6000
            ? { volts: 28.1, amps: 5 + 30 * Math.exp(-(s - 3600) / 800), net: 30 * Math.exp(-(s - 3600) / 800), light: 700, celsius: 20 }
            : { volts: Math.max(low, 28 - (s - 6000) / 1500), amps: 0, net: -8, light: 700, celsius: 20, ...more },
      ),
      'rechargeAsProgrammed',
      'aft',
    );

  it('that never came in full light is told', () => {
    const never = idle(told - 0.4);
    expect([never.verdict, never.why]).toEqual(['fail', jasmine.stringContaining('and began no new charge')]);
    expect(idle(told).verdict).toBe('notTested');
  });

  it('is nobody’s fault in the dark or in the cold', () => {
    expect(idle(told - 0.4, { light: 20 }).verdict).toBe('notTested');
    expect(idle(told - 0.4, { celsius: 5 }).verdict).toBe('notTested');
  });
});

describe('the limits of a witness', () => {
  const bulk = (m: number): Sample => ({ volts: 26.6 + m / 70, amps: 60, net: 56 });
  const float = (m: number): Sample => ({ volts: 26.9, amps: Math.floor(m / 8) % 3 === 0 ? 9 : 3, net: 0.5 });
  /** An hour and a half of bulk, absorb for so many minutes, then float. */
  const day = (minutes: number, absorb: (minute: number) => Sample, step = 10): Made =>
    madeLog(5 * 3600, step, (s) => (s < 5400 ? bulk(s / 60) : s < 5400 + minutes * 60 ? absorb(s / 60 - 90) : float(s / 60)));
  const level = (made: Made): Verdict => row(made, 'absorbLevel', 'aft').verdict;
  const falling = (tau: number) => (m: number) => 5 + 30 * Math.exp(-m / tau);

  it('a stretch at the level: five minutes alone, ten beside others', () => {
    const alone = (minutes: number): Verdict => level(day(minutes, (m) => ({ volts: 28.1, amps: falling(8)(m), net: 20 })));
    expect([alone(4.8), alone(5.3)]).toEqual(['inconclusive', 'pass']);
    const shared = (minutes: number): Verdict => {
      const made = day(minutes, (m) => ({ volts: 28.1, amps: falling(4)(m), net: 20 }));
      return level(beside(made, 'fore', { amps: column(made, (s) => (s < 5400 ? 40 : s < 5400 + minutes * 60 ? falling(4)((s - 5400) / 60) : 0)) }));
    };
    expect([shared(9.7), shared(10.5)]).toEqual(['inconclusive', 'pass']);
  });

  it('a current that moves by 15 % of itself, and beside others comes down to 60 %', () => {
    // Straight from 30 A down by d: between the tenths of its range lie 0.8 d, at the top 30 − 0.1 d.
    const by = (d: number): Verdict => level(day(60, (m) => ({ volts: 28.1, amps: 30 - (d * m) / 60, net: 20 })));
    expect([by(5.3), by(6)]).toEqual(['inconclusive', 'pass']);
    // Means of the first and the last fifth: 30 − 0.1 d and 30 − 0.9 d.
    const shared = (d: number): Verdict => {
      const made = day(60, (m) => ({ volts: 28.1, amps: 30 - (d * m) / 60, net: 20 }));
      return level(beside(made, 'fore', { amps: column(made, (s) => (s < 5400 ? 40 : s < 9000 ? 20 : 0)) }));
    };
    expect([shared(13.9), shared(14.7)]).toEqual(['inconclusive', 'pass']);
  });

  it('like light: a quarter of an hour, of which ten minutes have to be cold', () => {
    const cold = (after: number): Verdict =>
      row(
        madeLog(3 * 3600, 10, (s) => ({ volts: 26.5, amps: s < 3600 ? 20 : 0, net: s < 3600 ? 18 : -2, celsius: s < 3600 + after ? 1.5 : -3 })),
        'noChargeBelowMinimum',
        'aft',
      ).verdict;
    expect([cold(280), cold(330)]).toEqual(['pass', 'notTested']);
  });

  it('an absorb: nine tenths of its time were not cut short, a bulk of half an hour was something to complete', () => {
    const lasted = (minutes: number): Verdict =>
      row(
        day(minutes, (m) => ({ volts: 28.1, amps: 60 - m / 3, net: 56 - m / 3 })),
        'absorbCompleted',
        'aft',
      ).verdict;
    expect([lasted(35), lasted(37), lasted(42)]).toEqual(['fail', 'inconclusive', 'pass']);
    const twoDays = (minutes: number): string =>
      row(
        madeLog(2 * 86_400 + 7200, 60, (s) => {
          const m = (s % 86_400) / 60;
          if (s >= 86_400) return m < minutes && s < 2 * 86_400 ? { volts: 26.6, amps: 20, net: 16 } : { volts: 26.4, amps: 0, net: -3, array: 0 };
          return m < 90
            ? bulk(m)
            : m < 150
              ? { volts: 28.1, amps: 60 - m / 5, net: 50 - m / 5 }
              : m < 300
                ? float(m)
                : { volts: 26.4, amps: 0, net: -3, array: 0 };
        }),
        'absorbCompleted',
        'aft',
      ).why;
    expect([twoDays(27).includes('of 2 days'), twoDays(33).includes('of 2 days')]).toEqual([false, true]);
  });

  it('a limit: within seven hundredths of it, flat for five minutes', () => {
    const told = row(
      madeLog(3600, 10, () => ({ volts: 26.6, amps: 10 })),
      'currentAsProgrammed',
      'aft',
    ).requirement.toldA!;
    const gave = (part: number, seconds: number): Verdict =>
      row(
        madeLog(2 * 3600, 10, (s) => ({ volts: 26.6, amps: s > 1000 && s <= 1000 + seconds ? part * told : 0.3 * told })),
        'currentAsProgrammed',
        'aft',
      ).verdict;
    expect([gave(0.92, 3000), gave(0.94, 3000)]).toEqual(['notTested', 'pass']);
    expect([gave(1, 290), gave(1, 320)]).toEqual(['notTested', 'pass']);
  });

  it('a BMS: a tenth of a volt against the current, for twenty seconds, known for all but two hundredths', () => {
    const closed = (at: (s: number) => Sample | null, holes = 0): Verdict => {
      const made = madeLog(4 * 3600, 10, (s) => at(s) ?? { volts: 27.2, amps: 30, net: 26, celsius: 20 });
      const bankAmps = made.log.bankAmps!.map((a, i) => (i < holes * made.log.time.length ? NaN : a));
      return row(change(made, { bankAmps }), 'noDisconnect').verdict;
    };
    // 0.4 % of 25.6 V.
    const up = (volts: number, seconds = 60): Verdict => closed((s) => (s > 7000 && s <= 7000 + seconds ? { volts: 27.2 + volts, amps: 0.5, net: 0 } : null));
    expect([up(0.09), up(0.12)]).toEqual(['pass', 'fail']);
    expect([up(0.4, 20), up(0.4, 30)]).toEqual(['pass', 'fail']);
    expect([closed(() => null, 0.015), closed(() => null, 0.03)]).toEqual(['pass', 'inconclusive']);
  });
});

describe('every pass', () => {
  it('has a witness, and nothing else has one', () => {
    const made = madeLog(6 * 3600, 10, (s) =>
      s < 5400 ? { volts: 26.6 + s / 4200, amps: 40, net: 36 } : { volts: 28.1, amps: 5 + 30 * Math.exp(-(s - 5400) / 900), net: 20 },
    );
    const rows = rowsOf(made);
    expect(rows.some((r) => r.verdict === 'pass')).toBeTrue();
    for (const r of rows)
      expect((r.witness?.length ?? 0) > 10)
        .withContext(r.requirement.code)
        .toBe(r.verdict === 'pass');
  });

  it('“never above” claims no shorter time than two samples', () => {
    expect(
      row(
        madeLog(7200, 300, () => ({ volts: 26.6, amps: 5 })),
        'neverAboveMaximum',
      ).why,
    ).toMatch(/held for 10.min was/);
    expect(
      row(
        madeLog(7200, 10, () => ({ volts: 26.6, amps: 5 })),
        'neverAboveMaximum',
      ).why,
    ).toMatch(/held for 30.s was/);
  });
});
