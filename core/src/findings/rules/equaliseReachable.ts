import { parameterFor } from '../../card';
import { presentOrFactory, type SettingsInput } from '../../settings';
import { isLithium } from '../../sheet';
import { chargersWithCards, volts } from '../words';
import type { Finding, FindingRule } from '../finding';

const forbids = (input: SettingsInput): boolean => isLithium(input.sheet.chemistry) || input.sheet.figures.equaliseVoltage?.state === 'notPermitted';

/** Equalise can be started on a bank that must not be equalised. */
export const equaliseReachable: FindingRule = {
  code: 'equaliseReachable',
  check: ({ plan }) => {
    if (!forbids(plan.input)) return [];
    return chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const parameter = parameterFor(card, 'equaliseEnabled');
      if (parameter?.unit !== 'choice') return [];
      const target = plan.setting(charger.id, 'equaliseEnabled');
      const present = presentOrFactory(plan.input, charger, 'equaliseEnabled');
      if (parameter.options.find((o) => o.value === present)?.means === 'off') return [];
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

/** Equalise is off, but the stored voltage is still harmful. */
export const equaliseStored: FindingRule = {
  code: 'equaliseStored',
  check: ({ plan }) => {
    if (!forbids(plan.input)) return [];
    return chargersWithCards(plan).flatMap(({ charger }): Finding[] => {
      const most = plan.setting(charger.id, 'absorbVoltage')?.band?.max;
      const target = plan.setting(charger.id, 'equaliseVoltage');
      const stored = presentOrFactory(plan.input, charger, 'equaliseVoltage');
      if (most === undefined || !target || typeof stored !== 'number') return [];
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
                    label: `Record that it now reads ${volts(target.value, 1)}`,
                    changes: [{ kind: 'recordPresent', charger: charger.id, role: 'equaliseVoltage', value: target.value }],
                  },
                ]
              : [],
        },
      ];
    });
  },
};
