import {
  actionsFor,
  choicesAt,
  faultCodes,
  faultKinds,
  handCodes,
  hintsOf,
  judgeExercise,
  openBench,
  places,
  prepare,
  setAllRight,
  solve,
  spotsOf,
  type Judged,
} from '../practice';
import { shipped } from '../testing/shipped';
import { practiceEnglish, type BenchSay } from './index';

const sayOn = (bench: ReturnType<typeof openBench>): BenchSay => ({
  name: (id) => bench.devices.find((d) => d.id === id)?.name ?? `?${id}`,
  label: (id, role) => bench.devices.find((d) => d.id === id)?.card.parameters.find((p) => p.role === role)?.label ?? `?${role}`,
  shown: (_, __, value) => String(value),
  volts: (v) => `${v.toFixed(2)} V`,
  amps: (a) => `${a.toFixed(1)} A`,
  celsius: (c) => `${c.toFixed(1)} °C`,
  stage: (stage) => stage,
});

describe('what the practice bench says', () => {
  it('has a cause, a complaint, what it does, how it shows and a cure for every fault, each a sentence, no two the same', () => {
    const causes = faultCodes.map((code) => practiceEnglish.faults[code].cause('X'));
    expect(new Set(causes).size).toBe(faultCodes.length);
    for (const code of faultCodes) {
      const { complaint, does, shows, cure, cause } = practiceEnglish.faults[code];
      for (const sentence of [complaint, does, shows, cure])
        expect(sentence)
          .withContext(code)
          .toMatch(/^[A-Z0-9“].*[.]$/s);
      expect(cause('X'))
        .withContext(code)
        .toMatch(/^[A-Z]/);
      expect(cause('X')).withContext(code).not.toMatch(/[.]$/);
    }
    for (const hand of handCodes)
      expect(practiceEnglish.hands[hand].does('X'))
        .withContext(hand)
        .toMatch(/^(Clear|Plug|Move|Remake|Close|Switch|Swap|Join|Balance|Replace) /);
  });

  it('lets no owner say that a bank is never full which other sources fill', () => {
    const full = faultCodes.filter((code) => practiceEnglish.complaint(code, 1).includes('It never gets full.'));
    expect([...full].sort()).toEqual(['absorbLow', 'absorbTimeShort', 'displayHigh', 'taperHigh']);
    for (const code of faultCodes) {
      const [alone, beside] = [practiceEnglish.complaint(code, 1), practiceEnglish.complaint(code, 2)];
      expect(beside).withContext(code).not.toContain('It never gets full.');
      expect(beside !== alone)
        .withContext(code)
        .toBe(full.includes(code));
      expect(beside)
        .withContext(code)
        .toMatch(/^[A-Z0-9“].*[.]$/s);
    }
  });

  it('writes every line of what was done, every hint and every thing to get, with names and numbers and nothing left out', () => {
    const written = new Set<string>();
    for (const place of places)
      for (const code of faultCodes) {
        const spot = spotsOf(prepare(place.code, shipped), code)[0];
        if (!spot) continue;
        const bench = openBench({ kind: 'find', seed: 2, place: place.code, faults: [{ code, spot }] }, shipped);
        const say = sayOn(bench);
        for (const { keys } of faultKinds[code].proofs(spot, bench.at)) for (const action of keys.flatMap(actionsFor)) bench.act(action);
        bench.act({ do: 'hint' });
        bench.act({ do: 'hint' });
        const lines = [
          ...bench.done().map((d) => practiceEnglish.done(d, say)),
          ...hintsOf(bench).map((h) => practiceEnglish.hint(h, say)),
          ...choicesAt(bench).map((c) => practiceEnglish.choice(c, say)),
        ];
        for (const text of lines)
          expect(text)
            .withContext(`${place.code} ${code}`)
            .not.toMatch(/undefined|NaN|null|\?[a-z]|[a-z]:[a-z]/);
        for (const d of bench.done()) written.add(d.key.split(':')[0]!);
      }
    expect([...written].sort()).toEqual(['clamp', 'cut', 'display', 'drop', 'log', 'look', 'meter', 'monitor', 'sensor', 'strings', 'thermometer']);
  });

  it('says what came of it by the worst of it', () => {
    const bench = openBench({ kind: 'find', seed: 2, place: 'cabin', faults: [{ code: 'snow', spot: { device: null, role: null } }] }, shipped);
    const good = judgeExercise(bench, solve(bench));
    const of = (change: Partial<Judged>): string => practiceEnglish.verdict({ ...good, passed: false, ...change }, 'find');
    const fault = good.faults[0]!;
    expect(practiceEnglish.verdict(good, 'find')).toBe('Found, shown and put right.');
    expect(of({ hazards: [{ code: 'cutUnderSun', device: 'east', at: 0 }] })).toContain('dangerous');
    expect(of({ faults: [{ ...fault, named: false }] })).toBe('Not found.');
    expect(of({ faults: [fault, { ...fault, named: false }] })).toBe('Part of it was found.');
    expect(of({ faults: [{ ...fault, shown: false }] })).toContain('not shown');
    expect(of({ faults: [{ ...fault, cured: false }] })).toBe('Found, and not put right.');
    expect(of({ needless: [{ hand: 'replaceBattery', device: null }] })).toContain('nothing called for');
    const program = openBench({ kind: 'program', seed: 1, place: 'cabin', device: 'east' }, shipped);
    expect(practiceEnglish.verdict(judgeExercise(program, []), 'program')).toMatch(/^Not done: \d+ values are wrong\.$/);
    setAllRight(program);
    expect(practiceEnglish.verdict(judgeExercise(program, []), 'program')).toBe('Programmed as the sheet says.');
  });
});
