import { clearing, settingRule } from '../rule';

/** Told by a finding of their own, whoever set them. */
const toldElsewhere: readonly string[] = ['absorbVoltage', 'floatVoltage'];

/** A person's figure that lies outside the sheet. */
export const overrideOutsideSheet = settingRule((s) =>
  s.override && !toldElsewhere.includes(s.role) && s.within === 'outside' && s.trueValue !== null
    ? {
        severity: 'attention',
        facts: { role: s.role, comesTo: s.trueValue, min: s.band?.min ?? null, max: s.band?.max ?? null, by: s.override.by },
        remedies: [clearing(s.charger, s.role)],
      }
    : null,
);
