import { resumeHysteresis } from '../../system';
import { chargerRule, clearing } from '../rule';

/** Resume so near the cutoff that the sensor's own error makes the charger chatter or resume on a cold cell. */
export const resumeTooClose = chargerRule(({ charger }, plan) => {
  const cutoffC = plan.setting(charger.id, 'lowTempCutoff')?.trueValue;
  const setting = plan.setting(charger.id, 'lowTempResume');
  if (cutoffC == null || setting?.trueValue == null) return null;
  const leastDegrees = resumeHysteresis(charger.sensor);
  if (setting.trueValue - cutoffC >= leastDegrees - 1e-9) return null;
  return {
    severity: 'attention',
    role: 'lowTempResume',
    facts: { resumeC: setting.trueValue, cutoffC, leastDegrees },
    remedies: setting.override ? [clearing(charger.id, 'lowTempResume')] : [],
  };
});
