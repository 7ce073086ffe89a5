import { readdirSync, readFileSync } from 'node:fs';
import { cardSchema } from '@calm-keel/core/card';
import { pressKey } from '@calm-keel/core/face';
import { drawExercise, faultCodes, judgeExercise, openBench, placeCodes, prepare, solve, spotsOf, type PracticeLibrary } from '@calm-keel/core/practice';
import { sheetSchema } from '@calm-keel/core/sheet';

/**
 * The practice bench: how long a front takes for a key and the plant for an hour, and whether every kind of fault can be solved from every
 * seed. SEEDS says from how many; an exercise that its own solution does not pass is printed and fails.
 */
const read = <T>(folder: string, schema: { parse: (x: unknown) => T }): T[] =>
  readdirSync(`library/${folder}`).map((name) => schema.parse(JSON.parse(readFileSync(`library/${folder}/${name}`, 'utf8'))));
const library: PracticeLibrary = { cards: read('cards', cardSchema), sheets: read('sheets', sheetSchema) };
const seeds = Number(process.env['SEEDS'] ?? 10);
const sorted = (list: number[]): number[] => list.sort((a, b) => a - b);
const line = (what: string, figure: string, goal: string): void => {
  console.log(`${what.padEnd(58)} ${figure.padStart(12)}   ${goal}`);
};

const keys: number[] = [];
const hours: number[] = [];
for (const place of placeCodes) {
  const bench = openBench(drawExercise(1, library, { place }), library);
  for (const { id, rules } of bench.devices) {
    let state = bench.face(id);
    for (let i = 0; i < 500; i++) {
      const from = performance.now();
      state = pressKey(rules, state, {
        key: rules.menu.keys[i % rules.menu.keys.length] ?? '',
        act: rules.menu.turns.length > 0 && i % 3 > 0 ? 'right' : 'press',
      });
      keys.push(performance.now() - from);
    }
  }
  for (let i = 0; i < 4; i++) {
    const from = performance.now();
    bench.act({ do: 'pass', seconds: 3600 });
    hours.push(performance.now() - from);
  }
}
sorted(keys);
sorted(hours);
line('a key on a front, slowest of a thousand', `${(keys[Math.floor(0.999 * keys.length)] ?? 0).toFixed(2)} ms`, '50 ms, with the page');
line('an hour of the plant, median and slowest', `${(hours[hours.length >> 1] ?? 0).toFixed(0)}, ${(hours.at(-1) ?? 0).toFixed(0)} ms`, '300 ms');

let solved = 0;
let failed = 0;
const begun = performance.now();
for (const code of faultCodes) {
  const where = placeCodes.flatMap((place) => spotsOf(prepare(place, library), code).map((spot) => ({ place, spot })));
  for (let i = 0; i < seeds; i++) {
    const at = where[i % where.length];
    if (!at) continue;
    const bench = openBench({ kind: 'find', seed: (i * 7919 + 13) % 2 ** 31, place: at.place, faults: [{ code, spot: at.spot }] }, library);
    const idle = judgeExercise(bench, []).passed;
    const judged = judgeExercise(bench, solve(bench));
    if (judged.passed && !idle) solved++;
    else {
      failed++;
      console.log(
        'not solvable, or passed by doing nothing:',
        at.place,
        code,
        JSON.stringify(at.spot),
        'seed',
        (i * 7919 + 13) % 2 ** 31,
        JSON.stringify(judged.faults.map((f) => [f.named, f.shown, f.cured])),
      );
    }
  }
}
line(`exercises solved, ${faultCodes.length} kinds from ${seeds} seeds each`, `${solved} of ${solved + failed}`, 'all');
line('of these, one set up, solved and judged', `${((performance.now() - begun) / Math.max(1, solved + failed)).toFixed(1)} ms`, '');
process.exit(failed > 0 ? 1 : 0);
