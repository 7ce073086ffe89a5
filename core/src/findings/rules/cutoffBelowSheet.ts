import { keyedText, standsAt } from '../../settings';
import { celsius, chargersWithCards } from '../words';
import type { Finding, FindingRule } from '../finding';

/** A cutoff, overridden or as found, under what sheet and sensor margin ask. */
export const cutoffBelowSheet: FindingRule = {
  code: 'cutoffBelowSheet',
  short: 'Cutoff below the sheet',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }): Finding[] => {
      const setting = plan.setting(charger.id, 'lowTempCutoff');
      const least = setting?.band?.min;
      if (!setting || least === undefined || plan.input.system.site.bankLowC >= least) return [];
      const text = (value: number, how: string): string =>
        `${charger.name} cutoff ${how} ${celsius(value)}; sheet and sensor margin ask for ${celsius(least, 1)}.`;
      const hurts = 'The cells are charged while too cold, which harms lithium for good.';
      if (setting.trueValue !== null && setting.trueValue < least - 1e-9)
        return [
          {
            code: 'cutoffBelowSheet',
            severity: 'stop',
            charger: charger.id,
            role: 'lowTempCutoff',
            text: text(setting.trueValue, 'would be'),
            hurts,
            remedies: setting.override
              ? [{ label: 'Go back to the derived cutoff', changes: [{ kind: 'clearOverride', charger: charger.id, role: 'lowTempCutoff' }] }]
              : [],
          },
        ];
      const found = standsAt(plan, charger, 'lowTempCutoff');
      if (charger.present.lowTempCutoff === undefined || found === null || found >= least - 1e-9 || typeof setting.value !== 'number') return [];
      return [
        {
          code: 'cutoffBelowSheet',
          severity: 'stop',
          charger: charger.id,
          role: 'lowTempCutoff',
          text: text(found, 'stands as found at'),
          hurts,
          remedies: [
            {
              label: `Record that it now reads ${keyedText(setting)}`,
              changes: [{ kind: 'recordPresent', charger: charger.id, role: 'lowTempCutoff', value: setting.value }],
            },
          ],
        },
      ];
    }),
};
