import { splitRows } from '../../testing/logs';
import { guessMapping, type Guess } from './index';

/** A table of ten minutes with these heads after the time, and one row of values. */
const table = (heads: string, values: string, rows = 10): string =>
  `time,${heads}\n${Array.from({ length: rows }, (_, i) => `2026-06-01T10:${String(i).padStart(2, '0')}:00Z,${values}`).join('\n')}\n`;
function guess(text: string, fileName = 'x.csv', job: Partial<Parameters<typeof guessMapping>[2]> = {}): Guess {
  const made = guessMapping(text, splitRows, { chargers: [], nominalVolts: null, fileName, ...job });
  if (!made.ok) throw new Error(made.problems[0]?.text);
  return made.value;
}
const names = (text: string, fileName?: string): readonly string[] => guess(text, fileName).newcomers.map((n) => `${n.id}: ${n.name}`);
const meanings = ({ mapping }: Guess): readonly string[] => mapping.columns.slice(1).map((c) => [c.meaning, c.charger ?? ''].join(' ').trim());

describe('chargers that a file speaks of, in a job that has none', () => {
  it('are named as the heads of their columns name them, and get those columns', () => {
    const made = guess(table('bank_V,bank_A,fore_A,fore_array_V,fore_stage,aft_A', '26.4,12,8,70,bulk,4'));
    expect(made.newcomers).toEqual([
      { id: 'fore', name: 'Fore' },
      { id: 'aft', name: 'Aft' },
    ]);
    expect(meanings(made)).toEqual(['bankVolts', 'bankAmps', 'amps fore', 'arrayVolts fore', 'stage fore', 'amps aft']);
    expect(made.doubts).toEqual([]);
  });

  it('carry numbers and capitals as they are written', () => {
    expect(names(table('MPPT 1 current [A],MPPT 2 current [A],Battery voltage [V],MPPT 1 PV voltage [V]', '5,10,52,80'))).toEqual([
      'mppt-1: MPPT 1',
      'mppt-2: MPPT 2',
    ]);
  });

  it('are named by a column of names, each once', () => {
    const rows = ['Solar North', 'Alternator', 'Solar North'].map((who, i) => `2026-06-01T10:0${i}:00Z,${who},52.1,12`).join('\n');
    const made = guess(`time,device,battery_voltage,charge_current\n${rows}\n`);
    expect(made.newcomers.map((n) => n.name)).toEqual(['Solar North', 'Alternator']);
    expect(made.mapping.chargers).toEqual({ 'Solar North': 'solar-north', Alternator: 'alternator' });
    expect(made.doubts).toEqual([]);
  });

  it('a file of one that names it nowhere is called as its own name calls it, without what names a file', () => {
    const text = table('Battery voltage (V),Charge current (A),PV voltage (V),Charge state', '13.4,10,38,Bulk');
    expect(names(text, 'solar_2026-06-01.csv')).toEqual(['solar: Solar']);
    expect(names(text, 'solar_2026-06-02.csv')).toEqual(['solar: Solar']);
    expect(names(text, 'log-2026-06-01.csv')).toEqual(['charger: Charger']);
    expect(meanings(guess(text, 'solar.csv'))).toEqual(['bankVolts', 'amps solar', 'arrayVolts solar', 'stage solar']);
  });

  it('are neither the bank, nor a load, nor a current of which nothing is said', () => {
    for (const heads of ['bank_V,shunt_A,load_A', 'V,A,x', 'Battery voltage,Battery current,Load current'])
      expect(names(table(heads, '26.4,12,3')))
        .withContext(heads)
        .toEqual([]);
    expect(meanings(guess(table('bank_V,shunt_A,load_A', '26.4,12,3')))).toEqual(['bankVolts', 'bankAmps', 'loadAmps']);
  });

  it('are not guessed where the job has chargers, and not where a file would have more than a dozen', () => {
    const text = table('bank_V,fore_A', '26.4,8');
    const known = guess(text, 'x.csv', { chargers: [{ id: 'mast', name: 'Mast' }] });
    expect([known.newcomers, known.doubts.some((d) => d.includes('no charger of this job is named so'))]).toEqual([[], true]);
    const many = (n: number): number =>
      guess(table(`bank_V,${Array.from({ length: n }, (_, i) => `unit${i}_A`).join()}`, `26.4${',1'.repeat(n)}`)).newcomers.length;
    expect([many(12), many(13)]).toEqual([12, 0]);
  });
});

describe('the volts of a bank that nobody has said', () => {
  it('are in no doubt: there is nothing they could be compared with', () => {
    const text = table('bank_V,bank_A', '26.4,1');
    expect(guess(text).doubts).toEqual([]);
    expect(guess(text, 'x.csv', { nominalVolts: 12.8 }).doubts).toEqual([
      '“bank_V” lies near 26.4 V, and this bank has 12.8 V. It may be of another bank, or per battery.',
    ]);
    expect(guess(text).typicalVolts).toBe(26.4);
  });

  it('are in doubt where no bank has so much', () => {
    expect(guess(table('bank_V,bank_A', '26400,1')).doubts).toEqual(['“bank_V” lies near 26400.0 V, and no bank has so much. It may be in mV.']);
    expect(guess(table('bank_V,bank_A', '999,1')).doubts).toEqual([]);
  });

  it('are looked for from an empty bank of 12 V to a full one of 48 V where no column is named so', () => {
    const found = (volts: string): string => guess(table('first,second', `${volts},1`)).mapping.columns[1]?.meaning ?? '';
    expect(['8.9', '9.1', '67.9', '68.1'].map(found)).toEqual(['ignore', 'bankVolts', 'bankVolts', 'ignore']);
    expect(guess(table('first,second', '13.1,1')).doubts).toContain('“first” is taken for the bank voltage because its values could be those of a bank.');
  });
});
