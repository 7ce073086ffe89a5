import type { Finding } from '../../findings';
import { type Covered, type Due, type Job, countVerdicts, countWords, openStops } from '../../job';
import { formatNumber, formatTemperature, type TemperatureScale } from '../../quantity';
import type { Plan } from '../../settings';
import { capacityText, chemistryWords } from '../../sheet';
import type { Section } from '../paper';

/** What the job is, how it stands and what comes next, in a few lines. */
export function glance(job: Job, plan: Plan, findings: readonly Finding[], covered: readonly Covered[], due: readonly Due[], scale: TemperatureScale): Section {
  const { bank, site } = job.system;
  const units = bank.unitsInSeries * bank.stringsInParallel;
  const stops = openStops(findings, job).length;
  const visit = job.visits.at(-1);
  const counts = countVerdicts(covered);
  return {
    id: 'glance',
    title: 'At a glance',
    blocks: [
      {
        kind: 'facts',
        rows: [
          {
            name: 'Bank',
            text: `${units} × ${job.sheet.maker} ${job.sheet.battery}, ${bank.unitsInSeries} in series, ${bank.stringsInParallel} ${bank.stringsInParallel === 1 ? 'string' : 'strings'}; ${formatNumber(plan.facts.nominalVolts, 1)} V, ${capacityText(plan.facts.ratedAh)} ${chemistryWords[job.sheet.chemistry]}, ${plan.facts.cells} cells in series`,
          },
          {
            name: 'Place',
            text: `${site.place || 'not named'}; bank ${formatTemperature(site.bankLowC, scale)} to ${formatTemperature(site.bankHighC, scale)}`,
          },
          ...(visit ? [{ name: 'Last visit', text: [visit.date, visit.by, visit.purpose].filter(Boolean).join(', ') }] : []),
          {
            name: 'Requirements',
            text: covered.length === 0 ? 'nothing to prove yet' : countWords(counts),
            ...(counts.fail > 0 ? { tone: 'stop' as const } : {}),
          },
          { name: 'Open stops', text: stops === 0 ? 'none' : String(stops), ...(stops > 0 ? { tone: 'stop' as const } : {}) },
          { name: 'Next', text: due[0] ? `${due[0].title}, by ${due[0].on}` : 'nothing is due' },
        ],
      },
    ],
  };
}
