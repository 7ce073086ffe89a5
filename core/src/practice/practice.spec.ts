import { readdirSync, readFileSync } from 'node:fs';
import { cardSchema } from '../card';
import { sheetSchema } from '../sheet';
import { systemSchema } from '../system';
import { drawExercise, faultCodes, judgeExercise, openBench, places, prepare, solve, spotsOf, type PracticeLibrary } from './index';

const read = <T>(folder: string, schema: { parse: (x: unknown) => T }): T[] => {
  const at = new URL(`../../../library/${folder}/`, import.meta.url);
  return readdirSync(at).map((name) => schema.parse(JSON.parse(readFileSync(new URL(name, at), 'utf8'))));
};
const library: PracticeLibrary = { cards: read('cards', cardSchema), sheets: read('sheets', sheetSchema) };

describe('practice', () => {
  it('every fault at every place', () => {
    for (const place of places) {
      systemSchema.parse(place.system);
      const at = prepare(place.code, library);
      for (const code of faultCodes) {
        for (const spot of spotsOf(at, code)) {
          const bench = openBench({ kind: 'find', seed: 5, place: place.code, faults: [{ code, spot }] }, library);
          const claims = solve(bench);
          const judged = judgeExercise(bench, claims);
          if (!judged.passed)
            console.log(
              place.code,
              code,
              JSON.stringify(spot),
              JSON.stringify({ ...judged, faults: judged.faults.map((f) => [f.named, f.shown, f.cured]) }).slice(0, 400),
              JSON.stringify(bench.done().map((d) => [d.key, d.number, d.text])).slice(0, 300),
            );
        }
      }
      console.log(place.code, faultCodes.filter((c) => spotsOf(at, c).length > 0).length);
    }
    console.log(
      faultCodes.length,
      faultCodes.filter((c) => !places.some((p) => spotsOf(prepare(p.code, library), c).length > 0)),
    );
    for (let i = 0; i < 5; i++) console.log(JSON.stringify(drawExercise(i, library, { faults: 2 })));
  });
});
