import { TestBed } from '@angular/core/testing';
import type { Card, DeviceValues } from '@calm-keel/core/card';
import type { Answer, SheetStep } from '@calm-keel/core/runsheet';
import { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { setUp, soloJob, until } from '../testing';
import { StepEntry } from './step-entry';

describe('what is entered at a step', () => {
  let entry: StepEntry;
  let work: RunWork;
  let store: JobStore;
  let given: Partial<Answer>[];
  const comparison = (): string => (entry.comparison() ?? '').replace(/\s/g, ' ');

  async function at(
    kind: SheetStep['kind'],
    change: (card: Card) => Card = (card) => card,
    present: DeviceValues = { absorbVoltage: 28.1, floatVoltage: 27.6 },
  ): Promise<SheetStep> {
    setUp(new Database(`entry-${Date.now()}-${Math.random()}`), [StepEntry]);
    store = TestBed.inject(JobStore);
    const job = soloJob();
    const system = { ...job.system, chargers: job.system.chargers.map((c) => ({ ...c, present })) };
    store.open(await TestBed.inject(JobBook).add({ ...job, system, cards: job.cards.map(change) }, 'New'));
    await until(() => store.state() === 'ready', 'the job is there');
    work = TestBed.inject(RunWork);
    work.begin('KM', store.job()!.system.provingInstrument);
    given = [];
    spyOn(work, 'answer').and.callFake((_, answer) => given.push(answer));
    entry = TestBed.inject(StepEntry);
    return goTo(kind);
  }
  function goTo(kind: SheetStep['kind']): SheetStep {
    const step = work.sheet()!.steps.find((s) => s.kind === kind)!;
    entry.be(store.settled()!, step);
    return step;
  }

  it('compares a display with the meter only when both read the same voltage, and says what follows', async () => {
    await at('compare');
    expect(entry.primary()).toEqual({ words: 'Keep the comparison', why: 'Enter what both read, or skip with a reason.' });
    entry.meterV.set(26.4);
    expect(entry.comparison()).toBeNull();
    entry.answer();
    expect(given).toEqual([]);

    // A tenth of 26.4 V is 2.64 V: at 29.0 V they may still be the same voltage, at 29.1 V no more.
    entry.displayV.set(29.1);
    expect(comparison()).toContain('not two readings of the same voltage');
    expect(entry.primary().why).not.toBeNull();
    entry.displayV.set(29);
    expect(comparison()).toContain('2.60 V high');
    expect(comparison()).toContain('look for a bad lead first');
    expect(entry.primary().why).toBeNull();

    // 1 % of 26.4 V is 0.264 V: below it the display is off, and no lead is suspected.
    entry.displayV.set(26.15);
    expect(comparison()).toContain('0.25 V low');
    expect(comparison()).not.toContain('bad lead');
    entry.displayV.set(26.12);
    expect(comparison()).toContain('bad lead');
    entry.displayV.set(26.4);
    expect(comparison()).toContain('nothing to correct');
    entry.answer();
    expect(given).toEqual([{ state: 'done', meterV: 26.4, displayV: 26.4, instrument: store.job()!.system.provingInstrument }]);
  });

  it('speaks of calibration only where the display has one', async () => {
    await at('compare', (card) => ({ ...card, display: { ...card.display, calibratable: true } }));
    entry.meterV.set(26.4);
    entry.displayV.set(26.15);
    expect(comparison()).toContain('Calibrate it');
    await at('compare', (card) => ({ ...card, display: { ...card.display, calibratable: false } }));
    entry.meterV.set(26.4);
    entry.displayV.set(26.15);
    expect(comparison()).toContain('The values to enter move by as much.');
  });

  it('reads the display back: what is left empty reads as it must, what differs is counted, what cannot be read stops it', async () => {
    const [first, second] = (await at('persist')).looks!;
    expect(entry.primary()).toEqual({ words: 'All read so', why: null });
    entry.see(first!.role, '27.0');
    expect(entry.isOdd(first!)).toBeTrue();
    expect(entry.isOdd(second!)).toBeFalse();
    expect(entry.primary().words).toBe('Record 1 that reads otherwise');
    entry.see(second!.role, '12.0');
    expect(entry.primary().words).toBe('Record 2 that read otherwise');
    entry.see(second!.role, 'abc');
    expect(entry.problemOf(second!)).not.toBeNull();
    expect(entry.primary().why).toContain('correct it first');
    entry.answer();
    expect(given).toEqual([]);
    entry.see(second!.role, ' ');
    entry.answer();
    expect(given).toEqual([{ state: 'done', values: { [first!.role]: 27, [second!.role]: second!.want! } }]);
  });

  it('reads the menu off, and notes no value that nobody saw', async () => {
    const [first, second] = (await at('readOff', undefined, {})).looks!;
    expect(entry.primary().why).toContain('Enter at least one');
    entry.see(first!.role, '28.1');
    expect(entry.primary()).toEqual({ words: 'Note 1 value', why: null });
    entry.answer();
    expect(given).toEqual([{ state: 'done', values: { [first!.role]: 28.1 } }]);
    entry.see(second!.role, '27.6');
    expect(entry.primary().words).toBe('Note 2 values');
  });

  it('is not done before all is ticked, and a tick can be taken back', async () => {
    const step = await at('tools');
    const items = step.items!;
    expect(entry.primary()).toEqual({ words: 'All within reach', why: `${items.length} not ticked yet.` });
    for (const item of items) entry.tick(item, true);
    expect(entry.primary().why).toBeNull();
    entry.tick(items[0]!, false);
    expect(entry.primary().why).toBe('1 not ticked yet.');
  });

  it('lets go of what was typed when another step comes', async () => {
    await at('compare');
    entry.meterV.set(26.4);
    goTo('identify');
    expect(entry.meterV()).toBeUndefined();
  });

  it('notes a firmware without the blanks around it', async () => {
    await at('identify');
    entry.text.set('  ');
    expect(entry.primary().why).toContain('what its screen shows');
    entry.text.set(' 2.1 ');
    expect(entry.primary().words).toBe('Note 2.1');
    entry.answer();
    expect(given).toEqual([{ state: 'done', reading: '2.1' }]);
  });
});
