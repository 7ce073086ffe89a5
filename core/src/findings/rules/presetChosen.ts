import { chargerRule, puttingRight } from '../rule';

/** A charger found on a preset battery type instead of its own figures. */
export const presetChosen = chargerRule(({ charger, card }, plan) => {
  const target = plan.setting(charger.id, 'batteryType');
  const found = charger.present.batteryType;
  if (typeof target?.value !== 'string' || found === undefined || found === target.value || target.inherited) return null;
  const preset = card.presets.find((p) => p.name === found);
  return {
    severity: 'attention',
    role: 'batteryType',
    facts: { reads: String(found), fits: target.value, sets: preset ? Object.keys(preset.sets).length : null },
    remedies: puttingRight(target),
  };
});
