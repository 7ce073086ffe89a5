import { settingRule } from '../rule';

/** A setting whose least lies above its most: two figures or entries contradict each other, and no value is right. */
export const bandImpossible = settingRule((s) => {
  const { min, max } = s.band ?? {};
  if (s.inherited || s.value === null || min === undefined || max === undefined || min <= max + 1e-9) return null;
  return { severity: 'attention', facts: { role: s.role, least: min, most: max } };
});
