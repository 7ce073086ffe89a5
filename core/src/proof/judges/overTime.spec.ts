import { plan, rookMoss, teasel, withFigure } from '../../testing/fixtures';
import { aft, change, column, machineRow, type Made, row, wholeLaunch as whole, withLoadDelay } from '../../testing/judged';
import { madeLog, type Sample } from '../../testing/logs';
import type { SpokenRow } from '../index';

const h = 3600;

describe('absorb no longer than permitted', () => {
  const permitted = (minutes: number) => plan(withFigure(teasel(), 'absorbTime', { max: minutes * 60 }));
  /** Bulk to 1 h, absorb for so many minutes, then float. */
  const day =
    (minutes: number, after: Sample = { volts: 26.9, amps: 3 }, level = 28.1) =>
    (s: number): Sample => {
      if (s < h) return { volts: 26.4 + (s / h) * 1.3, amps: 40 };
      if (s < h + minutes * 60) return { volts: level, amps: 6 + 30 * Math.exp(-(s - h) / 1500) };
      return s < h + minutes * 60 + 120 ? { volts: 27.3, amps: 0 } : after;
    };
  const judge = (made: Made, minutes = 60): SpokenRow => row(made, 'longestAbsorb', 'aft', permitted(minutes));

  it('is asked only where the sheet gives a longest time', () => {
    const made = madeLog(4 * h, 10, day(40));
    expect(row(made, 'longestAbsorb', 'aft')).toBeUndefined();
    expect(judge(made).requirement.band).toEqual({ max: 3600 });
  });

  it('is proved by an absorb that ended by itself in time, and fails by one that did not end', () => {
    const short = judge(madeLog(4 * h, 10, day(40)));
    expect(short.verdict).toBe('pass');
    expect(short.witness).toContain('ended absorb by itself once');
    expect((short.measured ?? 0) / 60).toBeCloseTo(40, 0);
    expect(judge(madeLog(4 * h, 10, day(75))).verdict).toBe('fail');
    expect(judge(madeLog(4 * h, 10, day(60))).verdict).toBe('inconclusive');
  });

  it('is not proved by an evening, nor by a log that ends in it', () => {
    expect(judge(madeLog(2 * h, 10, day(40, { volts: 26.4, amps: 0, array: 0 }))).verdict).not.toBe('pass');
    expect(judge(madeLog(1.5 * h, 10, day(40))).why).toContain('never seen to end by itself');
  });

  it('is judged by the longest of several, with its date', () => {
    const made = madeLog(28 * h, 10, (s) => (s < 24 * h ? day(40, s > 6 * h ? { volts: 26.4, amps: 0, array: 0 } : undefined)(s) : day(80)(s - 24 * h)));
    const found = judge(made);
    expect(found.verdict).toBe('fail');
    expect(found.why).toMatch(/on \d+ Jun, the longest of 2 times/);
  });

  it('is left open where a gap could hold the rest', () => {
    const made = madeLog(4 * h, 10, day(55));
    const keep = [...made.log.time.keys()].filter((i) => i < 420 || i > 470);
    const take = (of: Float32Array | undefined): Float32Array => Float32Array.from(keep, (i) => of?.[i] ?? NaN);
    const own = made.log.chargers['aft'];
    const gappy: Made = {
      report: { ...made.report, gaps: [{ from: made.log.time[419]!, to: made.log.time[471]! }] },
      log: {
        ...made.log,
        time: Float64Array.from(keep, (i) => made.log.time[i] ?? 0),
        bankVolts: take(made.log.bankVolts),
        bankAmps: take(made.log.bankAmps),
        batteryC: take(made.log.batteryC),
        chargers: { aft: { amps: take(own?.amps), arrayVolts: take(own?.arrayVolts) } },
      },
    };
    expect(judge(gappy, 50).verdict).toBe('inconclusive');
    expect(judge(gappy, 50).why).toContain('gap');
    expect(judge(gappy, 90).verdict).toBe('pass');
  });
});

describe('equalise on schedule', () => {
  const job = rookMoss();
  const p = plan(job);
  const days = (count: number, on: readonly number[], hours = 2, volts = 15.3): Made => {
    const made = madeLog(count * 86_400, 600, (s) => {
      const [day, second] = [Math.floor(s / 86_400), s % 86_400];
      if (second < 8 * h || second > 18 * h) return { volts: 12.6, amps: 0, celsius: 25 };
      const from = 12 * h;
      return second >= from && second < from + hours * h && on.includes(day) ? { volts, amps: 8, celsius: 25 } : { volts: 13.4, amps: 10, celsius: 25 };
    });
    return { ...made, log: { ...made.log, chargers: { mast: made.log.chargers['aft']! } } };
  };
  const judge = (made: Made): SpokenRow => row(made, 'equaliseDue', undefined, p);

  it('is proved by two of them in time, and says how many it saw', () => {
    const found = judge(days(200, [40, 120]));
    expect(found.requirement.band).toEqual({ max: 90 });
    expect(found.verdict).toBe('pass');
    expect(found.witness).toContain('2 times');
    expect(found.measured).toBeCloseTo(80, 0);
  });

  it('fails over a time without, between two of them or up to the end', () => {
    expect(judge(days(200, [20, 140])).verdict).toBe('fail');
    expect(judge(days(130, [10])).verdict).toBe('fail');
    expect(judge(days(110, [])).why).toContain('No equalise in');
    expect(judge(days(110, [])).verdict).toBe('fail');
  });

  it('is open within the week that a due one may wait for a sunny day', () => {
    expect(judge(days(190, [5, 100, 150])).verdict).toBe('inconclusive');
  });

  it('is not tested by a log that is shorter than its interval, with one of them or none', () => {
    expect(judge(days(60, [])).verdict).toBe('notTested');
    expect(judge(days(100, [50])).verdict).toBe('notTested');
  });

  it('counts none that is too short, too low, or held by nobody', () => {
    expect(judge(days(130, [40, 90], 1)).verdict).toBe('fail');
    expect(judge(days(130, [40, 90], 2, 14.8)).verdict).toBe('fail');
    expect(judge(days(130, [40, 90], 2)).verdict).toBe('pass');
    const idle = days(130, [40, 90]);
    expect(judge({ ...idle, log: { ...idle.log, chargers: { mast: { amps: column(idle, () => 0) } } } }).verdict).toBe('fail');
    expect(judge({ ...idle, log: { ...idle.log, chargers: {} } }).verdict).toBe('notTested');
  });

  it('takes its level where the battery’s temperature puts it', () => {
    // 15.0 V and up at 25 °C is 15.48 V at 5 °C.
    const cold = days(130, [40, 90], 2, 15.3);
    expect(judge(change(cold, { batteryC: column(cold, () => 5) })).verdict).toBe('fail');
  });

  it('does not fail over gaps that could hold one', () => {
    const made = days(110, []);
    const [from = 0] = made.log.time;
    expect(judge({ ...made, report: { ...made.report, gaps: [{ from: from + 40 * 86_400, to: from + 40 * 86_400 + 3 * h }] } }).verdict).toBe('inconclusive');
    expect(judge({ ...made, report: { ...made.report, gaps: [{ from: from + 40 * 86_400, to: from + 40 * 86_400 + h }] } }).verdict).toBe('fail');
  });
});

describe('a load disconnect', () => {
  const cut = whole.setting('monitor', 'loadDisconnect')!.trueValue!;
  const back = whole.setting('monitor', 'loadReconnect')!.trueValue!;
  const delay = 60;
  const timed = withLoadDelay(delay);
  /** The bank sinks for four hours under 8 A, is cut off at `offV` after the delay, and comes up from the sixth hour on; the loads come back at `onV`. */
  const night = (offV: number, onV = back + 0.02, step = 10, wait = delay): Made => {
    const down = (s: number): number => cut + 0.8 - (s / (4 * h)) * 1.6;
    const up = (s: number): number => back - 1 + ((s - 6 * h) / (3 * h)) * 1.5;
    const offAt = ((cut + 0.8 - offV) / 1.6) * 4 * h + wait;
    const onAt = 6 * h + ((onV - back + 1) / 1.5) * 3 * h + wait;
    const made = madeLog(9 * h, step, (s) => ({ volts: s < 4 * h ? down(s) : s < 6 * h ? back - 1 : up(s), amps: 0 }));
    return change(made, { loadAmps: column(made, (s) => (s < offAt || s > onAt ? 8 : 0)) });
  };
  const off = (made: Made, of = timed): SpokenRow => row(made, 'loadDisconnect', 'monitor', of);
  const on = (made: Made, of = timed): SpokenRow => row(made, 'loadReconnect', 'monitor', of);

  it('has a band and a delay to be held against, where one is known', () => {
    expect(off(night(cut)).requirement.delaySeconds).toBe(delay);
    expect(off(night(cut), whole).requirement.delaySeconds).toBeUndefined();
    expect(off(night(cut)).requirement.seenBy).toContain('log');
  });

  it('is proved where the loads went off at once with the bank there for its delay', () => {
    const found = off(night(cut));
    expect(found.verdict).toBe('pass');
    expect(found.measured ?? 0).toBeCloseTo(cut, 1);
    expect(found.witness).toMatch(/from 8.0.A to 0.0.A at once/);
    // The same cut with another delay was another voltage: 20 min are 0.13 V here.
    const late = off(night(cut - 0.2, undefined, 10, delay));
    expect(late.verdict).toBe('fail');
  });

  it('is open where nobody knows its delay and the bank sank too fast to tell', () => {
    const found = off(night(cut), whole);
    expect(found.verdict).toBe('inconclusive');
    expect(found.budget.map((l) => l.name).join()).toContain('nobody knows its delay');
  });

  it('fails where the loads went on drawing below it for longer than its delay', () => {
    const made = night(cut - 5);
    const on8 = change(made, { loadAmps: column(made, () => 8) });
    const found = off(on8);
    expect(found.verdict).toBe('fail');
    expect(found.why).toContain('were not cut off');
    const dip = (seconds: number): Made => {
      const plain = madeLog(2 * h, 10, (s) => ({ volts: s > h && s <= h + seconds ? cut - 0.5 : cut + 0.6, amps: 0 }));
      return change(plain, { loadAmps: column(plain, () => 8) });
    };
    // Below it for no longer than the delay and two samples is no fault.
    expect(off(dip(delay + 20)).verdict).toBe('notTested');
    expect(off(dip(delay + 50)).verdict).toBe('fail');
    // Nor is a bank that stands without loads.
    expect(off(change(made, { loadAmps: column(made, () => 0) })).verdict).toBe('notTested');
  });

  it('takes what goes off with the bank far above it for somebody’s hand', () => {
    const made = madeLog(6 * h, 10, () => ({ volts: cut + 1.5, amps: 0 }));
    const by = off(change(made, { loadAmps: column(made, (s) => (s < h ? 8 : 0)) }));
    expect(by.verdict).toBe('notTested');
    expect(by.why).toContain('somebody may have switched them off');
  });

  it('is never told wrongly from samples that lie far apart: they widen where it may have acted', () => {
    for (const step of [60, 300, 900, 1800]) {
      expect(off(night(cut, undefined, step)).verdict)
        .withContext(`off every ${step} s`)
        .not.toBe('fail');
      expect(on(night(cut, undefined, step)).verdict)
        .withContext(`on every ${step} s`)
        .not.toBe('fail');
      expect(off(night(cut - 0.12, undefined, step)).verdict)
        .withContext(`late off every ${step} s`)
        .not.toBe('pass');
      expect(on(night(cut, back - 0.3, step)).verdict)
        .withContext(`early on every ${step} s`)
        .not.toBe('pass');
    }
  });

  it('reconnects where the bank has come back for its delay, and not far below it', () => {
    expect(on(night(cut)).verdict).toBe('pass');
    expect(on(night(cut, back - 0.3)).verdict).toBe('fail');
    expect(on(night(cut, back + 9)).verdict).toBe('notTested');
  });

  it('needs the current of the loads', () => {
    const made = madeLog(h, 10, () => ({ volts: 26, amps: 0 }));
    expect(off(made).why).toContain('no current of the loads');
  });
});

describe('the temperature of a machine', () => {
  const limit = machineRow(
    () => 20,
    () => 0,
  ).requirement.band.max!;

  it('is proved where the limit held it back, fails above it, and is not tested by a cool machine or one that nothing held', () => {
    const heats = (top: number) => (s: number) => Math.min(top, 20 + s / 60);
    const cutBack = (s: number): number => (s < 5000 ? 90 : Math.max(50, 90 - (s - 5000) / 30));
    const held = machineRow(heats(limit - 4), cutBack);
    expect(held.verdict).toBe('pass');
    expect(held.witness).toMatch(/its current had come down from 90.A to/);
    expect(machineRow(heats(limit + 6), cutBack).verdict).toBe('fail');
    expect(machineRow(heats(limit - 40), cutBack).verdict).toBe('notTested');
    expect(machineRow(heats(limit - 40), cutBack).why).toContain('never came near');
    expect(machineRow(heats(limit - 4), () => 90).verdict).toBe('notTested');
    expect(machineRow(heats(limit - 4), () => 90).why).toContain('did not come down');
    expect(machineRow(heats(limit), cutBack).verdict).toBe('inconclusive');
  });

  it('counts no moment shorter than its dwell', () => {
    expect(
      machineRow(
        (s) => (s === 5000 ? limit + 30 : 60),
        () => 90,
      ).verdict,
    ).toBe('notTested');
    expect(
      machineRow(
        (s) => (s >= 5000 && s <= 5070 ? limit + 30 : 60),
        () => 90,
      ).verdict,
    ).toBe('fail');
  });

  it('needs a column of its own', () => {
    expect(
      row(
        madeLog(h, 10, () => ({ volts: 26, amps: 0 })),
        'machineTemperature',
        'alternator',
        whole,
      ).why,
    ).toContain('no temperature of the machine');
  });
});

describe('a display beside the bank', () => {
  const solar = plan(teasel());
  const compare = (own: (volts: number, s: number) => number, more: (made: Made) => Made = (made) => made): SpokenRow => {
    const made = madeLog(6 * h, 10, (s) => (s < 2 * h ? { volts: 25.6 + s / (4 * h), amps: 0 } : { volts: 27.5, amps: 40 }));
    const volts = Float32Array.from(made.log.bankVolts, (v, i) => own(v, i * 10));
    return row(more(aft(made, { volts })), 'displayAgrees', 'aft', solar);
  };
  const step = compare((v) => v).requirement.band.max!;

  it('agrees over the hours without current, whatever its cable drops under it', () => {
    const found = compare((v, s) => v + (s < 2 * h ? 0 : 0.6));
    expect(found.verdict).toBe('pass');
    expect(found.witness).toContain('followed the bank');
    expect(found.measured).toBeCloseTo(0, 3);
  });

  it('fails by more than its step and the instrument’s error, either way, and is open between', () => {
    expect(compare((v) => v + step + 0.3).verdict).toBe('fail');
    expect(compare((v) => v - step - 0.3).verdict).toBe('fail');
    expect(compare((v) => v + step).verdict).toBe('inconclusive');
  });

  it('is not proved by a display that stands still with the bank, nor by a log without another instrument', () => {
    const flat = compare(
      (v) => v,
      (made) => {
        const at = column(made, () => 26.4);
        return aft(change(made, { bankVolts: at }), { volts: at });
      },
    );
    expect(flat.verdict).toBe('inconclusive');
    expect(
      compare(
        (v) => v,
        (made) => change(made, { bankVoltsBy: 'chargers' }),
      ).verdict,
    ).toBe('notTested');
    expect(
      compare(
        (v) => v,
        (made) => aft(made, { amps: column(made, () => 5) }),
      ).verdict,
    ).toBe('notTested');
  });
});
