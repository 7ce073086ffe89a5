import { chargerRule, puttingRight } from '../rule';

/** A charger found on a preset battery type instead of its own figures. */
export const presetChosen = chargerRule(
  'presetChosen',
  ({ charger, card }, plan) => {
    const target = plan.setting(charger.id, 'batteryType');
    const found = charger.present.batteryType;
    if (typeof target?.value !== 'string' || found === undefined || found === target.value || target.inherited) return null;
    const preset = card.presets.find((p) => p.name === found);
    return {
      severity: 'attention',
      role: 'batteryType',
      text: `${charger.name} was found on the battery type “${String(found)}”${preset ? `, which sets ${Object.keys(preset.sets).length} values at once` : ''}; “${target.value}” takes the sheet’s figures.`,
      hurts: 'A preset hides figures or overwrites them when it is chosen again.',
      remedies: puttingRight(target),
    };
  },
  { short: 'On a preset' },
);
