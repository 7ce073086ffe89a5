import { randomFrom } from '../../physics';
import { plan, rookMoss, teasel, withFigure } from '../../testing/fixtures';
import { aft, beside, change, column, machineRow, type Made, row, wholeLaunch as whole, withLoadDelay } from '../../testing/judged';
import { madeLog, type Sample } from '../../testing/logs';
import { rounds } from '../../testing/rounds';
import type { SpokenRow } from '../index';
import { heldMaximum } from './neverAboveMaximum';
import { slopeRatio } from './slope';

const h = 3600;

/** Each limit of a judge, just past it and just within. Logs are written every ten seconds unless they say otherwise. */
describe('the highest level that was held', () => {
  /** The same by its definition: of every window as long as the dwell, without a hole in it, the least; of these the greatest. */
  const byDefinition = (time: readonly number[], value: readonly number[], dwell: number, longest: number): number | null => {
    let best: number | null = null;
    for (let from = 0; from < time.length; from++)
      for (let to = from; to < time.length; to++) {
        const part = value.slice(from, to + 1);
        const holed = part.some((v) => !Number.isFinite(v)) || part.some((_, k) => k > 0 && time[from + k]! - time[from + k - 1]! > longest);
        if (holed || time[to]! - time[from]! < dwell) continue;
        const least = Math.min(...part);
        if (best === null || least > best) best = least;
      }
    return best;
  };

  it('is what its definition says, over random logs with holes and gaps', () => {
    const random = randomFrom(41);
    for (let round = 0; round < rounds(400); round++) {
      const count = 1 + Math.floor(random() * 14);
      let now = 100;
      const time = Array.from({ length: count }, () => (now += random() < 0.15 ? 40 : 10));
      const value = Array.from({ length: count }, () => (random() < 0.12 ? NaN : Math.floor(random() * 6)));
      for (const dwell of [0, 10, 25, 30, 60]) {
        const found = heldMaximum(Float64Array.from(time), (i) => value[i]!, dwell, 30);
        const wanted = byDefinition(time, value, dwell, 30);
        expect(found?.value ?? null)
          .withContext(JSON.stringify({ time, value, dwell }))
          .toBe(wanted);
        if (!found) continue;
        // Where it was held is a window of its own, no shorter than the dwell, and nothing in it is less.
        const within = time.flatMap((t, i) => (t >= found.from && t <= found.to ? [value[i]!] : []));
        expect(found.to - found.from).toBeGreaterThanOrEqual(dwell);
        expect(Math.min(...within)).toBe(found.value);
      }
    }
  });
});

describe('where loads are cut off and come back', () => {
  const cut = whole.setting('monitor', 'loadDisconnect')!.trueValue!;
  const timed = withLoadDelay(60);
  /** The bank sinks for four hours to just under the disconnect, and comes up again once nothing draws on it; the loads take so much. */
  const night = (loads: (secondsOff: number) => number): SpokenRow => {
    const offAt = 2 * h + 60;
    const made = madeLog(6 * h, 10, (s) => ({ volts: cut + 0.8 - (Math.min(s, 2 * h) / (2 * h)) * 0.8, amps: 0 }));
    return row(change(made, { loadAmps: column(made, (s) => loads(s - offAt)) }), 'loadDisconnect', 'monitor', timed);
  };
  const acted = (r: SpokenRow): boolean => r.verdict === 'pass';

  it('they stay off for a minute at least', () => {
    // Off in the sample at 0 s, on again in the one at 60 s or at 50 s.
    expect(acted(night((s) => (s < 0 || s >= 60 ? 8 : 0)))).toBeTrue();
    expect(acted(night((s) => (s < 0 || s >= 50 ? 8 : 0)))).toBeFalse();
    expect(acted(night((s) => (s < 0 ? 8 : 0)))).toBeTrue();
  });

  it('a minute at the end of the log is enough, less is not', () => {
    const ends = (after: number): SpokenRow => {
      const made = madeLog(2 * h + 60 + after, 10, (s) => ({ volts: cut + 0.8 - (Math.min(s, 2 * h) / (2 * h)) * 0.8, amps: 0 }));
      return row(change(made, { loadAmps: column(made, (s) => (s < 2 * h + 60 ? 8 : 0)) }), 'loadDisconnect', 'monitor', timed);
    };
    expect(acted(ends(60))).toBeTrue();
    expect(acted(ends(50))).toBeFalse();
  });

  it('they are off at a twentieth of what they usually take, and went off at once if they took twice that a sample before', () => {
    // 8 A is usual: up to 0.4 A is off, 0.45 A is not.
    expect(acted(night((s) => (s < 0 || s >= 1800 ? 8 : 0.39)))).toBeTrue();
    expect(acted(night((s) => (s < 0 || s >= 1800 ? 8 : 0.45)))).toBeFalse();
    // The sample before took 0.9 A or 0.75 A: in the second they were being switched off one by one.
    expect(acted(night((s) => (s < -10 ? 8 : s < 0 ? 0.9 : 0)))).toBeTrue();
    expect(acted(night((s) => (s < -10 ? 8 : s < 0 ? 0.75 : 0)))).toBeFalse();
  });

  it('they draw in three samples at least before anything can be said of them', () => {
    const few = (samples: number): SpokenRow => {
      const offAt = 2 * h + 60;
      const made = madeLog(6 * h, 10, (s) => ({ volts: cut + 0.8 - (Math.min(s, 2 * h) / (2 * h)) * 0.8, amps: 0 }));
      return row(change(made, { loadAmps: column(made, (s) => (s < offAt && s >= offAt - 10 * samples ? 8 : 0)) }), 'loadDisconnect', 'monitor', timed);
    };
    expect(acted(few(3))).toBeTrue();
    expect(acted(few(2))).toBeFalse();
  });
});

describe('what counts as an equalise', () => {
  const p = plan(rookMoss());
  const level = 15.3;
  /** Held at the level on two days of 150, for so long each, in one piece or with a pause in it. */
  const held = (minutes: number, pauseHours = 0, volts = level): SpokenRow => {
    const made = madeLog(150 * 86_400, 600, (s) => {
      const [day, second] = [Math.floor(s / 86_400), s % 86_400];
      if (second < 5 * h || second > 21 * h) return { volts: 12.6, amps: 0, celsius: 25 };
      const half = (minutes * 60) / 2;
      const first = second >= 6 * h && second < 6 * h + half;
      const then = second >= 6 * h + half + pauseHours * h && second < 6 * h + 2 * half + pauseHours * h;
      return (day === 50 || day === 100) && (first || then) ? { volts, amps: 8, celsius: 25 } : { volts: 13.4, amps: 10, celsius: 25 };
    });
    return row({ ...made, log: { ...made.log, chargers: { mast: made.log.chargers['aft']! } } }, 'equaliseDue', undefined, p);
  };

  it('is 85 % of the time that the sheet asks', () => {
    const asked = held(240).requirement.heldSeconds!;
    expect(asked).toBe(2 * h);
    // 102 minutes of 120; a hundred are too few.
    expect(held(110).verdict).toBe('pass');
    expect(held(90).verdict).toBe('fail');
  });

  it('may be interrupted for six hours and no more', () => {
    expect(held(120, 5).verdict).toBe('pass');
    expect(held(120, 7).verdict).toBe('fail');
  });
});

describe('a BMS that opens', () => {
  const day = (at: (s: number) => Sample | null, hours = 4, step = 10): Made =>
    madeLog(hours * h, step, (s) => at(s) ?? { volts: 26.6 + s / 12_000, amps: 30, net: 26 + Math.sin(s / 300), celsius: 20 });
  const closed = (made: Made): SpokenRow => row(beside(made, 'fore', { amps: column(made, () => 0) }), 'noDisconnect');
  const open = (seconds: number, sample: Sample): SpokenRow => closed(day((s) => (s >= 7000 && s < 7000 + seconds ? sample : null)));
  const leap: Sample = { volts: 28.4, amps: 6, net: 0 };

  it('is one from twenty seconds on', () => {
    // Two samples are ten seconds, three are twenty.
    expect(open(30, leap).verdict).toBe('fail');
    expect(open(20, leap).verdict).toBe('pass');
  });

  it('leaps by a fiftieth of the bank’s volts, and only with something that pushes', () => {
    // So little goes in before that no direction can be told by it; a fiftieth of 25.6 V is 0.51 V.
    const from = (sample: Sample): SpokenRow =>
      closed(day((s) => (s >= 6000 && s < 7000 ? { volts: 27, amps: 6, net: 0.6 } : s >= 7000 && s < 7100 ? { ...leap, ...sample } : null)));
    expect(from({ ...leap, volts: 27.53 }).verdict).toBe('fail');
    expect(from({ ...leap, volts: 27.49 }).verdict).toBe('pass');
    expect(from({ ...leap, amps: 1.1 }).verdict).toBe('fail');
    expect(from({ ...leap, amps: 0.9 }).verdict).toBe('pass');
  });

  it('goes against the current that flowed, by four thousandths of them', () => {
    // Out of 26 A of charge up by 0.1 V of 25.6 V.
    const from = (by: number): SpokenRow =>
      closed(day((s) => (s >= 6000 && s < 7000 ? { volts: 27, amps: 30, net: 26 } : s >= 7000 && s < 7100 ? { volts: 27 + by, amps: 0.5, net: 0 } : null)));
    expect(from(0.12).verdict).toBe('fail');
    expect(from(0.09).verdict).toBe('pass');
    expect(from(-0.5).verdict).toBe('pass');
  });

  it('is told by its collapse under three quarters of them, with nothing that pushes', () => {
    expect(open(100, { volts: 19, amps: 0, net: 0 }).verdict).toBe('fail');
    expect(open(100, { volts: 19.4, amps: 0, net: 0 }).verdict).not.toBe('fail');
  });

  it('was put to the test by an hour of charging, and not by less', () => {
    const charging = (seconds: number): SpokenRow => closed(day((s) => (s > seconds ? { volts: 26.5, amps: 0, net: -4 } : null)));
    expect(charging(h + 10).verdict).toBe('pass');
    expect(charging(h - 20).verdict).toBe('notTested');
    // More than two amps are charging; the shunt is one that shows them.
    const trickle = (amps: number): SpokenRow => closed(day((s) => ({ volts: 26.6 + s / 12_000, amps, net: amps - 0.5 })));
    expect(trickle(2.5).verdict).toBe('pass');
    expect(trickle(1.9).verdict).toBe('notTested');
  });

  it('is looked for where the current is known for 98 % of the log', () => {
    const holed = (every: number): SpokenRow => {
      const made = day(() => null);
      return closed(change(made, { bankAmps: made.log.bankAmps!.map((a, i) => (i % every === 0 ? NaN : a)) }));
    };
    // One sample in a hundred lost is 1 %; one in 25 is 4 %.
    expect(holed(100).verdict).toBe('pass');
    expect(holed(25).verdict).toBe('inconclusive');
  });
});

describe('a machine that its limit holds back', () => {
  const limit = machineRow(
    () => 20,
    () => 0,
  ).requirement.band.max!;
  const down = (part: number) => (s: number) => (s < 5000 ? 90 : 90 * (1 - part));

  it('is within twelve degrees of it', () => {
    expect(machineRow(() => limit - 11, down(0.4)).verdict).toBe('pass');
    expect(machineRow(() => limit - 13, down(0.4)).verdict).toBe('notTested');
  });

  it('gives 15 % less than it had given', () => {
    expect(machineRow(() => limit - 6, down(0.16)).verdict).toBe('pass');
    expect(machineRow(() => limit - 6, down(0.14)).verdict).toBe('notTested');
  });

  it('is hot for five minutes meanwhile; what it gave on its way there counts', () => {
    const hotFor = (seconds: number): SpokenRow =>
      machineRow(
        (s) => (s >= 5000 - 10 && s < 5000 - 10 + seconds ? limit - 6 : limit - 30),
        (s) => (s < 5000 ? 90 : 50),
      );
    expect(hotFor(330).verdict).toBe('pass');
    expect(hotFor(290).verdict).toBe('notTested');
    // It came down in the very sample in which it was hot first.
    const onItsWay = machineRow(
      (s) => (s >= 5000 ? limit - 6 : limit - 30),
      (s) => (s < 5000 ? 90 : 50),
    );
    expect(onItsWay.verdict).toBe('pass');
    expect(onItsWay.witness).toMatch(/from 90.A to 50.A/);
  });
});

describe('charging that is too short to tell', () => {
  it('of an equalise: less than an hour of it', () => {
    const charging = (seconds: number): SpokenRow => {
      const made = madeLog(2 * h, 10, (s) => (s < seconds ? { volts: 28.1, amps: 20 } : { volts: 26.4, amps: 0 }));
      return row(made, 'noEqualise', 'aft');
    };
    expect(charging(h + 20).verdict).not.toBe('notTested');
    expect(charging(h - 20).why).toContain('charged for only');
    // Setpoints that do not move with temperature need none in the log.
    const { batteryC: _none, ...cool } = madeLog(2 * h, 10, () => ({ volts: 28.1, amps: 20 })).log;
    expect(row({ ...madeLog(2 * h, 10, () => ({ volts: 28.1, amps: 20 })), log: cool }, 'noEqualise', 'aft').verdict).toBe('pass');
  });

  it('of an absorb: no current of that charger in the log', () => {
    const made = madeLog(2 * h, 10, () => ({ volts: 28.1, amps: 20 }));
    const permitted = plan(withFigure(teasel(), 'absorbTime', { max: 5400 }));
    const { amps: _gone, ...without } = made.log.chargers['aft']!;
    const found = row(aft({ ...made, log: { ...made.log, chargers: {} } }, without), 'longestAbsorb', 'aft', permitted);
    expect([found.verdict, found.why]).toEqual(['notTested', jasmine.stringContaining('no current of')]);
  });
});

describe('a slope that has a name', () => {
  it('is one where none is specified from half a millivolt on', () => {
    expect(slopeRatio(0.49, 0, 6, 1)).toBeNull();
    expect(slopeRatio(0.52, 0, 6, 1)).toMatch(/compensation was left on/);
    expect(slopeRatio(-0.52, 0.1, 6, 1)).toMatch(/compensation was left on/);
  });
});

describe('loads that stay on below their disconnect', () => {
  it('are told with how much they drew', () => {
    const cut = whole.setting('monitor', 'loadDisconnect')!.trueValue!;
    const made = madeLog(6 * h, 10, (s) => ({ volts: cut + 0.8 - Math.min(s / (2 * h), 1.5), amps: 0 }));
    const r = row(change(made, { loadAmps: column(made, (s) => (s > 4 * h ? 12 : 8)) }), 'loadDisconnect', 'monitor', withLoadDelay(60));
    expect(r.verdict).toBe('fail');
    expect(r.why.replace(/\u00a0/g, ' ')).toContain('12.0 A');
  });
});

describe('current for its temperature', () => {
  it('is open where the sensor’s error reaches a temperature at which less is allowed', () => {
    // 23 A below 5 °C, 92 A up to 12 °C; the probe of the log is good to a degree or so.
    const at = (celsius: number): SpokenRow =>
      row(
        madeLog(4 * h, 10, () => ({ volts: 27, amps: 60, net: 60, celsius })),
        'currentForTemperature',
      );
    expect(at(9).verdict).toBe('pass');
    expect(at(5.2).verdict).toBe('inconclusive');
    expect(at(2).verdict).toBe('fail');
    // Colder than the stair by less than that error: it may have been warmer.
    expect(at(4.8).verdict).toBe('inconclusive');
  });
});
