import { roleInfo } from '../../card';
import { listed, nameOf } from '../words';
import type { FindingRule } from '../finding';

/** Settings the chargers want and the sheet has no figure for. */
export const figureMissing: FindingRule = {
  code: 'figureMissing',
  belongsTo: 'sheet',
  short: 'Wants a figure',
  check: ({ plan }) => {
    const lacking = plan.settings.filter((s) => s.noValue === 'missingFigure');
    const roles = [...new Set(lacking.map((s) => s.role))];
    return roles.map((role) => {
      const names = lacking.filter((s) => s.role === role).map((s) => nameOf(plan, s.charger));
      return {
        code: 'figureMissing',
        severity: role === 'absorbVoltage' || role === 'lowTempCutoff' ? 'stop' : 'attention',
        role,
        ...(lacking[0] ? { charger: lacking.find((s) => s.role === role)?.charger ?? lacking[0].charger } : {}),
        text: `${listed(names)} ${names.length > 1 ? 'want' : 'wants'} the ${roleInfo[role].name}, and the sheet does not give it.`,
        hurts: 'Left alone, the charger keeps its factory value, which knows neither this battery nor this place.',
        remedies: [],
      };
    });
  },
};
