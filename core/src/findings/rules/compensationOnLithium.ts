import { formatNumber } from '../../quantity';
import { presentOrFactory } from '../../settings';
import { isLithium } from '../../sheet';
import { chargersWithCards } from '../words';
import type { Finding, FindingRule } from '../finding';

/** Temperature compensation left on, or not switchable off, for a lithium bank. */
export const compensationOnLithium: FindingRule = {
  code: 'compensationOnLithium',
  short: 'Compensation on',
  check: ({ plan }) => {
    if (!isLithium(plan.input.sheet.chemistry)) return [];
    return chargersWithCards(plan).flatMap(({ charger }): Finding[] => {
      const setting = plan.setting(charger.id, 'compensationSlope');
      if (!setting) return [];
      if (setting.trueValue !== null && setting.trueValue !== 0)
        return [
          {
            code: 'compensationOnLithium',
            severity: 'stop',
            charger: charger.id,
            role: 'compensationSlope',
            text: `${charger.name} would compensate by ${(setting.trueValue * 1000 * plan.facts.cells).toFixed(0)} mV/°C on a lithium bank.`,
            hurts: 'On a cold morning the voltage climbs past the BMS trip.',
            remedies: setting.override
              ? [{ label: 'Switch compensation off', changes: [{ kind: 'clearOverride', charger: charger.id, role: 'compensationSlope' }] }]
              : [],
          },
        ];
      const present = presentOrFactory(plan.input, charger, 'compensationSlope');
      if (typeof present !== 'number' || present === 0 || typeof setting.value !== 'number') return [];
      const found = charger.present.compensationSlope !== undefined;
      return [
        {
          code: 'compensationOnLithium',
          severity: 'attention',
          charger: charger.id,
          role: 'compensationSlope',
          text: `${charger.name} ${found ? 'was found with' : 'leaves the factory with'} compensation on, at ${formatNumber(present, setting.digits)}\u00a0${setting.unit}; a lithium bank wants ${formatNumber(setting.value, 0)}.`,
          hurts: 'A reset brings it back, and cold mornings then push the voltage past the BMS trip.',
          remedies: [
            { label: 'Record that it is off now', changes: [{ kind: 'recordPresent', charger: charger.id, role: 'compensationSlope', value: setting.value }] },
          ],
        },
      ];
    });
  },
};
