import { speak } from '../quantity';
import { requirementKey } from '../requirements';
import { plan, rookMoss, seeded, teasel, wholeTeasel } from '../testing/fixtures';
import { demoLog } from '../testing/logs';
import { proveLog, type Log, type LogReport, type ProofRow } from './index';
import { reportOf } from './reading';

interface Written {
  readonly log: Log;
  readonly report: LogReport;
}

/** Some of the rows of a log. */
function rowsOnly({ log, report }: Written, keep: (i: number) => boolean): Written {
  const places = [...log.time.keys()].filter(keep);
  const take = (of: Float32Array): Float32Array => Float32Array.from(places, (i) => of[i] ?? NaN);
  const some: Log = {
    ...log,
    ...Object.fromEntries(Object.entries(log).flatMap(([key, of]) => (of instanceof Float32Array ? [[key, take(of)]] : []))),
    time: Float64Array.from(places, (i) => log.time[i] ?? 0),
    chargers: Object.fromEntries(
      Object.entries(log.chargers).map(([id, c]) => [
        id,
        Object.fromEntries(
          Object.entries(c as Record<string, Float32Array | Uint8Array>).map(([key, of]) => [
            key,
            of instanceof Uint8Array ? Uint8Array.from(places, (i) => of[i] ?? 255) : take(of),
          ]),
        ),
      ]),
    ),
  };
  return { log: some, report: reportOf(some, { skipped: report.skipped, firstSkipped: [], notes: [] }) };
}

const without = ({ log, report }: Written, key: 'bankAmps' | 'batteryC' | 'batterySensor'): Written => {
  const { [key]: _gone, ...rest } = log;
  return { log: rest, report };
};
const ofChargers = ({ log, report }: Written, change: (c: Log['chargers'][string]) => Log['chargers'][string]): Written => ({
  report,
  log: { ...log, chargers: Object.fromEntries(Object.entries(log.chargers).map(([id, c]) => [id, change(c)])) },
});

/** What may happen to a log on its way: less of it, coarser, turned round. Nothing of it is evidence. */
const losses: Readonly<Record<string, (of: Written) => Written>> = {
  'without the bank’s current': (of) => without(of, 'bankAmps'),
  'without the battery’s temperature': (of) => without(of, 'batteryC'),
  'with a temperature that nobody names': (of) => without(of, 'batterySensor'),
  'without array volts': (of) => ofChargers(of, ({ arrayVolts: _gone, ...c }) => c),
  'without reported stages': (of) => ofChargers(of, ({ stage: _gone, ...c }) => c),
  'without the first charger’s current': ({ log, report }) => {
    const [first, ...rest] = Object.entries(log.chargers);
    const { amps: _gone, ...bare } = first?.[1] ?? {};
    return { report, log: { ...log, chargers: Object.fromEntries([[first?.[0] ?? '', bare], ...rest]) } };
  },
  'with every third row': (of) => rowsOnly(of, (i) => i % 3 === 0),
  'with a row in thirty': (of) => rowsOnly(of, (i) => i % 30 === 0),
  'with half of its rows lost at random': (of) => {
    const random = seeded(17);
    return rowsOnly(of, () => random() < 0.5);
  },
  'with an hour lost at noon': (of) => {
    const middle = ((of.log.time[0] ?? 0) + (of.log.time.at(-1) ?? 0)) / 2;
    return rowsOnly(of, (i) => Math.abs((of.log.time[i] ?? 0) - middle) > 1800);
  },
  'cut off in the middle': (of) => rowsOnly(of, (i) => i < of.log.time.length / 2),
  'with the bank’s current turned round': ({ log, report }) => ({ report, log: log.bankAmps ? { ...log, bankAmps: log.bankAmps.map((a) => -a) } : log }),
};

const whole = plan(wholeTeasel());
const cases: readonly (readonly [string, readonly string[], ReturnType<typeof plan>])[] = [
  ['teasel-clean-day', ['fore', 'aft'], plan(teasel())],
  ['teasel-broken-cloud', ['fore', 'aft'], plan(teasel())],
  ['teasel-freezing-dawn', ['fore', 'aft'], plan(teasel())],
  ['teasel-motoring', ['fore', 'aft', 'dcdc', 'alternator'], whole],
  ['rook-moss-nine-days', ['mast'], plan(rookMoss())],
  ['rook-moss-wrong-slope', ['mast'], plan(rookMoss())],
];

describe('a log of which something is lost', () => {
  for (const [name, chargers, of] of cases) {
    const instrument = of.input.system.instruments[1] ?? of.input.system.instruments[0]!;
    const full: Written = demoLog(name, chargers);
    const verdicts = ({ log, report }: Written): ReadonlyMap<string, ProofRow> =>
      new Map(proveLog(of, log, report, instrument).rows.map((row) => [requirementKey(row), row]));
    let before: ReadonlyMap<string, ProofRow>;
    beforeAll(() => {
      before = verdicts(full);
    });
    it(`proves nothing that the whole of ${name} did not`, () => {
      for (const [loss, lose] of Object.entries(losses))
        for (const [key, row] of verdicts(lose(full)))
          if (row.verdict === 'pass')
            expect(before.get(key)?.verdict)
              .withContext(`${key} ${loss}: ${speak(row.why, 'C')}`)
              .toBe('pass');
    });

    it(`of ${name} comes to the same on another clock`, () => {
      const later = verdicts({ ...full, log: { ...full.log, time: full.log.time.map((t) => t + 7 * 86_400) } });
      expect([...later].map(([key, row]) => [key, row.verdict])).toEqual([...before].map(([key, row]) => [key, row.verdict]));
    });
  }
});
