import { proveLog, type Log, type ProofRow } from '../proof';
import { deriveSettings } from '../settings';
import { demoLog } from './logs';
import { oracleCounts, oracleDay } from './oracle';
import { demoJob } from './rehearsals';
import { allRounds } from './rounds';

// The large count is the bench's, on other seeds; here a few dozen days in the gate.
describe('rehearsed, exported and proved', () => {
  it('nothing that was false of a day is proved by its log, and hardly anything right fails', () => {
    const { days, counts } = oracleCounts(Array.from({ length: allRounds ? 60 : 20 }, (_, i) => 50_000 + i));
    const all = [...counts.values()];
    expect(days).toBeGreaterThan(15);
    expect(all.flatMap((c) => c.wronglyProved)).toEqual([]);
    const told = all.reduce((sum, c) => sum + c.verdicts.pass + c.verdicts.fail, 0);
    expect(told).toBeGreaterThan(days);
    expect(all.flatMap((c) => c.wronglyFailed).length).toBeLessThanOrEqual(Math.ceil(0.02 * told));
  });

  it('makes the same day of the same seed', () => {
    const [one, again] = [oracleDay(50_001), oracleDay(50_001)];
    expect(again?.rows.map((r) => r.why)).toEqual(one?.rows.map((r) => r.why) ?? []);
  });
});

describe('a log that tells less, or tells it wrongly,', () => {
  const plan = deriveSettings(demoJob('teasel'));
  const monitor = plan.input.system.instruments.find((i) => i.id === 'monitor')!;
  const key = (r: ProofRow): string => `${r.requirement.code}/${r.requirement.charger ?? ''}`;
  const proved = (log: Log, report: Parameters<typeof proveLog>[2]): string[] =>
    proveLog(plan, log, report, monitor)
      .rows.filter((r) => r.verdict === 'pass')
      .map(key);
  const without = (log: Log, ...keys: readonly (keyof Log)[]): Log =>
    Object.fromEntries(Object.entries(log).filter(([k]) => !keys.includes(k as keyof Log))) as unknown as Log;
  const changes: Readonly<Record<string, (log: Log) => Log>> = {
    'no bank current': (log) => without(log, 'bankAmps'),
    'no temperature': (log) => without(log, 'batteryC'),
    'a temperature of nobody': (log) => without(log, 'batterySensor'),
    'the bank’s current the wrong way round': (log) => ({ ...log, bankAmps: log.bankAmps!.map((a) => -a) }),
    'volts in tenths': (log) => ({ ...log, bankVolts: log.bankVolts.map((v) => Math.round(v * 10) / 10) }),
    'no array volts': (log) => ({
      ...log,
      chargers: Object.fromEntries(Object.entries(log.chargers).map(([id, { arrayVolts: _gone, ...c }]) => [id, c])),
    }),
    'half of the bank’s current missing': (log) => ({ ...log, bankAmps: log.bankAmps!.map((a, i) => (i % 2 ? a : NaN)) }),
  };

  for (const name of ['teasel-clean-day', 'teasel-broken-cloud', 'teasel-freezing-dawn', 'teasel-motoring'])
    for (const [what, change] of Object.entries(changes))
      it(`proves nothing that it did not prove before: ${name}, ${what}`, () => {
        const { log, report } = demoLog(name, ['fore', 'aft', 'dcdc', 'alternator']);
        const before = new Set(proved(log, report));
        expect(before.size).toBeGreaterThan(1);
        expect(proved(change(log), report).filter((k) => !before.has(k))).toEqual([]);
      });
});
