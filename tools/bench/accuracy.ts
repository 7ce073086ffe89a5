import { writeFileSync } from 'node:fs';
import { measureFamilies, scores, upperBound, type Outcome } from '../../core/src/testing/independent/measure';
import { oracleCounts } from '../../core/src/testing/oracle';

/**
 * Stage inference and verdicts on logs of a simulator that shares nothing with the product: the confusion matrix over time, and how often a verdict
 * was wrong. The seeds were not used while the inference was made. Writes docs/accuracy.md.
 */
const share = Number(process.env['ACCURACY_SHARE'] ?? 1);
const sets = [
  { mode: 'known', logs: 400, first: 662_000, goal: 0.99, what: 'the job says how the chargers were set' },
  { mode: 'sheet', logs: 400, first: 672_000, goal: 0.97, what: 'only the sheet is known: they hold anything it allows, for as long as they like' },
  { mode: 'net', logs: 260, first: 682_000, goal: 0.97, what: 'the log has the bank’s current and that of the loads, and no charger’s own' },
] as const;
const outcomes = sets.map((set) => {
  const count = Math.max(4, Math.round(set.logs * share));
  const outcome = measureFamilies(
    Array.from({ length: count }, (_, i) => set.first + i),
    set.mode,
  );
  return { ...set, count, outcome, ...scores(outcome.confusion) };
});
const stages = ['off', 'bulk', 'absorb', 'float', 'rest', 'cold', 'equalise'] as const;
const hours = (seconds: number | undefined): string => ((seconds ?? 0) / 3600).toFixed(1);
const percent = (part: number): string => `${(part * 100).toFixed(1)} %`;
/** One row of the table of staging, and for known settings those that were so and those that were not. */
const staged = (o: (typeof outcomes)[number]): string[][] => {
  const cells = (what: string, logs: Outcome['perLog'], right: number, goal: string, shared: string): string[] => [
    what,
    String(logs.length),
    percent(right),
    goal,
    percent(logs[0]?.right ?? 1),
    String(logs.filter((l) => l.right < 0.85 && l.seconds > 3600).length),
    shared,
  ];
  const part = (what: string, otherwise: boolean): string[] => {
    const logs = o.outcome.perLog.filter((l) => l.setOtherwise === otherwise);
    const seconds = logs.reduce((n, l) => n + l.seconds, 0);
    return cells(what, logs, logs.reduce((n, l) => n + l.right * l.seconds, 0) / Math.max(1, seconds), '', '');
  };
  return [
    cells(`${o.mode}: ${o.what}`, o.outcome.perLog, o.charging, percent(o.goal), `${hours(o.outcome.shared)} h`),
    ...(o.mode === 'known' ? [part('of these, set as the job says', false), part('of these, one set otherwise, as its log is to show', true)] : []),
  ];
};
/** Verdicts of all sets together, by requirement. */
const all = new Map<string, { pass: number; fail: number; open: number; falsePass: string[]; falseFail: string[] }>();
for (const { outcome } of outcomes)
  for (const [code, v] of outcome.verdicts) {
    const a = all.get(code) ?? { pass: 0, fail: 0, open: 0, falsePass: [], falseFail: [] };
    all.set(code, {
      pass: a.pass + v.pass,
      fail: a.fail + v.fail,
      open: a.open + v.open,
      falsePass: [...a.falsePass, ...v.falsePass],
      falseFail: [...a.falseFail, ...v.falseFail],
    });
  }
const count = (of: (v: { pass: number; fail: number; open: number; falsePass: string[]; falseFail: string[] }) => number): number =>
  [...all.values()].reduce((n, v) => n + of(v), 0);
const [passes, fails, open] = [count((v) => v.pass), count((v) => v.fail), count((v) => v.open)];
const [falsePass, falseFail] = [count((v) => v.falsePass.length), count((v) => v.falseFail.length)];
const unread = outcomes.reduce((n, o) => n + o.outcome.unread.length, 0);
const logs = outcomes.reduce((n, o) => n + o.count, 0);
const rehearsedDays = Math.max(4, Math.round(600 * share));
const firstDay = 1_172_000;
const oracle = oracleCounts(Array.from({ length: rehearsedDays }, (_, i) => firstDay + i));
const told = [...oracle.counts].filter(([, c]) => c.verdicts.pass + c.verdicts.fail + c.verdicts.inconclusive > 0);
const sum = (of: (c: (typeof told)[number][1]) => number): number => told.reduce((n, [, c]) => n + of(c), 0);
const [oraclePasses, oracleFails] = [sum((c) => c.verdicts.pass), sum((c) => c.verdicts.fail)];
const [oracleWrong, oracleHarsh] = [sum((c) => c.wronglyProved.length), sum((c) => c.wronglyFailed.length)];
const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;
const text = `# How well stages and verdicts are told

\`npm run bench\` makes this page. ${logs} logs, of seeds which nobody looked at while the inference was made, of a simulator that lives in
\`core/src/testing/independent\` and shares neither models nor stage machine nor inference with the product. Each log goes the whole way: text of a file, guess of its
columns, samples, stages, verdicts. They vary in chemistry, weather, snow, loads and load surges, engines, noise (0 to 20 mV), steps of the display (10 to 100 mV, 0.1 to
1 °C), sampling (2 s to 5 min), gaps, doubled lines, clock jumps, units, separators, decimal commas, signs, chargers in columns or in rows, columns that are missing or
that few logs have (light, engine, loads, charge, the charger’s own volts), and logs that begin in the middle of absorb; in four of ten something is wrong: a level, a
time, a slope, a limit, a display, a recharge, a cutoff, a load switch, a monitor, a BMS that opens, an equalise that nobody permitted.

${unread === 0 ? 'All of them could be read.' : `${unread} could not be read.`}

## Charging time (bulk, absorb, float) staged rightly

${row(['what is known', 'logs', 'staged rightly', 'goal', 'worst log', 'logs under 85 %', 'bulk and absorb on a shared bus'])}
${row(['---', '---:', '---:', '---:', '---:', '---:', '---:'])}
${outcomes.flatMap(staged).map(row).join('\n')}

Off and rest look alike where nobody sees the array; either counts as right for the other. Cold holds and rests in logs without array voltage (cold ones also without
temperature) can be told by nobody and are left out. Of chargers on one bus, one that gives all it can while another holds the voltage is in bulk by its own machine and in
absorb by the bus: these hours are counted apart, in the last column. A worst log is most often one hour of charging after which nothing flows and nothing tells whether the
source is there.

${outcomes
  .map(
    (o) => `### Hours by true stage (rows) and told stage (columns), ${o.mode}

${row(['true', ...stages, 'recall'])}
${row(['---', ...stages.map(() => '---:'), '---:'])}
${stages.map((st) => row([st, ...stages.map((t) => hours(o.outcome.confusion[st][t])), percent(o.recall[st] ?? 0)])).join('\n')}
`,
  )
  .join('\n')}
## Verdicts against what was true

As programmed is told only where the chargers were read: of the sheet’s logs nobody has read them, and there it stays open.

${row(['requirement', 'proved', 'fails', 'open', 'wrongly proved', 'wrongly failed'])}
${row(['---', '---:', '---:', '---:', '---:', '---:'])}
${[...all].map(([code, a]) => row([code, String(a.pass), String(a.fail), String(a.open), String(a.falsePass.length), String(a.falseFail.length)])).join('\n')}
${row(['all', String(passes), String(fails), String(open), String(falsePass), String(falseFail)])}

Wrongly proved: ${falsePass} of ${passes}, at most ${percent(upperBound(falsePass, passes))} with 95 % confidence (Clopper and Pearson). Wrongly failed: ${falseFail} of ${passes + fails} told, ${percent(falseFail / Math.max(1, passes + fails))}; of ${passes + fails + open} judged, ${percent(falseFail / Math.max(1, passes + fails + open))}.
A level within what a charger’s cable drops of the edge of its band counts as neither; so do levels of a charger that equalises besides or moves otherwise with temperature.
Open rows are logs that lack what would tell: most have no cold, no recharge, no load cut, or no column for it.
${[...all.values()]
  .flatMap((a) => [...a.falsePass.map((t) => `\nWrongly proved: seed ${t}`), ...a.falseFail.map((t) => `\nWrongly failed: seed ${t}`)])
  .slice(0, 16)
  .join('\n')}

## Days that were rehearsed, exported and proved

${oracle.days} days, seeds ${firstDay} to ${firstDay + rehearsedDays - 1}, which nobody looked at while judging was made: every demo job on every kind of day, with values as set, as found, or one of them
wrong (absorb, float, recharge or time), a sister set otherwise, snow, sensors unplugged, a BMS that opens; written down every 10 s to 5 min in steps of 10 to 100 mV, with
or without the bank’s current, array volts and reported stages, its temperature by a probe, by a charger’s own sensor, by one that nobody names, or missing. The rehearsal
knows what was true. _Put to the test_: the day showed it one way or the other, whether or not the log holds what would tell it.

${row(['requirement', 'proved', 'fails', 'inconclusive', 'not tested', 'put to the test', 'of them told', 'wrongly proved', 'wrongly failed'])}
${row(['---', ...Array.from({ length: 8 }, () => '---:')])}
${told.map(([code, c]) => row([code, ...(['pass', 'fail', 'inconclusive', 'notTested'] as const).map((v) => String(c.verdicts[v])), String(c.tested), percent(c.told / Math.max(1, c.tested)), String(c.wronglyProved.length), String(c.wronglyFailed.length)])).join('\n')}

Wrongly proved: ${oracleWrong} of ${oraclePasses}, at most ${percent(upperBound(oracleWrong, oraclePasses))} with 95 % confidence. Wrongly failed: ${oracleHarsh} of ${oraclePasses + oracleFails} told, ${percent(oracleHarsh / Math.max(1, oraclePasses + oracleFails))}.
The caution has its price: most of what such a log leaves open lacks a witness (two chargers on one bus, samples minutes apart, no temperature, no light measured).
${told
  .flatMap(([, c]) => [...c.wronglyProved.map((t) => `\nWrongly proved: ${t}`), ...c.wronglyFailed.map((t) => `\nWrongly failed: ${t}`)])
  .slice(0, 12)
  .join('\n')}

## The worst logs

${row(['right', 'seed', 'charging', 'log'])}
${row(['---:', '---:', '---:', '---'])}
${outcomes
  .flatMap((o) => o.outcome.perLog.slice(0, 5))
  .map((l) => row([percent(l.right), String(l.seed), `${hours(l.seconds)} h`, l.about]))
  .join('\n')}
`;
writeFileSync(new URL('../../docs/accuracy.md', import.meta.url), text);
console.log(
  [
    'stages and verdicts on independent logs          measured   goal',
    ...outcomes.map(
      (o) => `charging time rightly staged, ${o.mode.padEnd(6)} ${String(o.count).padStart(4)} logs  ${percent(o.charging).padStart(8)}   ${percent(o.goal)}`,
    ),
    `wrongly proved, of ${String(passes).padEnd(6)}                       ${String(falsePass).padStart(8)}   none; at most ${percent(upperBound(falsePass, passes))}`,
    `wrongly proved of rehearsed days, of ${String(oraclePasses).padEnd(5)}       ${String(oracleWrong).padStart(8)}   none; at most ${percent(upperBound(oracleWrong, oraclePasses))}`,
    `wrongly failed of rehearsed days              ${percent(oracleHarsh / Math.max(1, oraclePasses + oracleFails)).padStart(8)}   0.5 %`,
    `wrongly failed                                ${percent(falseFail / Math.max(1, passes + fails + open)).padStart(8)}   1 %`,
  ].join('\n'),
);
