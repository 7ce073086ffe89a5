import type { Job } from '@calm-keel/core/job';
import type { Plan } from '@calm-keel/core/settings';
import type { EntryContext, Figure, FigureEntry, FigureKey } from '@calm-keel/core/sheet';

/** What the reader of typed figures has to know: the bank, and on which basis the figure stands so far. */
export const entryContext = (plan: Plan, before: Figure | undefined): EntryContext => ({
  chemistry: plan.input.sheet.chemistry,
  shape: plan.facts.shape,
  basis: before?.basis ?? 'unit',
});

/** A job with a figure as it was just read; page, words and rank of the one before it stay; a new one has the rank of its document. Null takes it off the sheet. */
export function withEntry(job: Job, key: FigureKey, entry: FigureEntry | null, extra: Partial<Figure> = {}): Job {
  const { [key]: before, ...others } = job.sheet.figures;
  if (entry === null) return { ...job, sheet: { ...job.sheet, figures: others } };
  const { assumed: _said, ...numbers } = entry;
  const { min: _min, target: _target, max: _max, ...paper } = before ?? { rank: job.sheet.rank ?? ('notSaid' as const) };
  return { ...job, sheet: { ...job.sheet, figures: { ...others, [key]: { ...paper, ...numbers, ...extra } } } };
}
