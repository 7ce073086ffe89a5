import { parameterFor } from '../../card';
import { presentOrFactory } from '../../settings';
import { chargerRule, puttingRight } from '../rule';

/** A ground-fault detector set against how the system is earthed. */
export const groundFaultSetting = chargerRule('groundFaultSetting', ({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'groundFaultDetection');
  const how = plan.input.system.site.grounding;
  const stands = presentOrFactory(plan.input, charger, 'groundFaultDetection');
  if (!setting || how === undefined || typeof setting.value !== 'string' || typeof stands !== 'string') return null;
  const parameter = parameterFor(card, 'groundFaultDetection');
  if (parameter?.unit !== 'choice' || stands === setting.value) return null;
  const words = { bonded: 'bonded to earth elsewhere', throughCharger: 'earthed only through this detector', floating: 'floating' } as const;
  return {
    severity: 'attention',
    role: 'groundFaultDetection',
    text: `${charger.name}’s ground-fault detection stands on “${stands}”, and the DC side is ${words[how]}; “${setting.value}” fits that.`,
    hurts: 'A second bond blinds or trips the detector; without the only one a fault to earth goes unseen. Local codes and a licensed electrician decide.',
    remedies: puttingRight(setting),
  };
});
