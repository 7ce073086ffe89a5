import { isLithium } from '../../sheet';
import { chargerRule, puttingRight, readingOf } from '../rule';

/** How many times too large or too small a slope is that was entered on another basis. */
const factors = [2, 3, 4, 6, 12, 24, 1 / 2, 1 / 3, 1 / 4, 1 / 6, 1 / 12, 1 / 24];

/** A slope found on the device, or overridden, whose sign or size speaks of another basis than the menu's. */
export const slopeAsFound = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'compensationSlope');
  const wanted = setting && !setting.off && typeof setting.exact === 'number' ? setting.exact : 0;
  if (!setting || isLithium(plan.input.sheet.chemistry) || wanted >= 0) return null;
  const overridden = setting.override ? (setting.trueValue ?? undefined) : undefined;
  const slope = overridden ?? setting.presentTrue;
  const shown = overridden === undefined ? setting.present : setting.value;
  if (slope === undefined || slope === 0 || typeof shown !== 'number') return null;
  const ratio = slope / wanted;
  const factor = factors.find((f) => Math.abs(ratio / f - 1) < 0.08) ?? null;
  if (ratio > 0 && factor === null && ratio > 0.7 && ratio < 1.4) return null;
  return {
    severity: ratio < 0 || ratio > 1 ? 'stop' : 'attention',
    role: 'compensationSlope',
    facts: {
      found: overridden === undefined,
      reads: readingOf(setting, shown),
      ratio,
      factor,
      right: typeof setting.value === 'number' && overridden === undefined ? readingOf(setting, setting.value) : null,
      /** V/°C per cell. */
      sheetSlope: wanted,
    },
    remedies: puttingRight(setting),
  };
});
