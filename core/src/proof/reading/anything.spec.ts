import { readCsv, splitRows } from '../../testing/logs';
import { seeded } from '../../testing/fixtures';
import { fitted, guessMapping, makeClock, mergeLogs, readNumber } from './index';
import type { Log, LogReport } from '../log';
import { stages } from '../../charger';

const read = (text: string, options: Parameters<typeof readCsv>[2] = {}, chargers: readonly string[] = ['fore', 'aft']): { log: Log; report: LogReport } => {
  const result = readCsv(text, chargers, options);
  if (!result.ok) throw new Error(result.problems.map((p) => p.text).join(' '));
  return result.value;
};
const names = { fore: 'Solar fore', aft: 'Solar aft' };
const at = (iso: string): number => Date.parse(iso) / 1000;

describe('logs from anything', () => {
  it('semicolons, decimal comma, day first, units in brackets', () => {
    const { log } = read('Datum Uhrzeit;Batteriespannung [mV];Strom [mA]\n14.06.2026 05:00:00;26510,0;-2100\n14.06.2026 05:00:10;26520,5;1500\n');
    expect(log.time[0]).toBe(at('2026-06-14T05:00:00Z'));
    expect([...log.bankVolts].map((v) => Number(v.toFixed(4)))).toEqual([26.51, 26.5205]);
    expect([...(log.bankAmps ?? [])].map((v) => Number(v.toFixed(3)))).toEqual([-2.1, 1.5]);
  });

  it('tabs, lines above the header, date and time apart, °F, twelve-hour clock', () => {
    const { log } = read(
      'Export of a logger\nSerial\t12\n\nDate\tTime\tBattery voltage (V)\tBattery temp (°F)\n6/13/2026\t11:59:50 PM\t26.5\t50\n6/14/2026\t12:00:00 AM\t26.6\t59\n',
    );
    expect(log.time[1]! - log.time[0]!).toBe(10);
    expect(log.time[1]).toBe(at('2026-06-14T00:00:00Z'));
    expect(log.batteryC?.[0]).toBeCloseTo(10, 4);
    expect(log.batteryC?.[1]).toBeCloseTo(15, 4);
  });

  it('several chargers in columns, by name and by id, with their stages in words', () => {
    const { log } = read(
      'time,Bank volts,Solar fore current (A),aft_A,Solar fore state,aft_stage\n2026-06-14T05:00:00Z,26.5,3,4,Bulk,Absorption\n2026-06-14T05:01:00Z,26.6,3,4,Float charge,weird\n',
      { names },
    );
    expect(log.chargers['fore']?.amps?.[0]).toBe(3);
    expect(log.chargers['aft']?.amps?.[0]).toBe(4);
    expect(stages[log.chargers['fore']?.stage?.[1] ?? 0]).toBe('float');
    expect(stages[log.chargers['aft']?.stage?.[0] ?? 0]).toBe('absorb');
    expect(log.chargers['aft']?.stage?.[1]).withContext('a word that stands for nothing is not told').toBe(255);
  });

  it('several chargers in rows: each on its own line, a few seconds apart', () => {
    const lines = ['time,device,voltage,current'];
    for (let i = 0; i < 6; i++)
      lines.push(
        `2026-06-14T05:0${i}:00Z,Solar fore,26.${i},${i}`,
        `2026-06-14T05:0${i}:03Z,Solar aft,26.${i},${10 + i}`,
        `2026-06-14T05:0${i}:05Z,kettle,1,1`,
      );
    const { log, report } = read(`${lines.join('\n')}\n`, { names });
    expect(log.time.length).toBe(6);
    expect([...(log.chargers['fore']?.amps ?? [])]).toEqual([0, 1, 2, 3, 4, 5]);
    // The other one's newest sample, at most one and a half intervals old.
    expect([...(log.chargers['aft']?.amps ?? [])]).toEqual([NaN, 10, 11, 12, 13, 14]);
    expect(log.bankVolts[3]).toBeCloseTo(26.25, 4);
    expect(report.skipped).toBe(6);
    expect(report.notes.join(' ')).toContain('“kettle”');
  });

  it('one JSON object a line, nested too', () => {
    const { log, report } = read(
      '{"time":1781400000,"battery":{"voltage":26.5,"current":-2},"fore":{"amps":3}}\n{"time":1781400010,"battery":{"voltage":26.6,"current":1},"fore":{"amps":4}}\nbroken\n{"time":1781400020,"battery":{"voltage":26.6}}\n',
    );
    expect([...log.time]).toEqual([1781400000, 1781400010, 1781400020]);
    expect(log.bankAmps?.[1]).toBe(1);
    expect(log.chargers['fore']?.amps?.[2]).toBeNaN();
    expect(report.firstSkipped.map((s) => s.line)).toEqual([3]);
  });

  it('newest first, and discharge counted as positive', () => {
    const { log } = read('time,bank_V,discharge current (A)\n2026-06-14T05:00:20Z,26.7,3\n2026-06-14T05:00:10Z,26.6,2\n2026-06-14T05:00:00Z,26.5,-1\n');
    expect([...log.time]).toEqual([0, 10, 20].map((s) => at('2026-06-14T05:00:00Z') + s));
    expect([...(log.bankAmps ?? [])]).toEqual([1, -2, -3]);
  });

  it('a bank current that runs against the chargers is called reversed', () => {
    const rows = Array.from({ length: 60 }, (_, i) => `${1781400000 + i * 10},26.5,${-(i % 20)},${i % 20}`);
    expect(read(`time,bank_V,bank_A,fore_A\n${rows.join('\n')}\n`).report.notes.join(' ')).toContain('looks reversed');
    expect(
      read(`time,bank_V,bank_A,fore_A\n${rows.join('\n')}\n`, {
        mapping: (m) => ({ ...m, columns: m.columns.map((c) => (c.meaning === 'bankAmps' ? { ...c, negated: true } : c)) }),
      }).report.notes.join(' '),
    ).not.toContain('looks reversed');
  });

  it('half volts are called in doubt, not read as if nothing were wrong', () => {
    const guess = guessMapping('time,bank_V\n1781400000,13.2\n1781400010,13.3\n1781400020,13.3\n', splitRows, { chargers: [], nominalVolts: 25.6 });
    expect(guess.ok && guess.value.doubts.join(' ')).toContain('13.3 V, and this bank has 25.6 V');
  });

  it('a date that can be read two ways is a doubt, one that cannot is none', () => {
    const doubts = (a: string, b: string): string => {
      const g = guessMapping(`time,bank_V\n${a},26.5\n${b},26.5\n${b},26.5\n`, splitRows, { chargers: [], nominalVolts: 25.6 });
      return g.ok ? `${g.value.mapping.dateOrder} ${g.value.doubts.join(' ')}` : '';
    };
    expect(doubts('05/06/2026 10:00', '05/06/2026 10:10')).toContain('two ways');
    expect(doubts('13/06/2026 10:00', '13/06/2026 10:10')).toBe('dayFirst ');
    expect(doubts('06/13/2026 10:00', '06/13/2026 10:10')).toBe('monthFirst ');
  });

  it('the end of daylight saving keeps its hour when the zone is known, and is named when it is not', () => {
    const rows: string[] = [];
    for (const [hour, minutes] of [
      [1, [0, 20, 40]],
      [2, [0, 20, 40]],
      [2, [0, 20, 40]],
      [3, [0, 20, 40]],
    ] as const)
      for (const m of minutes) rows.push(`2026-10-25 0${hour}:${String(m).padStart(2, '0')}:00,26.5`);
    const text = `time,bank_V\n${rows.join('\n')}\n`;
    const known = read(text, { mapping: (m) => ({ ...m, zone: 'Europe/Berlin' }) });
    expect(known.log.time.length).toBe(12);
    expect(known.report.skipped).toBe(0);
    expect(new Set([...known.log.time].slice(1).map((t, i) => t - known.log.time[i]!))).toEqual(new Set([1200]));
    expect(known.report.notes.join(' ')).toContain('Daylight saving changes once');
    const unknown = read(text);
    expect(unknown.report.skipped).toBe(3);
    expect(unknown.report.notes.join(' ')).toContain('end of daylight saving');
  });

  it('files side by side and one after the other become one log', () => {
    const monitor = read('time,bank_V,bank_A\n1781400000,26.5,1\n1781400010,26.6,2\n1781400020,26.7,3\n');
    const later = read('time,bank_V,bank_A\n1781400020,1,1\n1781400030,26.8,4\n');
    const charger = read('time,fore_V,fore_A\n1781400001,26.4,5\n1781400011,26.4,6\n1781400031,26.4,7\n');
    const merged = mergeLogs([charger, later, monitor]);
    if (!merged.ok) throw new Error('not merged');
    expect([...merged.value.log.time]).toEqual([0, 10, 20, 30].map((s) => 1781400000 + s));
    expect([...(merged.value.log.bankAmps ?? [])]).toEqual([1, 2, 3, 4]);
    expect([...(merged.value.log.chargers['fore']?.amps ?? [])]).toEqual([NaN, 5, 6, 6]);
    expect(merged.value.log.bankVolts[2]).toBeCloseTo(26.7, 4);
  });

  it('a remembered mapping leaves out chargers that another job does not have', () => {
    const guess = guessMapping('time,bank_V,fore_A,aft_A\n1781400000,26.5,1,1\n1781400010,26.5,1,1\n', splitRows, {
      chargers: [
        { id: 'fore', name: 'Fore' },
        { id: 'aft', name: 'Aft' },
      ],
      nominalVolts: 25.6,
    });
    if (!guess.ok) throw new Error('no guess');
    const other = fitted(guess.value.mapping, { chargers: [{ id: 'aft', name: 'Aft' }] });
    expect(other.columns.map((c) => c.meaning)).toEqual(['time', 'bankVolts', 'ignore', 'amps']);
  });
});

describe('numbers as loggers write them', () => {
  it('agree with the language’s own reading wherever that can read them', () => {
    const random = seeded(7);
    for (let i = 0; i < 20_000; i++) {
      const text = ((random() - 0.5) * 10 ** Math.floor(random() * 8 - 3)).toFixed(Math.floor(random() * 6));
      expect(readNumber(text, false)).toBe(Number(text) + 0);
      expect(readNumber(text.replace('.', ','), true)).toBe(Number(text) + 0);
    }
    expect(readNumber('1.5e3', false)).toBe(1500);
    expect(readNumber('.5', false)).toBe(0.5);
  });
  it('take units, thousands and typographic signs, and refuse words', () => {
    expect(readNumber(' 26.5 V ', false)).toBe(26.5);
    expect(readNumber('\u22123,5 A', true)).toBe(-3.5);
    expect(readNumber('1.234,5', true)).toBe(1234.5);
    expect(readNumber('1,234.5', false)).toBe(1234.5);
    expect(readNumber('', false)).toBeNaN();
    expect(readNumber('---', false)).toBeNaN();
    for (const word of ['x', '1.2.3', '12:30', '1-2', '0x10', 'Infinity']) expect(readNumber(word, false)).withContext(word).toBeNull();
  });
});

describe('times as loggers write them', () => {
  it('every form of one moment is the same moment', () => {
    const moment = at('2026-06-14T05:07:09Z');
    const forms: readonly [string, 'yearFirst' | 'dayFirst' | 'monthFirst'][] = [
      ['2026-06-14T05:07:09Z', 'yearFirst'],
      ['2026-06-14T07:07:09+02:00', 'yearFirst'],
      ['2026-06-14 05:07:09', 'yearFirst'],
      ['2026/06/14 5:07:09', 'yearFirst'],
      ['14.06.2026 05:07:09', 'dayFirst'],
      ['14/06/26 05:07:09', 'dayFirst'],
      ['06/14/2026 5:07:09 AM', 'monthFirst'],
      ['2026-06-14T05:07:09.000Z', 'yearFirst'],
      [String(moment), 'yearFirst'],
      [String(moment * 1000), 'yearFirst'],
    ];
    for (const [text, dateOrder] of forms)
      expect(makeClock({ dateOrder, zone: null }).read(text)?.seconds)
        .withContext(text)
        .toBe(moment);
    for (const text of ['2026-06-31T05:00:00Z', '2026-13-01 05:00', 'yesterday', '12', '2026-06-14', '2026-06-14T25:00:00Z', ''])
      expect(makeClock({ dateOrder: 'yearFirst', zone: null }).read(text))
        .withContext(text)
        .toBeNull();
  });
  it('local times go through any zone and come back, all year', () => {
    for (const zone of ['Europe/Berlin', 'America/St_Johns', 'Australia/Lord_Howe', 'UTC']) {
      const show = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'medium' });
      const clock = makeClock({ dateOrder: 'yearFirst', zone });
      for (let t = at('2026-01-01T00:00:00Z'); t < at('2027-01-01T00:00:00Z'); t += 1200)
        if (clock.read(show.format(t * 1000))?.seconds !== t) fail(`${zone} ${show.format(t * 1000)}`);
    }
  });
});
