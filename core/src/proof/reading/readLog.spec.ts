import { demoLog, readCsv, splitRows } from '../../testing/logs';
import { seeded } from '../../testing/fixtures';
import { formatClock, isoWithOffset } from '../../quantity';
import { createLogReader, decimate, guessMapping, sniffLog, writeLog } from '../index';
import { allRounds } from '../../testing/rounds';

const head = 'time,bank_V,bank_A,battery_degC,fore_A,fore_array_V,fore_stage\n';
const refusal = (text: string): string => {
  const read = readCsv(text, ['fore']);
  return read.ok ? '' : (read.problems[0]?.text ?? '');
};

describe('reading a standard log', () => {
  it('keeps every column, the log’s own clock, and gaps as gaps', () => {
    const read = readCsv(
      `${head}2026-06-14T05:00:00+01:00,26.51,-2.1,9.7,0.0,3,off\n2026-06-14T05:00:10+01:00,26.52,,9.8,0.5,60,bulk\n2026-06-14T05:00:20+01:00,26.52,1,9.8,0.5,60,bulk\n2026-06-14T06:00:20+01:00,26.6,1,9.8,0.5,60,bulk\n`,
      ['fore'],
    );
    expect(read.ok).toBeTrue();
    if (!read.ok) return;
    const { log, report } = read.value;
    expect(log.time[0]).toBe(Date.parse('2026-06-14T04:00:00Z') / 1000);
    expect(log.offsetMinutes).toBe(60);
    expect(log.bankAmps?.[1]).toBeNaN();
    expect(log.chargers['fore']?.stage?.[1]).toBe(2);
    expect(report.intervalSeconds).toBe(10);
    expect(report.gaps.length).toBe(1);
    expect(report.notes.join(' ')).toContain('1 gap');
  });

  it('reads millivolts, epoch seconds and milliseconds, and times without a zone', () => {
    const read = readCsv('time,bank_mV\n1781400000,26500\n1781400010000,26510\n', []);
    expect(read.ok && [read.value.log.bankVolts[0], read.value.log.time[1]]).toEqual([26.5, 1781400010]);
    const local = readCsv('time,bank_V\n2026-06-14 05:00,26.5\n2026-06-14 05:01,26.5\n', []);
    expect(local.ok && local.value.log.offsetMinutes).toBeNull();
    expect(local.ok && local.value.report.notes.join(' ')).toContain('no zone');
  });

  it('keeps the temperature of a machine apart from the battery’s, by the charger it belongs to', () => {
    const read = readCsv(
      'time,bank_V,battery_probe_degC,alternator_A,alternator_machine_degC\n2026-06-14T05:00:00Z,26.5,12,40,61\n2026-06-14T05:00:10Z,26.5,12,40,62\n',
      ['alternator', 'fore'],
    );
    if (!read.ok) return fail(read.problems[0]?.text);
    expect(read.value.log.chargers['alternator']?.machineC?.[1]).toBe(62);
    expect(read.value.log.batteryC?.[1]).toBe(12);
    expect(writeLog(read.value.log).split('\n')[0]).toBe('time,bank_V,battery_probe_degC,alternator_A,alternator_machine_degC');
    const fahrenheit = readCsv('time,bank_V,alternator temp (°F)\n2026-06-14T05:00:00Z,26.5,212\n2026-06-14T05:00:10Z,26.5,212\n', ['alternator']);
    expect(fahrenheit.ok && fahrenheit.value.log.chargers['alternator']?.machineC?.[0]).toBeCloseTo(100, 4);
    expect(fahrenheit.ok && fahrenheit.value.log.batteryC).toBeUndefined();
  });

  it('says whose volts stand for the bank’s where nobody measured those apart', () => {
    const own = readCsv('time,fore_V,fore_A\n2026-06-14T05:00:00Z,26.5,4\n2026-06-14T05:00:10Z,26.5,4\n', ['fore', 'aft']);
    expect(own.ok && own.value.log.bankVoltsBy).toBe('chargers');
    const bank = readCsv('time,bank_V,fore_V,fore_A\n2026-06-14T05:00:00Z,26.5,26.5,4\n2026-06-14T05:00:10Z,26.5,26.5,4\n', ['fore', 'aft']);
    expect(bank.ok && bank.value.log.bankVoltsBy).toBeUndefined();
  });

  it('lists what it cannot read by line and keeps the rest', () => {
    const read = readCsv(
      `${head}2026-06-14T05:00:00Z,26.5,,,,,\nyesterday,26.5,,,,,\n,26.5,,,,,\n2026-06-14T05:00:10Z,high,,,,,\n2026-06-14T05:00:20Z,26.5\n2026-06-14T05:00:00Z,26.5,,,,,\n2026-06-14T04:00:00Z,26.5,,,,,\n2026-06-14T05:00:30Z,26.6,x,,,,\n2026-06-14T05:00:40Z,26.6,,,,,\n`,
      ['fore'],
    );
    expect(read.ok).toBeTrue();
    if (!read.ok) return;
    expect(read.value.report.rows).toBe(2);
    expect(read.value.report.skipped).toBe(7);
    expect(read.value.report.firstSkipped.map((s) => s.line)).toEqual([3, 4, 5, 6, 7, 8, 9]);
    expect(read.value.report.firstSkipped[1]?.why).toBe('has no time');
    expect(read.value.report.firstSkipped[5]?.why).toContain('back in time');
  });

  it('refuses what is no such log, with a sentence that says how to mend it', () => {
    expect(refusal('2026-06-14T05:00:00Z,1,1\n2026-06-14T05:00:10Z,1,1\n')).toContain('battery voltage');
    expect(refusal('when,volts\n1,2\n3,4\n')).toContain('No sample could be read. Line 2 time “1” cannot be read.');
    expect(refusal('a,b\n1,2\n')).toContain('No column is the time');
    expect(refusal('hello\nworld\n')).toContain('neither commas, semicolons, tabs nor bars');
    expect(refusal('time,bank_V\n')).toContain('No sample');
    expect(refusal('time,bank_V\n2026-06-14T05:00:00Z,26.5\n')).toContain('Only one sample');
    expect(refusal('{"a":1}\n{"b":2}\n')).toContain('No column is the time');
  });

  it('names columns of chargers the job has not, as text', () => {
    const read = readCsv('time,bank_V,<b>x</b>_A\n2026-06-14T05:00:00Z,26.5,1\n2026-06-14T05:00:10Z,26.5,1\n', ['fore']);
    expect(read.ok && read.value.report.notes[0]).toContain('“<b>x</b>_A”');
    expect(read.ok && Object.keys(read.value.log.chargers)).toEqual([]);
  });

  it('stops at the row limit instead of filling the memory', () => {
    const guess = guessMapping('time,bank_V\n1700000000,26.5\n1700000001,26.5\n', splitRows, { chargers: [], nominalVolts: 25.6 });
    if (!guess.ok) throw new Error('no mapping');
    // The limit itself takes seconds to reach: it is met under `npm test -- --all`.
    const most = allRounds ? 3_000_000 : 3000;
    const reader = allRounds ? createLogReader(guess.value.mapping) : createLogReader(guess.value.mapping, most);
    reader.take([['time', 'bank_V']]);
    let problem: { text: string } | null = null;
    let n = 0;
    for (; problem === null && n < most + 100; n++) problem = reader.take([[String(1_700_000_000 + n), '26.5']]);
    expect(problem?.text).toContain(`more than ${most.toLocaleString('en')} rows`);
    expect(n).toBe(most + 1);
  });
});

describe('a first look at a file', () => {
  it('tells text from what is none', () => {
    expect(sniffLog('', true)?.code).toBe('log-empty');
    expect(sniffLog('  \n ', true)?.code).toBe('log-empty');
    expect(sniffLog('PK\u0003\u0004\u0000\u0000\u0000\u0000\u0000\u0000', true)?.code).toBe('log-binary');
    expect(sniffLog('a'.repeat(65_536), false)?.code).toBe('log-no-lines');
    expect(sniffLog('{"format":"calm-keel/job"}', true)?.code).toBe('log-json');
    expect(sniffLog(head, true)).toBeNull();
    expect(sniffLog('time,bank_V,Größe °C\n', true)).toBeNull();
  });
});

describe('writing a log', () => {
  it('comes back with the same numbers', () => {
    const { log } = demoLog('teasel-clean-day');
    const again = readCsv(writeLog(log), ['fore', 'aft']);
    expect(again.ok && again.value.log).toEqual(log);
  });

  it('keeps missing samples missing and odd numbers exact', () => {
    const random = seeded(31);
    const n = 200;
    const log = {
      time: Float64Array.from({ length: n }, (_, i) => 1_781_400_000 + i * 0.5),
      offsetMinutes: -210,
      bankVolts: Float32Array.from({ length: n }, () => 20 + random() * 10),
      bankAmps: Float32Array.from({ length: n }, () => (random() < 0.2 ? NaN : random() * 100 - 50)),
      chargers: {},
    };
    const again = readCsv(writeLog(log), []);
    expect(again.ok && again.value.log).toEqual(log);
  });

  it('shows times on the log’s own clock', () => {
    const at = Date.parse('2026-06-14T04:30:00Z') / 1000;
    expect(formatClock(at, 60)).toBe('05:30');
    expect(isoWithOffset(at, 60)).toBe('2026-06-14T05:30:00+01:00');
    expect(isoWithOffset(at, -210)).toBe('2026-06-14T01:00:00-03:30');
    expect(isoWithOffset(at, null)).toBe('2026-06-14T04:30:00');
  });
});

describe('thinning a trace', () => {
  it('keeps the least and the greatest sample, whatever the bucket', () => {
    const random = seeded(41);
    for (const n of [10, 999, 50_000]) {
      const time = Float64Array.from({ length: n }, (_, i) => i);
      const values = Float32Array.from({ length: n }, () => random());
      const spike = Math.floor(random() * n);
      values[spike] = 9;
      const thin = decimate(time, values, 500, 5);
      expect(Math.max(...thin.value)).toBe(9);
      expect(Math.min(...thin.value)).toBe(Math.min(...values));
      expect(thin.time.length).toBeLessThanOrEqual(Math.max(n, 510));
      expect(thin.time).toEqual([...thin.time].sort((a, b) => a - b));
    }
  });

  it('breaks the line over a gap', () => {
    const thin = decimate(Float64Array.from([0, 1, 2, 100, 101]), Float32Array.from([1, 1, 1, 1, 1]), 1000, 5);
    expect(thin.value).toEqual([1, 1, 1, NaN, 1, 1]);
  });

  it('draws nothing across a gap, however many samples are one point', () => {
    const time = Float64Array.from({ length: 100 }, (_, i) => (i < 45 ? i : i + 500));
    const thin = decimate(time, Float64Array.from(time, (t) => t % 10) as unknown as Float32Array, 20, 5);
    const at = thin.value.findIndex((v) => Number.isNaN(v));
    expect([thin.time[at - 1], thin.time[at], thin.time[at + 1]]).toEqual([44, 45, 549]);
  });

  it('finds the least and the greatest where a value is missing at the head of a bucket', () => {
    const time = Float64Array.from({ length: 40 }, (_, i) => i);
    // Every bucket of ten begins with a value that is missing.
    const values = Float32Array.from(time, (t) => (t % 10 === 0 ? NaN : t));
    const thin = decimate(time, values, 8, 5);
    expect(thin.value).toEqual([1, 9, 11, 19, 21, 29, 31, 39]);
    expect(thin.time).toEqual(thin.value);
  });

  it('breaks the line where a whole bucket is missing', () => {
    const time = Float64Array.from({ length: 30 }, (_, i) => i);
    const thin = decimate(
      time,
      Float32Array.from(time, (t) => (t >= 10 && t < 20 ? NaN : t)),
      6,
      5,
    );
    expect(thin.value).toEqual([0, 9, NaN, 20, 29]);
  });

  it('draws a stretch by its own samples, and one beyond at either end', () => {
    const time = Float64Array.from({ length: 1000 }, (_, i) => 10 * i);
    const values = Float32Array.from(time, (_, i) => i);
    const stretch = decimate(time, values, 200, 15, { from: 4995, to: 5041 });
    expect(stretch.value).toEqual([499, 500, 501, 502, 503, 504, 505]);
    expect(stretch.time).toEqual([4990, 5000, 5010, 5020, 5030, 5040, 5050]);
    // Whole, the same points are ten samples to each.
    expect(decimate(time, values, 200, 15).time.length).toBe(200);
    expect(decimate(time, values, 200, 15, { from: -5, to: 15 }).value).toEqual([0, 1, 2]);
    expect(decimate(time, values, 200, 15, { from: 9985, to: 99_999 }).value).toEqual([998, 999]);
  });
});
