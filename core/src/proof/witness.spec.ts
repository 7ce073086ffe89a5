import { stageCode } from '../charger';
import { plan, teasel, wholeTeasel } from '../testing/fixtures';
import { keyed } from '../testing/keyed';
import { aft, beside, change, column, row, rowsOf, solarLaunch, type Made } from '../testing/judged';
import { madeLog, readCsv, type Sample } from '../testing/logs';
import { writeLog, type SpokenRow, type Verdict } from './index';

const whole = plan(keyed(wholeTeasel()));

describe('no charge when cold', () => {
  /** Four hours of frost in which the charger gives nothing. */
  const frost = (more: Partial<Sample> = {}): Made => madeLog(4 * 3600, 10, () => ({ celsius: -3, volts: 26.5, amps: 0, array: 95, ...more }));
  const cold = (made: Made, charger = 'aft', of = solarLaunch): SpokenRow => row(made, 'noChargeBelowMinimum', charger, of);

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
    const sister = (amps: number, id = 'fore', of = solarLaunch) => {
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

  it('of a DC-DC charger is put to the test by the volts at its input, where the log shows them without the alternator too', () => {
    // Two hours of driving with charge, two without, and four of driving in the frost.
    const input = (s: number): number => (s < 7200 ? 14.2 : s < 14_400 ? 12.6 : 14.1);
    const made = madeLog(8 * 3600, 10, (s) => ({ celsius: s < 14_400 ? 8 : -3, volts: 26.5, amps: 0 }));
    const dcdc = (volts: (s: number) => number): Made =>
      beside(made, 'dcdc', { amps: column(made, (s) => (s < 7200 ? 20 : 0)), arrayVolts: column(made, volts) });
    expect(cold(dcdc(input), 'dcdc', whole).witness).toContain('its input was at the 14.2');
    // A battery that stands as high without the alternator tells nothing, nor does one below the volts at which it works.
    expect(
      cold(
        dcdc((s) => (s < 7200 ? 14.2 : 14.1)),
        'dcdc',
        whole,
      ).verdict,
    ).toBe('notTested');
    expect(
      cold(
        dcdc((s) => (s < 7200 ? 14.2 : s < 14_400 ? 12.6 : 13.8)),
        'dcdc',
        whole,
      ).verdict,
    ).toBe('notTested');
  });

  it('of a solar charger is not put to the test by the volts at its input', () => {
    const made = madeLog(8 * 3600, 10, (s) => ({
      celsius: s < 14_400 ? 8 : -3,
      volts: 26.5,
      amps: s < 7200 ? 20 : 0,
      net: s < 7200 ? 18 : -2,
      array: s < 7200 ? 70 : s < 14_400 ? 10 : 70,
    }));
    expect(cold(made).verdict).toBe('notTested');
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
  const cold = (batterySensor: string | undefined, of = solarLaunch): SpokenRow => {
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
    expect(felt.budget[0]?.name).toBe(`Sensor of Solar aft ± ${sensor.errorC.toFixed(1)}\u00a0°C`);
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
      jasmine.stringMatching(/^The voltage stayed level while its current moved between \d+\.\d.A and \d+\.\d.A\.$/),
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
    const both = (own: (m: number) => number, other: (m: number) => number): SpokenRow => {
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
    // The sister backs off to little and then takes over what the fading light leaves of its own.
    expect(
      both(
        (m) => 28 - m / 2.5,
        (m) => (m < 24 ? 26 - m : 2 + (m - 24) / 4),
      ).verdict,
    ).toBe('inconclusive');
  });

  it('is proved where its array stands far above the volts at which it works', () => {
    const throttled = (volts: number, amps = 20): SpokenRow => {
      const made = absorb(() => ({ volts: 28.1, amps: 20, net: 16 }));
      // It works at 70 V on the way to its most, and is held back at 80 V by its limit of current once it is there.
      const morning = {
        amps: column(made, (s) => (s < 3600 ? 20 + s / 200 : s < 5400 ? 40 : s < 9000 ? amps : 5)),
        arrayVolts: column(made, (s) => (s < 3600 ? 70 : s < 5400 ? 80 : volts)),
      };
      return row(aft(made, morning), 'absorbLevel', 'aft');
    };
    expect(throttled(74.3).witness).toBe('Its array was at 74 V, above the 70 V at which it works: the charger held it back.');
    expect(throttled(74.1).verdict).toBe('inconclusive');
    // At the most it ever gives its own limit holds it back, whoever holds the bank.
    expect([throttled(80, 39.2).verdict, throttled(80, 38.4).verdict]).toEqual(['inconclusive', 'pass']);
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

  it('a limit: where it was set to as far as the instrument can tell, flat for two hours where no knee shows it', () => {
    const told = row(
      madeLog(3600, 10, () => ({ volts: 26.6, amps: 10 })),
      'currentAsProgrammed',
      'aft',
    ).requirement.toldA!;
    const gave = (part: number, seconds: number): Verdict =>
      row(
        madeLog(4 * 3600, 10, (s) => ({ volts: 26.6, amps: s > 1000 && s <= 1000 + seconds ? part * told : 0.3 * told })),
        'currentAsProgrammed',
        'aft',
      ).verdict;
    expect([gave(0.94, 8000), gave(0.98, 8000)]).toEqual(['notTested', 'pass']);
    expect([gave(1, 7190), gave(1, 7230)]).toEqual(['notTested', 'pass']);
  });

  it('a BMS: a tenth of a volt against the current, for twenty seconds, known for all but two hundredths', () => {
    const closed = (at: (s: number) => Sample | null, holes = 0): Verdict => {
      const made = madeLog(4 * 3600, 10, (s) => at(s) ?? { volts: 27.2, amps: 30, net: 26, celsius: 20 });
      const bankAmps = made.log.bankAmps!.map((a, i) => (i < holes * made.log.time.length ? NaN : a));
      return row(beside(change(made, { bankAmps }), 'fore', { amps: column(made, () => 0) }), 'noDisconnect').verdict;
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
