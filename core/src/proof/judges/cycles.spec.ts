import { requirementsOf } from '../../requirements';
import type { Plan } from '../../settings';
import { plan, rookMoss, teasel, withFigure } from '../../testing/fixtures';
import { keyed } from '../../testing/keyed';
import { beside, change, column, row, solarLaunch, type Made } from '../../testing/judged';
import { madeLog, readCsv, type Sample } from '../../testing/logs';
import { proveLog, speakRow, type SpokenRow } from '../index';

describe('absorb completed', () => {
  const bulk = (m: number): Sample => ({ volts: 26.6 + m / 70, amps: 40, net: 36 });
  const float = (m: number): Sample => ({ volts: 26.9, amps: Math.floor(m / 8) % 3 === 0 ? 9 : 3, net: 0.5 });
  const of = (at: (minute: number) => Sample, step = 10, minutes = 30): SpokenRow =>
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
    expect([done.verdict, done.witness]).toEqual(['pass', jasmine.stringContaining('The voltage stayed level while the bank’s current moved between')]);
    // Whose level it is nobody can say.
    expect(row(both, 'absorbLevel', 'aft').verdict).toBe('inconclusive');
  });

  it('not by time at a level that another held', () => {
    const judged = (own: (m: number) => number, other: number): SpokenRow => {
      const made = madeLog(6 * 3600, 10, (s) => {
        const m = s / 60 - 90;
        return s < 5400 ? bulk(s / 60) : m < 60 ? { volts: 28.1, amps: own(m), net: 56 - m / 10 } : float(s / 60);
      });
      return row(beside(made, 'fore', { amps: column(made, (s) => (s < 5400 ? 40 : s < 9000 ? other : 0)) }), 'absorbCompleted', 'aft');
    };
    // Flat at its limit beside a sister: whose hour it was nobody can say.
    const flat = judged(() => 40, 20);
    expect([flat.verdict, flat.why]).toEqual(['inconclusive', jasmine.stringContaining('Another source gave current too, and may have held the bank there.')]);
    expect(judged(() => 40, 0).witness).toMatch(/^The bank was at 28\.10.V while Solar aft alone gave current\.$/);
    const fell = judged((m) => 40 - m / 2, 20);
    expect([fell.verdict, fell.witness]).toEqual(['pass', jasmine.stringContaining('The voltage stayed level while its current moved between')]);
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
  const days = (...minutes: readonly number[]): SpokenRow =>
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

  it('of a day is what its worst absorb was: a longer one later does not make good one that was cut short', () => {
    const twice = (first: number): SpokenRow =>
      row(
        madeLog(8 * 3600, 10, (s) => {
          const m = s / 60;
          if (m < 90) return bulk(m);
          if (m < 90 + first) return { volts: 28.1, amps: 60 - (m - 90) / 10, net: 56 - (m - 90) / 10 };
          if (m < 200) return float(m);
          // The loads draw it down to where a new charge begins.
          if (m < 220) return { volts: 26.2, amps: 0, net: -40 };
          if (m < 290) return { ...bulk(m - 200), volts: 26 + (m - 220) / 36 };
          return m < 350 ? { volts: 28.1, amps: 60 - (m - 290) / 10, net: 56 - (m - 290) / 10 } : float(m);
        }),
        'absorbCompleted',
        'aft',
      );
    expect([twice(12).verdict, twice(60).verdict]).toEqual(['fail', 'pass']);
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
  const gave = (amps: (s: number) => number): SpokenRow =>
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
    const most = solarLaunch.ceiling.binding!.amps;
    const net = (amps: number): SpokenRow =>
      row(
        madeLog(7200, 10, () => ({ volts: 26.6, amps: 20, net: amps })),
        'currentCeiling',
      );
    const limits = solarLaunch.input.system.chargers.reduce((sum, c) => sum + (solarLaunch.setting(c.id, 'chargeCurrentLimit')?.trueValue ?? 0), 0);
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
  /** With the other charger’s current, which gives nothing. */
  const closed = (made: Made): SpokenRow => row(beside(made, 'fore', { amps: column(made, () => 0) }), 'noDisconnect');

  it('not as long as nobody wrote down what one of the chargers gave: it may have fed the loads', () => {
    const alone = row(
      day(() => null),
      'noDisconnect',
    );
    expect([alone.verdict, alone.why]).toEqual(['inconclusive', jasmine.stringContaining('does not say what Solar fore gave')]);
  });

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
  const mast = plan(keyed(rookMoss()));
  const meter = rookMoss().system.instruments[0]!;
  const days = (
    amps: (hour: number) => number,
    celsiusError = meter.temperatureErrorC,
    { swing, daily, slope }: { readonly swing: number; readonly daily: number; readonly slope: number } = { swing: 10, daily: 4, slope: -0.024 },
  ): SpokenRow => {
    const text = Array.from({ length: 9 * 720 }, (_, i) => {
      const hour = (i / 30) % 24;
      const celsius = 12 + swing * Math.sin((i / 30 / 216) * 2 * Math.PI) + daily * Math.sin(((hour - 9) / 24) * 2 * Math.PI);
      const on = hour > 9 && hour < 16;
      return `${1_781_400_000 + i * 120},${(on ? 14.7 + slope * (celsius - 25) : 12.6).toFixed(3)},${on ? 3 : -1},${celsius.toFixed(2)},${(on ? amps(hour) : 0).toFixed(2)}`;
    }).join('\n');
    const read = readCsv(`time,bank_V,bank_A,battery_probe_degC,mast_A\n${text}\n`, ['mast']);
    if (!read.ok) throw new Error('unreadable');
    const { rows } = proveLog(mast, read.value.log, read.value.report, { ...meter, temperatureErrorC: celsiusError });
    return speakRow(
      rows.find((r) => r.requirement.code === 'slopeAsProgrammed')!,
      'C',
    );
  };

  it('has the error of its thermometer in the ±', () => {
    const [good, poor] = [days((h) => 3 + 10 * Math.exp(-(h - 9)), 0.5), days((h) => 3 + 10 * Math.exp(-(h - 9)), 5)];
    expect(good.verdict).toBe('pass');
    expect(poor.uncertainty!).toBeGreaterThan(3 * good.uncertainty!);
    expect(good.budget.some((l) => l.name.startsWith('Battery temperature ± 0.5\u00a0°C at each end of'))).toBeTrue();
    expect(poor.verdict).toBe('inconclusive');
  });

  it('fails over seven degrees and not over fewer: the day’s own course may look like it', () => {
    const steep = (daily: number): SpokenRow => days((h) => 3 + 10 * Math.exp(-(h - 9)), 0.5, { swing: 0, daily, slope: -0.09 });
    expect(steep(10).verdict).toBe('fail');
    const few = steep(6.4);
    expect([few.verdict, few.why.includes('Over so few degrees the day’s own course may look like it.')]).toEqual(['inconclusive', true]);
    expect(Number(/seen over (\d+)/.exec(few.why)![1])).toBeGreaterThan(5);
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
  const told = (made: Made, of = resting): SpokenRow => row(made, 'noFloat', 'aft', of);

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
    const held = (minutes: number): SpokenRow => told(day((s) => (s < minutes * 60 ? { volts: 27.2, amps: 4, net: 0.5 } : rests(s + 900))));
    expect([held(20).verdict, held(60).verdict]).toEqual(['pass', 'fail']);
  });
});

describe('a recharge', () => {
  const told = solarLaunch.setting('aft', 'rechargeVoltage')!.trueValue!;
  /** Absorb and float, then a bank drawn down in full light to `low`, by a charger that gives nothing. */
  const idle = (low: number, more: Partial<Sample> = {}): SpokenRow =>
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

  it('is nobody’s fault before the bank has come to absorb', () => {
    const before = madeLog(5 * 3600, 10, (s) =>
      s < 600 ? { volts: 26.4, amps: 20, net: 16, light: 700, celsius: 20 } : { volts: told - 0.4, amps: 0, net: -8, light: 700, celsius: 20 },
    );
    expect(row(before, 'rechargeAsProgrammed', 'aft').verdict).toBe('notTested');
  });

  it('is nobody’s fault in the dark or in the cold', () => {
    expect(idle(told - 0.4, { light: 20 }).verdict).toBe('notTested');
    expect(idle(told - 0.4, { celsius: 5 }).verdict).toBe('notTested');
  });
});
