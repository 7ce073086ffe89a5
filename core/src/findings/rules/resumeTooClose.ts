import { resumeHysteresis } from '../../system';
import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

/** Resume so near the cutoff, as set or as found, that the sensor's own error makes the charger chatter or resume on a cold cell. */
export const resumeTooClose = chargerRule(({ charger }, plan) => {
  const cutoff = judged(plan.setting(charger.id, 'lowTempCutoff'));
  const setting = plan.setting(charger.id, 'lowTempResume');
  const resume = judged(setting);
  if (!cutoff || !resume || plan.setting(charger.id, 'lowTempCutoff')?.off) return null;
  const leastDegrees = resumeHysteresis(charger.sensor);
  if (resume.value - cutoff.value >= leastDegrees - 1e-9) return null;
  return {
    severity: 'attention',
    role: 'lowTempResume',
    facts: { found: resume.found, resumeC: resume.value, cutoffC: cutoff.value, leastDegrees },
    remedies: setting?.override || resume.found ? puttingRight(setting) : [],
  };
});
