import { withTaken, type Job } from '@calm-keel/core/job';
import { pageOfText, readPaper, type PaperReading } from '@calm-keel/core/paper';
import { sampleJob } from '../testing';
import { asChanged, itemsOf, type Item } from './paper-items';

const shape = { cellsPerUnit: 8, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: 230 };
const read = (text: string): PaperReading => readPaper([pageOfText(text)], { chemistry: 'lfp', shape, assumed: { chemistry: false, cells: false } });
const paper = read(
  'AGM battery, 24 V 110 Ah\nAbsorption voltage\t28.2 V\nFloat voltage\t26.9 V (26.7–27.1)\nFloat\t27.4 V\nbelow 0 °C\tno charging\n0–10 °C\t0.1 C',
);
const items = (job: Job, reading = paper, changed = {}, refused: readonly string[] = []): readonly Item[] =>
  itemsOf(job, 'doc', reading, shape, changed, refused);
const one = (list: readonly Item[], name: string): Item => list.find((i) => i.name === name)!;

describe('what a paper offers', () => {
  it('is sure, or to be looked at, with what the job has instead', () => {
    const list = items(sampleJob());
    expect(list.map((i) => [i.name, i.state])).toEqual([
      ['Battery and paper', 'look'],
      ['Absorb voltage', 'sure'],
      ['Float voltage', 'look'],
      ['Float voltage', 'look'],
      ['Current when cold', 'sure'],
    ]);
    expect(one(list, 'Battery and paper').doubts).toEqual(['This job says LFP.']);
    expect(one(list, 'Absorb voltage').instead?.replaceAll('\u00a0', ' ')).toBe('28.1 V (28.0–28.4) per battery');
    // The same value in the job is nothing to be warned of.
    expect(one(list, 'Float voltage').instead).toBeNull();
    expect(one(list, 'Absorb voltage').about).toContain('3.52\u00a0V a cell: inside the normal range of LFP');
  });

  it('is taken once the sheet has it from there, and left out once somebody said no', () => {
    const candidate = one(items(sampleJob()), 'Absorb voltage').candidate!;
    const taken = withTaken(sampleJob(), 'doc', 'absorbVoltage', candidate);
    expect(one(items(taken), 'Absorb voltage')).toEqual(jasmine.objectContaining({ state: 'taken', instead: null }));
    expect(one(items(sampleJob(), paper, {}, [candidate.id]), 'Absorb voltage').state).toBe('not');
  });

  it('can mean something else, be counted otherwise or be typed, and then is read or left as it was', () => {
    const candidate = one(items(sampleJob()), 'Absorb voltage').candidate!;
    expect(asChanged(candidate, { key: 'storageVoltage' }, 'lfp', shape)).toEqual(jasmine.objectContaining({ key: 'storageVoltage' }));
    expect(asChanged(candidate, { key: 'absorbTime' }, 'lfp', shape)).toBeNull();
    expect(asChanged(candidate, { basis: 'bank' }, 'lfp', shape)?.entry.basis).toBe('bank');
    const entry = { ...candidate.entry, target: 28 };
    expect(asChanged({ ...candidate, doubts: ['rival'] }, { entry }, 'lfp', shape)).toEqual(jasmine.objectContaining({ entry, doubts: [] }));
  });
});
