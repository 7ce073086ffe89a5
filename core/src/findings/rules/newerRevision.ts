import { isNewerRevision, sheetDifferences } from '../../sheet';
import type { FindingRule } from '../finding';

/** The pinned sheet is not the latest one kept with the job. */
export const newerRevision: FindingRule = {
  code: 'newerRevision',
  belongsTo: 'sheet',
  check: ({ plan }) => {
    const { sheet, otherSheets } = plan.input;
    const newer = otherSheets.filter((other) => isNewerRevision(other, sheet)).sort((a, b) => b.date.localeCompare(a.date))[0];
    if (!newer) return [];
    const differences = sheetDifferences(sheet, newer);
    const some = differences.slice(0, 3).map((d) => `${d.name.toLowerCase()} ${d.before} to ${d.after}`);
    return [
      {
        code: 'newerRevision',
        severity: 'attention',
        text: `The job rests on rev ${sheet.revision} of ${sheet.date}, and rev ${newer.revision} of ${newer.date} is here too: ${differences.length === 0 ? 'no figure differs' : `${differences.length} ${differences.length === 1 ? 'figure differs' : 'figures differ'}, ${some.join('; ')}`}.`,
        hurts: 'Makers change figures for a reason, and a claim is judged by the sheet in force.',
        remedies: [{ label: `Pin rev ${newer.revision}`, changes: [{ kind: 'pinSheet', sheet: newer.id }] }],
      },
    ];
  },
};
