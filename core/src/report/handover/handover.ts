import { findFindings } from '../../findings';
import { type Covered, type Job, dueOf } from '../../job';
import { formatNumber, type TemperatureScale } from '../../quantity';
import { lastWord } from '../../runsheet';
import { deriveSettings } from '../../settings';
import { editionOf, type Sheet } from '../../sheet';
import { care } from './care';
import { decisions } from './decisions';
import { figures } from './figures';
import { glance } from './glance';
import { open } from './open';
import { withoutEmptyColumns, type Paper, type Section } from '../paper';
import { visits } from './visits';
import { proof } from './proof';
import { readBacks } from './readBacks';
import { settings } from './settings';
import { system } from './system';

/** What a hand-over is made with besides the job. */
export interface HandoverOptions {
  /** Year-month-day. */
  readonly today: string;
  /** Every sum written out. */
  readonly sums: boolean;
  /** The scale its temperatures are written on; °C where nobody chose. */
  readonly scale?: TemperatureScale;
  /** Sheets this device knows besides those of the job. */
  readonly library?: readonly Sheet[];
}

/**
 * The hand-over: what was set, why, from which paper, what was read back, what was proved, what is open, when to come back. Made from the job alone, so the
 * same job gives the same report on any device.
 *
 * @param covered every requirement with its evidence, as `coverage` gives it
 */
export function handover(job: Job, covered: readonly Covered[], { today, sums, scale = 'C', library = [] }: HandoverOptions): Paper {
  const plan = deriveSettings(job);
  const findings = findFindings(plan, today);
  const due = dueOf(job, covered, today, library);
  const { sheet } = job;
  return {
    title: `Hand-over: ${job.name}`,
    lines: [
      [job.system.site.place, `${formatNumber(plan.facts.nominalVolts, 1)} V bank`, today].filter(Boolean).join(', '),
      `Settings follow ${sheet.maker} ${sheet.battery}, “${sheet.document}”, ${editionOf(sheet)}.`,
    ],
    foot: `${job.name}, ${today}. ${lastWord}`,
    sections: tidied([
      glance(job, plan, findings, covered, due, scale),
      ...visits(job),
      system(job, plan, scale),
      figures(plan, scale),
      settings(job, plan, sums, scale),
      decisions(job, plan, findings, scale),
      readBacks(job, plan),
      proof(job, covered, scale),
      open(job, findings, covered, scale),
      care(plan, due),
    ]),
  };
}

/** Sections whose tables hold no column in which nothing stands. */
const tidied = (sections: readonly Section[]): readonly Section[] => sections.map((s) => ({ ...s, blocks: s.blocks.map(withoutEmptyColumns) }));
