import { isNewerRevision, sheetDifferences } from '../../sheet';
import { jobRule } from '../rule';

/** The pinned sheet is not the latest one in the job. */
export const newerRevision = jobRule(
  (plan) => {
    const { sheet, otherSheets } = plan.input;
    const newer = otherSheets.filter((other) => isNewerRevision(other, sheet)).sort((a, b) => b.date.localeCompare(a.date))[0];
    if (!newer) return null;
    const differences = sheetDifferences(sheet, newer);
    return {
      severity: 'attention',
      facts: {
        pinned: { revision: sheet.revision, date: sheet.date },
        newer: { revision: newer.revision, date: newer.date },
        count: differences.length,
        some: differences.slice(0, 3).map(({ name, before, after }) => ({ name, before, after })),
      },
      remedies: [{ does: 'pinSheet', facts: { revision: newer.revision }, changes: [{ kind: 'pinSheet', sheet: newer.id }] }],
    };
  },
  { belongsTo: 'sheet' },
);
