import { splitRows } from '../../testing/logs';
import { byMake, createLogReader, guessMapping, mappingFor, mergeLogs, type Looked } from './index';

const context = {
  chargers: [
    { id: 'fore', name: 'Fore' },
    { id: 'aft', name: 'Aft' },
  ],
  nominalVolts: 25.6,
};
function looked(name: string, text: string): Looked & { readonly text: string } {
  const guess = guessMapping(text, splitRows, { ...context, fileName: name });
  if (!guess.ok) throw new Error(guess.problems[0]?.text);
  return { name, guess: guess.value, text };
}
const at = (iso: string): number => Date.parse(iso) / 1000;

describe('tables of the same make', () => {
  const open = 'time,bank_V\n05/06/2026 10:00:00,26.5\n05/06/2026 10:00:10,26.5\n';
  const plain = 'time,bank_V\n14/06/2026 10:00:00,26.6\n14/06/2026 10:00:10,26.7\n';

  it('are read by one mapping: a date that one leaves open is plain in another', () => {
    expect(looked('a.csv', open).guess.doubts.length).toBe(1);
    const makes = byMake([looked('a.csv', open), looked('b.csv', plain)]);
    expect(makes.map((m) => m.tables.map((t) => t.name))).toEqual([['a.csv', 'b.csv']]);
    expect([makes[0]?.guess.doubts.length, makes[0]?.guess.mapping.dateOrder]).toEqual([0, 'dayFirst']);
    // The American way round decides as well.
    expect(byMake([looked('a.csv', open), looked('b.csv', plain.replaceAll('14/06', '06/14'))])[0]?.guess.mapping.dateOrder).toBe('monthFirst');
  });

  it('each with its head where it has it and its own end first', () => {
    const falling = 'Logger\n\ntime,bank_V\n2026-06-15 10:00:20,26.9\n2026-06-15 10:00:10,26.8\n2026-06-15 10:00:00,26.7\n';
    const rising = 'time,bank_V\n2026-06-14 10:00:00,26.4\n2026-06-14 10:00:10,26.5\n2026-06-14 10:00:20,26.6\n';
    const [make, more] = byMake([looked('a.csv', falling), looked('b.csv', rising)]);
    if (!make || more) throw new Error('one make');
    const logs = make.tables.map((t) => {
      const reader = createLogReader(mappingFor(t, make.guess.mapping));
      reader.take(splitRows(t.text, ','));
      const read = reader.finish();
      if (!read.ok) throw new Error(read.problems[0]?.text);
      return read.value;
    });
    const merged = mergeLogs(logs);
    if (!merged.ok) throw new Error('merge');
    expect([...merged.value.log.time]).toEqual([
      ...[0, 10, 20].map((s) => at('2026-06-14T10:00:00Z') + s),
      ...[0, 10, 20].map((s) => at('2026-06-15T10:00:00Z') + s),
    ]);
    expect([...merged.value.log.bankVolts].map((v) => v.toFixed(1))).toEqual(['26.4', '26.5', '26.6', '26.7', '26.8', '26.9']);
  });

  it('tables of other columns, or of another charger by their own name, are makes of their own', () => {
    const own = 'time,voltage (V),output current (A)\n2026-06-14 10:00:00,26.4,3\n2026-06-14 10:00:10,26.5,3\n';
    const makes = byMake([looked('fore.csv', own), looked('aft.csv', own), looked('fore 2.csv', own), looked('b.csv', plain)]);
    expect(makes.map((m) => m.tables.map((t) => t.name))).toEqual([['fore.csv', 'fore 2.csv'], ['aft.csv'], ['b.csv']]);
    expect(makes[1]?.guess.mapping.columns.map((c) => c.charger)).toEqual([undefined, 'aft', 'aft']);
  });

  it('names of chargers and words for stages are those of all', () => {
    const rows = (name: string, stage: string): string =>
      `time,device,voltage,state\n2026-06-14 10:00:00,${name},26.4,${stage}\n2026-06-14 10:00:10,${name},26.5,${stage}\n`;
    const [make] = byMake([looked('1.csv', rows('Fore', 'Bulk')), looked('2.csv', rows('Aft', 'Absorption'))]);
    expect(make?.guess.mapping.chargers).toEqual({ Fore: 'fore', Aft: 'aft' });
    expect(make?.guess.mapping.stages).toEqual({ Bulk: 'bulk', Absorption: 'absorb' });
  });
});
