import type { Candidate, Derating, PaperFacts } from '../paper';
import { withSaid, type Assumable } from '../settings';
import { cellsOfVolts, figureKeys, hasFigures, isLithium, rankedAs, type Figure, type FigureEntry, type FigureKey, type Sheet } from '../sheet';
import type { Attachment, Job } from './job';

type Paper = NonNullable<Attachment['paper']>;

/** What is known of a document as a paper. */
export const paperAt = (job: Job, id: string): Paper => job.attachments.find((a) => a.id === id)?.paper ?? {};

/** Whether a document is the sheet’s own paper: the sheet names it, or names none yet and nothing was read from another. */
export function isOwnPaper(job: Job, id: string): boolean {
  const { title } = paperAt(job, id);
  const others = figureKeys.some((key) => job.sheet.figures[key] !== undefined && job.sheet.figures[key]?.place?.document !== id);
  return job.sheet.document === '' ? !others : job.sheet.document === title;
}

/**
 * Says something of a paper: its title, revision, date, whose figures it holds. Said once for the document, it holds for every figure that was read from it
 * and of which nobody had said it; what the sheet itself says follows when this is its own paper.
 */
export function withPaper(job: Job, id: string, change: Partial<Paper>): Job {
  const own = isOwnPaper(job, id);
  const attachments = job.attachments.map((a) => (a.id === id ? { ...a, paper: without({ ...a.paper, ...change }) } : a));
  const { rank } = change;
  const figures = rank === undefined ? job.sheet.figures : ranked(job.sheet, id, rank);
  const sheet: Sheet = { ...job.sheet, figures };
  if (!own) return { ...job, attachments, sheet };
  const said: Sheet = {
    ...sheet,
    ...(change.title === undefined ? {} : { document: change.title }),
    ...(change.revision === undefined ? {} : { revision: change.revision }),
    ...(change.date === undefined ? {} : { date: change.date }),
    ...(change.fetched === undefined ? {} : { fetched: change.fetched }),
  };
  return { ...job, attachments, sheet: rank === undefined ? said : rankedAs(said, rank) };
}

const without = (paper: Paper): Paper => Object.fromEntries(Object.entries(paper).filter(([, value]) => value !== ''));

const ranked = (sheet: Sheet, id: string, rank: NonNullable<Paper['rank']>): Sheet['figures'] =>
  Object.fromEntries(
    figureKeys.flatMap((key) => {
      const figure = sheet.figures[key];
      return figure ? [[key, figure.place?.document === id && figure.rank === 'notSaid' ? { ...figure, rank } : figure]] : [];
    }),
  );

/** A figure as it would stand on the sheet when it is taken from a paper. */
export function figureTaken(job: Job, id: string, candidate: Pick<Candidate, 'entry' | 'quote' | 'page' | 'boxes'>): Figure {
  const { assumed: _said, ...numbers } = candidate.entry;
  const paper = paperAt(job, id);
  const own = isOwnPaper(job, id);
  const name = paper.title ?? job.attachments.find((a) => a.id === id)?.name ?? '';
  return {
    ...numbers,
    rank: (own ? (job.sheet.rank ?? paper.rank) : paper.rank) ?? 'notSaid',
    page: `p. ${candidate.page}`,
    ...(own || name === '' ? {} : { from: `${name}${paper.revision === undefined ? '' : `, rev ${paper.revision}`}`.slice(0, 160) }),
    quote: candidate.quote.slice(0, 400),
    place: { document: id, page: candidate.page, boxes: candidate.boxes.slice(0, 40).map((box) => ({ ...box })) },
  };
}

/** Takes a figure from a paper. What stood there before goes, with its trail. */
export const withTaken = (job: Job, id: string, key: FigureKey, candidate: Pick<Candidate, 'entry' | 'quote' | 'page' | 'boxes'>): Job => ({
  ...job,
  sheet: { ...job.sheet, figures: { ...job.sheet.figures, [key]: figureTaken(job, id, candidate) } },
});

/** Whether the sheet has this figure from this place of this paper. */
export function isTaken(job: Job, id: string, key: FigureKey, entry: FigureEntry, page: number): boolean {
  const figure = job.sheet.figures[key];
  return (
    figure?.place?.document === id &&
    figure.place.page === page &&
    figure.state === entry.state &&
    figure.unit === entry.unit &&
    figure.basis === entry.basis &&
    figure.min === entry.min &&
    figure.target === entry.target &&
    figure.max === entry.max
  );
}

/** What a paper says of battery and document, as it can be taken. */
export interface BatterySaid {
  readonly chemistry?: Sheet['chemistry'];
  readonly nominalVolts?: number;
  readonly capacityAh?: number;
  readonly cells?: number;
  readonly title?: string;
  readonly revision?: string;
  readonly date?: string;
}

/** The values of a paper’s facts; cells follow from volts and chemistry where the paper does not count them. */
export function batterySaid(facts: PaperFacts, readAs: { readonly chemistry: Sheet['chemistry'] }): BatterySaid {
  const values = Object.fromEntries(Object.entries(facts).map(([key, fact]) => [key, (fact as { value: unknown }).value])) as BatterySaid;
  const cells = values.cells ?? (values.nominalVolts === undefined ? undefined : cellsOfVolts(values.chemistry ?? readAs.chemistry, values.nominalVolts));
  return { ...values, ...(cells === undefined ? {} : { cells }) };
}

/** Takes what a paper says of its battery; what it does not say stays as it is, and as unsaid. */
export function withBattery(job: Job, id: string, said: BatterySaid): Job {
  const { chemistry = job.sheet.chemistry, nominalVolts, capacityAh, cells } = said;
  const unit = {
    ...job.sheet.unit,
    ...(nominalVolts === undefined ? {} : { nominalVolts }),
    ...(capacityAh === undefined ? {} : { capacityAh }),
    ...(cells === undefined ? {} : { cellsInSeries: cells }),
  };
  const known: Assumable[] = [
    ...(said.chemistry === undefined ? [] : (['chemistry'] as const)),
    ...(nominalVolts === undefined ? [] : (['nominalVolts'] as const)),
    ...(cells === undefined ? [] : (['cellsInSeries'] as const)),
  ];
  const bank = said.chemistry !== undefined && !hasFigures(job.sheet) ? { ...job.system.bank, hasBms: isLithium(chemistry) } : job.system.bank;
  const next = withSaid({ ...job, sheet: { ...job.sheet, chemistry, unit }, system: { ...job.system, bank } }, known);
  const { title, revision, date } = said;
  return withPaper(next, id, {
    ...(title === undefined ? {} : { title }),
    ...(revision === undefined ? {} : { revision }),
    ...(date === undefined ? {} : { date }),
  });
}

/** Whether the job has everything that a paper says of its battery. */
export function batteryTaken(job: Job, id: string, said: BatterySaid): boolean {
  const { sheet, assumed } = job;
  const paper = paperAt(job, id);
  return (
    (said.chemistry === undefined || (sheet.chemistry === said.chemistry && assumed?.['chemistry'] !== true)) &&
    (said.nominalVolts === undefined || (sheet.unit.nominalVolts === said.nominalVolts && assumed?.['nominalVolts'] !== true)) &&
    (said.capacityAh === undefined || sheet.unit.capacityAh === said.capacityAh) &&
    (said.title === undefined || paper.title === said.title) &&
    (said.revision === undefined || paper.revision === said.revision) &&
    (said.date === undefined || paper.date === said.date)
  );
}

/** Takes a paper’s table of current against temperature. */
export const withDerating = (job: Job, derating: Derating): Job => ({
  ...job,
  sheet: { ...job.sheet, derating: derating.rows.map((row) => ({ toC: row.toC, limit: row.limit, unit: row.unit })) },
});
