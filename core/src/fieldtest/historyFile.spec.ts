import { splitRows } from '../testing/logs';
import { readHistory, type HistoryFile } from './index';

const read = (text: string): HistoryFile => {
  const file = readHistory(text, splitRows);
  if (!file.ok) throw new Error(file.problems[0]?.text);
  return file.value;
};
const refusal = (text: string): string => {
  const file = readHistory(text, splitRows);
  return file.ok ? 'read' : (file.problems[0]?.code ?? '');
};

describe('a charger’s own daily history', () => {
  it('has a date and the highest volts of each day, and what else it tells that counts', () => {
    expect(
      read(
        'Date,Max battery voltage (V),Min battery voltage (V),Time in absorption (min),Yield (Ah),Temp (°C)\n2026-06-15,28.1,25.9,95,40,21\n2026-06-14,28.0,25.8,,38,\n',
      ).days,
    ).toEqual([
      { date: '2026-06-14', highest: 28 },
      { date: '2026-06-15', highest: 28.1, absorb: 95, celsius: 21 },
    ]);
    expect(read('Export\n\nTag;U max;Absorb (h);Temp F\n14.06.2026;28,1 V;1,5;68\n').days).toEqual([
      { date: '2026-06-14', highest: 28.1, absorb: 90, celsius: 20 },
    ]);
    expect(read('day\tmax_battery_mV\tabsorb\n14/06/26\t28100\t01:35\n').days).toEqual([{ date: '2026-06-14', highest: 28.1, absorb: 95 }]);
  });

  it('reads dates by the order that one of them settles, and asks where none does', () => {
    const dates = (...list: readonly string[]): readonly string[] => read(`date,max V\n${list.map((d) => `${d},28`).join('\n')}\n`).days.map((d) => d.date);
    expect(dates('05/06/2026', '13/06/2026')).toEqual(['2026-06-05', '2026-06-13']);
    expect(dates('05/06/2026', '05/13/2026')).toEqual(['2026-05-06', '2026-05-13']);
    expect(dates('05/06/2026', '06/06/2026', '07/06/2026')).toEqual(['2026-06-05', '2026-06-06', '2026-06-07']);
    expect(dates('05.06.2026')).toEqual(['2026-06-05']);
    expect(refusal('date,max V\n05/06/2026,28\n')).toBe('history-dates');
  });

  it('names what it cannot read, and refuses what is no history', () => {
    const { days, leftOut } = read(
      'date,max V\n2026-06-14,28\n2026-06-14,27\n2026-06-31,28\nyesterday,28\n2026-06-16,high\n2026-06-17,4.9\n2026-06-18,5\n2026-06-19,1001\n',
    );
    expect(days.map((d) => [d.date, d.highest])).toEqual([
      ['2026-06-14', 28],
      ['2026-06-18', 5],
    ]);
    expect(leftOut).toEqual([
      'Line 3 repeats 2026-06-14.',
      'Line 4 has no date that can be read: “2026-06-31”.',
      'Line 5 has no date that can be read: “yesterday”.',
      'Line 6 has no highest voltage: “high”.',
      'Line 7 has 4.9 V, which no bank has.',
      'Line 9 has 1001 V, which no bank has.',
    ]);
    expect(refusal('time,bank_V\n2026-06-14T05:00:00Z,26\n')).toBe('history-none');
    expect(refusal('date,min V\n2026-06-14,26\n')).toBe('history-none');
    expect(refusal('date,max V\nyesterday,28\n')).toBe('history-empty');
  });
});
