import { writeFileSync } from 'node:fs';
import { measureFamilies, scores, upperBound } from '../../core/src/testing/independent/measure';

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
    `wrongly failed                                ${percent(falseFail / Math.max(1, passes + fails + open)).padStart(8)}   1 %`,
  ].join('\n'),
);
