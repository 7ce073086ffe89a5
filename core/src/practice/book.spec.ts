import { shipped } from '../testing/shipped';
import {
  bookSchema,
  faultsNext,
  judgeExercise,
  openBench,
  practisedOf,
  practisedSchema,
  solve,
  standings,
  wantedWeights,
  weightsOf,
  type FaultCode,
  type Practised,
} from './index';

let count = 0;
const line = (more: Partial<Practised>): Practised => ({
  id: `line-${++count}`,
  by: '',
  at: new Date(Date.UTC(2026, 5, 9) + 60_000 * count).toISOString(),
  exercise: { kind: 'find', seed: 1, place: 'cabin', faults: [{ code: 'absorbLow', spot: { device: 'east', role: 'absorbVoltage' } }] },
  passed: true,
  solved: [],
  missed: [],
  wrong: [],
  hazards: [],
  hints: 0,
  steps: 1,
  seconds: 60,
  ...more,
});
const solved = (code: FaultCode): Practised => line({ solved: [code] });
const missed = (code: FaultCode): Practised => line({ passed: false, missed: [code] });

describe('the book of practice', () => {
  it('has a line of what was solved and what was missed, and can be read again from its file', () => {
    const bench = openBench({ kind: 'find', seed: 4, place: 'cabin', faults: [{ code: 'floatLow', spot: { device: 'west', role: 'floatVoltage' } }] }, shipped);
    const untried = practisedOf(bench, judgeExercise(bench, []), { id: 'a', by: 'KM', at: '2026-06-09T08:00:00Z' });
    expect(untried).toEqual(jasmine.objectContaining({ passed: false, solved: [], missed: ['floatLow'], steps: 0 }));
    const claims = solve(bench);
    const done = practisedOf(bench, judgeExercise(bench, [...claims, { code: 'snow', device: null, shownBy: [0] }]), {
      id: 'b',
      by: 'KM',
      at: '2026-06-09T08:10:00Z',
    });
    expect(done).toEqual(jasmine.objectContaining({ passed: true, solved: ['floatLow'], missed: [], wrong: ['snow'], by: 'KM' }));
    const file = { format: 'calm-keel/practice', version: 1, entries: [untried, done] };
    expect(bookSchema.parse(JSON.parse(JSON.stringify(file))).entries).toEqual([untried, done]);
    expect(practisedSchema.safeParse({ ...done, solved: ['noSuchFault'] }).success).toBeFalse();
  });

  it('wants what was missed last most, then what was said wrongly, then what is new, then what is known', () => {
    const weight = weightsOf([solved('absorbLow'), missed('floatHigh'), line({ wrong: ['snow'] }), missed('limitLow'), solved('limitLow')]);
    expect(wantedWeights).toEqual({ missedLast: 8, mistaken: 4, neverMet: 2, known: 1 });
    expect((['floatHigh', 'snow', 'taperHigh', 'absorbLow', 'limitLow'] as const).map(weight)).toEqual([8, 4, 2, 1, 1]);
    expect(weightsOf([solved('snow'), line({ wrong: ['snow'] })])('snow')).toBe(4);
  });

  it('lists first what goes wrong most', () => {
    const list = standings([missed('floatHigh'), missed('floatHigh'), solved('floatHigh'), missed('snow'), solved('absorbLow')]);
    expect(list.slice(0, 3).map((s) => [s.code, s.met, s.solved, s.last])).toEqual([
      ['floatHigh', 3, 1, true],
      ['snow', 1, 0, false],
      ['absorbLow', 1, 1, true],
    ]);
    expect(list.at(-1)).toEqual(jasmine.objectContaining({ met: 0, last: null }));
  });

  it('gives two faults after five solved in a row, three after ten, and one again after a miss', () => {
    const row = (n: number): Practised[] => Array.from({ length: n }, () => solved('absorbLow'));
    expect([0, 4, 5, 9, 10, 30].map((n) => faultsNext(row(n)))).toEqual([1, 1, 2, 2, 3, 3]);
    expect(faultsNext([...row(12), missed('snow')])).toBe(1);
    expect(faultsNext([...row(12), missed('snow'), ...row(5)])).toBe(2);
    const program = line({ passed: false, exercise: { kind: 'program', seed: 1, place: 'cabin', device: 'east' } });
    expect(faultsNext([...row(5), program]))
      .withContext('programming is another thing')
      .toBe(2);
  });
});
