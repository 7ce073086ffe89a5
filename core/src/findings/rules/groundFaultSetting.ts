import { parameterFor } from '../../card';
import { presentOrFactory } from '../../settings';
import { chargerRule, puttingRight } from '../rule';

/** A ground-fault detector set against how the system is earthed. */
export const groundFaultSetting = chargerRule(({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'groundFaultDetection');
  const earthed = plan.input.system.site.grounding;
  const reads = presentOrFactory(plan.input, charger, 'groundFaultDetection');
  if (!setting || earthed === undefined || typeof setting.value !== 'string' || typeof reads !== 'string') return null;
  if (parameterFor(card, 'groundFaultDetection')?.unit !== 'choice' || reads === setting.value) return null;
  return { severity: 'attention', role: 'groundFaultDetection', facts: { reads, earthed, fits: setting.value }, remedies: puttingRight(setting) };
});
