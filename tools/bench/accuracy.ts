import { writeFileSync } from 'node:fs';
import { measureFamilies, scores, upperBound } from '../../core/src/testing/independent/measure';
import { oracleCounts } from '../../core/src/testing/oracle';

/**
 * Stage inference and verdicts on logs of a simulator that shares nothing with the product: the confusion matrix over time, and how often a verdict
 * was wrong. The seeds were not used while the inference was made. Writes docs/accuracy.md.
 */
const logs = Number(process.env['ACCURACY_LOGS'] ?? 520);
const first = 300_000;
const outcome = measureFamilies(Array.from({ length: logs }, (_, i) => first + i));
const { charging, recall } = scores(outcome.confusion);
const stages = ['off', 'bulk', 'absorb', 'float', 'rest', 'cold'] as const;
const hours = (seconds: number | undefined): string => ((seconds ?? 0) / 3600).toFixed(1);
const percent = (part: number): string => `${(part * 100).toFixed(1)} %`;
const all = [...outcome.verdicts.values()];
const passes = all.reduce((n, a) => n + a.pass, 0);
const fails = all.reduce((n, a) => n + a.fail, 0);
const open = all.reduce((n, a) => n + a.open, 0);
const falsePass = all.reduce((n, a) => n + a.falsePass.length, 0);
const falseFail = all.reduce((n, a) => n + a.falseFail.length, 0);
const rehearsedDays = Number(process.env['ACCURACY_DAYS'] ?? 1000);
const firstDay = 900_000;
const oracle = oracleCounts(Array.from({ length: rehearsedDays }, (_, i) => firstDay + i));
const told = [...oracle.counts].filter(([, c]) => c.verdicts.pass + c.verdicts.fail + c.verdicts.inconclusive > 0);
const sum = (of: (c: (typeof told)[number][1]) => number): number => told.reduce((n, [, c]) => n + of(c), 0);
const [oraclePasses, oracleFails] = [sum((c) => c.verdicts.pass), sum((c) => c.verdicts.fail)];
const [oracleWrong, oracleHarsh] = [sum((c) => c.wronglyProved.length), sum((c) => c.wronglyFailed.length)];
const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;
const text = `# How well stages and verdicts are told

\`npm run bench\` makes this page. ${logs} logs, seeds ${first} to ${first + logs - 1}, which nobody looked at while the inference was made, of a simulator that lives in
\`core/src/testing/independent\` and shares neither models nor stage machine nor inference with the product. Each log goes the whole way: text of a file, guess of its
columns, samples, stages, verdicts. They vary in chemistry, weather, loads, noise (0 to 20 mV), steps of the display (10 to 100 mV, 0.1 to 1 °C), sampling (2 s to
5 min), gaps, doubled lines, clock jumps, units, separators, decimal commas, signs, chargers in columns or in rows, missing temperature, current or array voltage, and
logs that begin in the middle of absorb; in three of ten something is wrong with the charger.

${outcome.unread.length === 0 ? 'All of them could be read.' : `${outcome.unread.length} could not be read.`} **${percent(charging)} of charging time (bulk, absorb, float) is staged rightly.**

## Hours by true stage (rows) and told stage (columns)

${row(['true', ...stages, 'recall'])}
${row(['---', ...stages.map(() => '---:'), '---:'])}
${stages.map((s) => row([s, ...stages.map((t) => hours(outcome.confusion[s][t])), percent(recall[s] ?? 0)])).join('\n')}

Off and rest look alike where nobody sees the array; either counts as right for the other. Cold holds and rests in logs without array voltage (cold ones also without
temperature) can be told by nobody and are left out.

## Verdicts against what was true

${row(['requirement', 'proved', 'fails', 'open', 'wrongly proved', 'wrongly failed'])}
${row(['---', '---:', '---:', '---:', '---:', '---:'])}
${[...outcome.verdicts].map(([code, a]) => row([code, String(a.pass), String(a.fail), String(a.open), String(a.falsePass.length), String(a.falseFail.length)])).join('\n')}
${row(['all', String(passes), String(fails), String(open), String(falsePass), String(falseFail)])}

Wrongly proved: ${falsePass} of ${passes}, at most ${percent(upperBound(falsePass, passes))} with 95 % confidence (Clopper and Pearson). Wrongly failed: ${falseFail} of ${passes + fails + open} judged, ${percent(falseFail / Math.max(1, passes + fails + open))}.
A float within what a charger’s cable drops of the edge of its band counts as neither.
${[...outcome.verdicts]
  .flatMap(([, a]) => [...a.falsePass.map((t) => `\nWrongly proved: seed ${t}`), ...a.falseFail.map((t) => `\nWrongly failed: seed ${t}`)])
  .slice(0, 12)
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

## The ten worst logs

${row(['right', 'seed', 'charging', 'log'])}
${row(['---:', '---:', '---:', '---'])}
${outcome.perLog
  .slice(0, 10)
  .map((l) => row([percent(l.right), String(l.seed), `${hours(l.seconds)} h`, l.about]))
  .join('\n')}
`;
writeFileSync(new URL('../../docs/accuracy.md', import.meta.url), text);
console.log(
  [
    'stages and verdicts on independent logs          measured   goal',
    `charging time rightly staged, ${logs} logs        ${percent(charging).padStart(8)}   97 %`,
    ...stages.map((s) => `recall of ${s.padEnd(10)}                           ${percent(recall[s] ?? 0).padStart(8)}   90 %`),
    `wrongly proved, of ${String(passes).padEnd(6)}                       ${String(falsePass).padStart(8)}   none; at most ${percent(upperBound(falsePass, passes))}`,
    `wrongly proved of rehearsed days, of ${String(oraclePasses).padEnd(5)}       ${String(oracleWrong).padStart(8)}   none; at most ${percent(upperBound(oracleWrong, oraclePasses))}`,
    `wrongly failed of rehearsed days              ${percent(oracleHarsh / Math.max(1, oraclePasses + oracleFails)).padStart(8)}   0.5 %`,
    `wrongly failed                                ${percent(falseFail / Math.max(1, passes + fails + open)).padStart(8)}   1 %`,
  ].join('\n'),
);
