import { keyedText, standsAt } from '../../settings';
import { chargersWithCards, volts } from '../words';
import type { Finding, FindingRule } from '../finding';
import { forbids } from '../equalise';

/** Equalise is off, but the stored voltage is still harmful. */
export const equaliseStored: FindingRule = {
  code: 'equaliseStored',
  short: 'Equalise stored high',
  check: ({ plan }) => {
    if (!forbids(plan.input)) return [];
    return chargersWithCards(plan).flatMap(({ charger }): Finding[] => {
      const most = plan.setting(charger.id, 'absorbVoltage')?.band?.max;
      const target = plan.setting(charger.id, 'equaliseVoltage');
      const stored = standsAt(plan, charger, 'equaliseVoltage');
      if (most === undefined || !target || target.inherited || stored === null) return [];
      const planned = target.trueValue;
      if (planned !== null && planned > most + 1e-9)
        return [
          {
            code: 'equaliseStored',
            severity: 'attention',
            charger: charger.id,
            role: 'equaliseVoltage',
            text: `${charger.name} cannot store an equalise voltage below ${volts(planned)}, above the sheet’s most of ${volts(most)}.`,
            hurts: 'A factory reset or a stray press overcharges the bank.',
            remedies: [],
          },
        ];
      if (stored <= most + 1e-9) return [];
      return [
        {
          code: 'equaliseStored',
          severity: 'attention',
          charger: charger.id,
          role: 'equaliseVoltage',
          text: `${charger.name} still stores ${volts(stored, 1)} for equalise; the sheet’s most is ${volts(most, 1)}.`,
          hurts: 'A factory reset or a stray press brings it to the bank.',
          remedies:
            typeof target.value === 'number'
              ? [
                  {
                    label: `Record that it now reads ${keyedText(target)}`,
                    changes: [{ kind: 'recordPresent', charger: charger.id, role: 'equaliseVoltage', value: target.value }],
                  },
                ]
              : [],
        },
      ];
    });
  },
};
