import { presentOrFactory } from '../../settings';
import { isLithium } from '../../sheet';
import type { DeviceReading } from '../finding';
import { chargerRule, clearing, readingOf } from '../rule';

type CompensationOn =
  { readonly set: 'target'; readonly perDegreeV: number } | { readonly set: 'found' | 'factory'; readonly reads: DeviceReading; readonly off: DeviceReading };

/** Temperature compensation left on, or not switchable off, for a lithium bank. */
export const compensationOnLithium = chargerRule<CompensationOn>(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'compensationSlope');
  if (!isLithium(plan.input.sheet.chemistry) || !setting) return null;
  if (setting.trueValue !== null && setting.trueValue !== 0)
    return {
      severity: 'stop',
      role: 'compensationSlope',
      facts: { set: 'target', perDegreeV: setting.trueValue * plan.facts.cells },
      remedies: setting.override ? [clearing(charger.id, 'compensationSlope')] : [],
    };
  const present = presentOrFactory(plan.input, charger, 'compensationSlope');
  if (typeof present !== 'number' || present === 0 || typeof setting.value !== 'number') return null;
  return {
    severity: 'attention',
    role: 'compensationSlope',
    facts: {
      set: charger.present.compensationSlope === undefined ? 'factory' : 'found',
      reads: readingOf(setting, present),
      off: readingOf(setting, setting.value),
    },
    remedies: [{ does: 'recordOff', changes: [{ kind: 'recordPresent', charger: charger.id, role: 'compensationSlope', value: setting.value }] }],
  };
});
