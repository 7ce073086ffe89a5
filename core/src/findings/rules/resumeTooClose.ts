import { resumeHysteresis } from '../../system';
import { celsius, chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** Resume so near the cutoff that the sensor's own error makes the charger chatter or resume on a cold cell. */
export const resumeTooClose: FindingRule = {
  code: 'resumeTooClose',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }) => {
      const cutoff = plan.setting(charger.id, 'lowTempCutoff')?.trueValue;
      const setting = plan.setting(charger.id, 'lowTempResume');
      if (cutoff == null || setting?.trueValue == null) return [];
      const least = resumeHysteresis(charger.sensor);
      if (setting.trueValue - cutoff >= least - 1e-9) return [];
      return [
        {
          code: 'resumeTooClose',
          severity: 'attention',
          charger: charger.id,
          role: 'lowTempResume',
          text: `${charger.name} resumes at ${celsius(setting.trueValue)}, ${celsius(setting.trueValue - cutoff, 1)} above its cutoff; ${celsius(least, 1)} is wanted.`,
          hurts: 'The sensor warms before the cell does, so charging resumes on a core that is still too cold.',
          remedies: setting.override
            ? [{ label: 'Go back to the derived resume', changes: [{ kind: 'clearOverride', charger: charger.id, role: 'lowTempResume' }] }]
            : [],
        },
      ];
    }),
};
