import { stages } from '../../charger';
import { createLogReader } from './readLog';
import { feederOf } from './feed';
import type { Mapping } from './mapping';
import { readByFields, readByText } from '../../testing/logs';

const mapping: Mapping = {
  format: 'calm-keel/mapping',
  version: 1,
  kind: 'table',
  separator: ';',
  decimal: ',',
  headerLine: 1,
  dateOrder: 'dayFirst',
  zone: null,
  newestFirst: false,
  chargers: { Fore: 'fore', Bâbord: 'aft' },
  stages: { Bulk: 'bulk' },
  columns: [
    { header: 'date', meaning: 'date' },
    { header: 'clock', meaning: 'clock' },
    { header: 'who', meaning: 'chargerName' },
    { header: 'mV', meaning: 'bankVolts', unit: 'mV' },
    { header: 'A', meaning: 'amps', unit: 'A', negated: true },
    { header: 'state', meaning: 'stage' },
    { header: 'note', meaning: 'ignore' },
  ],
};
const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const lines = [
  'date;clock;who;mV;A;state;note',
  '14.06.2026;05:00:00;Fore;26400;-3,5;Bulk;-',
  '14.06.2026;05:00:10;Fore;26410;;bulk ;a line of 6 fields follows',
  '14.06.2026;05:00:20;Fore;26420;-3,7;Bulk',
  '14.06.2026;05:00:30;Fore;26430;-3,8;resting;',
  '14.06.2026;05:00:40;Mast;26440;-3,9;Bulk;',
  '14.06.2026;05:00:50;Fore;;-4,0;Bulk;',
  '14.06.2026;05:00:50;Fore;1 026 450;-4,0;Bulk;',
  '14.06.2026;05:01:00;Fore;99999999999;-4,0;Bulk;',
  '14.06.2026;05:01:10;Fore;26470;-4e0;Bulk;;',
  '',
  '14.06.2026;05:01:10;Fore;26471;-4,1;Bulk;',
  '14.06.2026;05:01:05;Fore;26472;-4,1;Bulk;',
  '14.06.2026;05:01:20;Fore;x;-4,1;Bulk;',
  '14.06.2026;05:01:30;Fore;26480;-4,2;Bulk;',
  '14.06.2026;05:01:40;Fore;-99999999999;-4,2;Bulk;',
  '14.06.2026;05:01:50;Bâbord;26490;0,0;Bulk;',
];

describe('text fed to a reader of logs', () => {
  const text = lines.join('\n');

  it('is read where it stands: numbers, units, signs, stages, names, and what is left out by its line', () => {
    const read = readByText(text, mapping);
    if (!read.ok) return void fail(read.problems[0]?.text);
    const { log, report } = read.value;
    expect([...log.time].map((t) => t - log.time[0]!)).toEqual([0, 10, 30, 50, 70, 90]);
    expect(Object.keys(log.chargers)).toEqual(['fore', 'aft']);
    expect([...log.bankVolts].map((v) => v.toFixed(2))).toEqual(['26.40', '26.41', '26.43', '1026.45', '26.47', '26.48']);
    expect([...(log.chargers['fore']?.amps ?? [])].map((a) => a.toFixed(1))).toEqual(['3.5', 'NaN', '3.8', '4.0', '4.0', '4.2']);
    expect([...(log.chargers['fore']?.stage ?? [])].map((s) => stages[s] ?? '')).toEqual(['bulk', 'bulk', '', 'bulk', 'bulk', 'bulk']);
    expect(report.firstSkipped.map(({ line, why }) => `${line} ${why}`)).toEqual([
      '4 has 6 fields instead of 7',
      '6 is about “Mast”, which belongs to no charger of this job',
      '7 has no bank voltage',
      '9 “99999999999” is no believable number',
      '12 repeats the time of the line before',
      '13 goes back in time: the clock was set, or the lines are out of order',
      '14 bank voltage “x” is not a number',
      '16 “-99999999999” is no believable number',
    ]);
  });

  it('comes to the same in pieces of any size, with either end of a line, and with a mark in front', () => {
    const wanted = JSON.stringify(readByFields(text, mapping));
    for (let size = 1; size < 90; size++)
      expect(JSON.stringify(readByText(text, mapping, size)))
        .withContext(`${size}`)
        .toBe(wanted);
    expect(JSON.stringify(readByText(lines.join('\r\n'), mapping, 61))).toBe(wanted);
    expect(JSON.stringify(readByText(`\ufeff${text}\n`, mapping, 61))).toBe(wanted);
  });

  it('with a quoted field, lines of an old kind or one without an end, is left to the parser of tables', () => {
    const feeder = (pieces: readonly string[]): boolean => {
      const to = feederOf(mapping, createLogReader(mapping));
      for (const piece of pieces) expect(to.push(utf8(piece))).toBeNull();
      expect(to.end()).toBeNull();
      return to.strange;
    };
    expect(feeder([text])).toBeFalse();
    expect(feeder([`${lines[0]}\r`, `\n${lines[1]}`])).toBeFalse();
    expect(feeder([`${lines.slice(0, 2).join('\n')}\n`, '14.06.2026;05:00:10;"Fore";26400;-3,5;Bulk;-'])).toBeTrue();
    expect(feeder([lines.slice(0, 3).join('\r')])).toBeTrue();
    const long = '7'.repeat(4_000_000);
    expect(feeder([`${text}\n`, long, long])).toBeFalse();
    expect(feeder([`${text}\n`, long, long, '7'])).toBeTrue();
  });

  it('takes seconds and thousandths since 1970 as its fields are taken, with a zone and without', () => {
    const stamps = [
      '178140000',
      '1781400000',
      '1781400000.5',
      '01781400001',
      '1781400002000',
      '17814000030000',
      '17814000',
      '01781400004000',
      '-781400004',
      '1781400005x',
      '',
    ];
    const columns = [
      { header: 't', meaning: 'time' as const },
      { header: 'V', meaning: 'bankVolts' as const, unit: 'V' as const },
    ];
    for (const zone of [null, 'Europe/London'])
      for (const newestFirst of [false, true]) {
        const of: Mapping = { ...mapping, columns, zone, newestFirst, decimal: '.' };
        const rows = [...(newestFirst ? [...stamps].reverse() : stamps)].map((t) => `${t};26.4`);
        const text = ['t;V', ...rows].join('\n');
        const read = readByText(text, of);
        expect(JSON.stringify(read)).toBe(JSON.stringify(readByFields(text, of)));
        if (!read.ok) return void fail(read.problems[0]?.text);
        expect([...read.value.log.time]).toEqual([178_140_000, 1_781_400_000, 1_781_400_000.5, 1_781_400_001, 1_781_400_002]);
        expect(read.value.log.offsetMinutes).toBe(zone === null ? 0 : 60);
      }
  });

  it('stops at the head of another table, and at one row too many', () => {
    const reader = createLogReader(mapping, 2);
    expect(reader.takeLines(utf8(`${lines[0]}\n${lines[1]}\n`))).toBeNull();
    expect(reader.takeLines(utf8(`${lines[2]}\n`))).toBeNull();
    expect(reader.takeLines(utf8(`${lines[4]}\n`))?.code).toBe('log-too-long');
    expect(createLogReader(mapping).takeLines(utf8(`${lines[1]}\n`))?.code).toBe('log-other-columns');
    expect(createLogReader({ ...mapping, columns: mapping.columns.slice(0, 3) }).takeLines(utf8('x\n'))?.code).toBe('log-mapping');
  });
});
