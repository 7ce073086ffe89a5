import { meansOf, parameterFor } from '../../card';
import { presentOrFactory } from '../../settings';
import { chargersWithCards } from '../words';
import type { Finding, FindingRule } from '../finding';
import { forbids } from '../equalise';

/** Equalise can be started on a bank that must not be equalised. */
export const equaliseReachable: FindingRule = {
  code: 'equaliseReachable',
  short: 'Equalise reachable',
  check: ({ plan }) => {
    if (!forbids(plan.input)) return [];
    return chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const parameter = parameterFor(card, 'equaliseEnabled');
      if (parameter?.unit !== 'choice') return [];
      const target = plan.setting(charger.id, 'equaliseEnabled');
      const present = presentOrFactory(plan.input, charger, 'equaliseEnabled');
      if (meansOf(parameter, present) === 'off') return [];
      const value = target?.value;
      return [
        {
          code: 'equaliseReachable',
          severity: 'attention',
          charger: charger.id,
          role: 'equaliseEnabled',
          text: `${charger.name} ${charger.present.equaliseEnabled === undefined ? 'leaves the factory with' : 'was found with'} equalise “${String(present)}”, and the sheet does not permit it.`,
          hurts: 'One stray press overvolts the pack, and the BMS opens with everything running.',
          remedies:
            value == null
              ? []
              : [
                  {
                    label: `Record that it now reads “${String(value)}”`,
                    changes: [{ kind: 'recordPresent', charger: charger.id, role: 'equaliseEnabled', value }],
                  },
                ],
        },
      ];
    });
  },
};
