import { plan, rookMoss, withSystem } from '../testing/fixtures';
import type { Job } from '../job';
import { speak } from '../quantity';

/** The mast, whose sheet asks −4 mV/°C per cell at 25 °C, with a charger that knows only every 18 mV per 12 V: −3 and −6 mV per cell. */
function coarse(bankLowC: number, bankHighC: number, step = 18): Job {
  const job = rookMoss();
  const cards = job.cards.map((card) => ({
    ...card,
    parameters: card.parameters.map((p) => (p.role === 'compensationSlope' && p.unit !== 'choice' ? { ...p, step, max: 72 } : p)),
  }));
  return withSystem({ ...job, cards }, { site: { ...job.system.site, bankLowC, bankHighC } });
}
const slope = (job: Job) => plan(job).setting('mast', 'compensationSlope')!;
const said = (job: Job): string =>
  slope(job)
    .derivation.map((step) => speak(step.words, 'C'))
    .find((words) => words.includes('step:')) ?? '';

describe('a slope between two steps of a charger goes to the one that harms less', () => {
  it('the flatter where the cold would get too much: 1 mV × 10 °C × 6 cells against 2 mV × 35 °C × 6 cells', () => {
    const cold = coarse(-10, 35);
    expect(slope(cold).value).toBe(18);
    expect(said(cold)).toBe('The flatter step: 60 mV too much when hot, where the steeper one would give 420 mV too much when cold.');
  });

  it('the steeper where the heat would: 1 mV × 20 °C × 6 cells against 2 mV × 1 °C × 6 cells', () => {
    const hot = coarse(24, 45);
    expect(slope(hot).value).toBe(36);
    expect(said(hot)).toBe('The steeper step: 12 mV too much when cold, where the flatter one would give 120 mV too much when hot.');
  });

  it('a bank that never gets warmer than the reference gets nothing too much when hot, and one never colder nothing when cold', () => {
    expect(said(coarse(-10, 20))).toBe('The flatter step: 0 mV too much when hot, where the steeper one would give 420 mV too much when cold.');
    expect(said(coarse(25, 45))).toBe('The steeper step: 0 mV too much when cold, where the flatter one would give 120 mV too much when hot.');
    // The same harm either way: the flatter, which spares the bank when it is hot.
    expect(slope(coarse(20, 35)).value).toBe(18);
  });

  it('says nothing where a step lies on the slope itself', () => {
    expect([slope(coarse(-10, 35, 24)).value, said(coarse(-10, 35, 24))]).toEqual([24, '']);
  });
});
