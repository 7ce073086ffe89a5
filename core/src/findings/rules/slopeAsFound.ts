import { formatQuantity, formatNumber } from '../../quantity';
import { isLithium } from '../../sheet';
import { chargerRule, puttingRight } from '../rule';

/** How many times too large or too small a slope is that was keyed on another basis, and how that is said. */
const factors: readonly (readonly [number, string])[] = [
  [2, 'twice'],
  [3, 'three times'],
  [4, 'four times'],
  [6, 'six times'],
  [12, 'twelve times'],
  [24, 'twenty-four times'],
  [1 / 2, 'half of'],
  [1 / 3, 'a third of'],
  [1 / 4, 'a quarter of'],
  [1 / 6, 'a sixth of'],
  [1 / 12, 'a twelfth of'],
  [1 / 24, 'a twenty-fourth of'],
];

/** A slope found on the device, or overridden, whose sign or size speaks of another basis than the menu's. */
export const slopeAsFound = chargerRule(
  'slopeAsFound',
  ({ charger }, plan) => {
    const setting = plan.setting(charger.id, 'compensationSlope');
    const wanted = setting && !setting.off && typeof setting.exact === 'number' ? setting.exact : 0;
    if (!setting || isLithium(plan.input.sheet.chemistry) || wanted >= 0) return null;
    const overridden = setting.override ? (setting.trueValue ?? undefined) : undefined;
    const stands = overridden ?? setting.presentTrue;
    const shown = overridden === undefined ? setting.present : setting.value;
    if (stands === undefined || stands === 0 || typeof shown !== 'number') return null;
    const ratio = stands / wanted;
    const factor = factors.find(([f]) => Math.abs(ratio / f - 1) < 0.08)?.[1];
    if (ratio > 0 && !factor && ratio > 0.7 && ratio < 1.4) return null;
    const how =
      ratio < 0
        ? 'with its sign reversed'
        : factor === undefined
          ? `${formatNumber(ratio, 1)} times what the sheet asks`
          : `${factor} what the sheet asks, as when per cell, per 12 V and per bank are mixed up`;
    return {
      severity: ratio < 0 || ratio > 1 ? 'stop' : 'attention',
      role: 'compensationSlope',
      text: `${charger.name}’s slope stands at ${formatQuantity(shown, setting.unit, setting.digits)}, ${how}; ${typeof setting.value === 'number' && overridden === undefined ? `${formatQuantity(setting.value, setting.unit, setting.digits)} is right` : `the sheet’s is ${formatNumber(wanted * 1000, 1)} mV/°C per cell`}.`,
      hurts: ratio < 0 ? 'A wrong sign overcharges in the heat.' : 'In the cold the voltage climbs, or the bank is starved, by the same factor.',
      remedies: puttingRight(setting),
    };
  },
  { short: 'Slope as found is wrong' },
);
