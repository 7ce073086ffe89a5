import { jobRule } from '../rule';

/** A bank may be entered this much colder than the air has ever been before it is doubted, °C. */
const slack = 1;

/** A bank that is said to get colder than the air at its place ever was. */
export const siteSuspicious = jobRule(
  ({ input }) => {
    const { bankLowC, recordLowC } = input.system.site;
    return bankLowC >= recordLowC - slack ? null : { severity: 'attention', facts: { bankLowC, recordLowC } };
  },
  { belongsTo: 'system' },
);
