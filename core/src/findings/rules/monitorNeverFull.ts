import { per12, lowestAbsorb } from '../../settings';
import type { Draft } from '../finding';
import { companionRule, puttingRight } from '../rule';

type NeverFull =
  | { readonly by: 'voltage'; readonly fullV: number; readonly absorbV: number; readonly apartV: number }
  | { readonly by: 'current'; readonly fullA: number; readonly endsA: number };

/** A monitor whose full voltage the chargers never reach, or whose full current the bank never falls to. */
export const monitorNeverFull = companionRule<NeverFull>('monitor', (monitor, plan) => {
  const voltage = plan.setting(monitor.id, 'fullDetectVoltage');
  const current = plan.setting(monitor.id, 'fullDetectCurrent');
  const absorbV = lowestAbsorb({ input: plan.input, other: plan.setting });
  const fullV = voltage?.presentTrue ?? voltage?.trueValue;
  const apartV = per12(plan, 0.1);
  const fullA = current?.presentTrue ?? current?.trueValue;
  const endsA = current?.band?.min;
  const found: Draft<NeverFull>[] = [];
  if (absorbV !== null && fullV != null && fullV > absorbV - apartV + 1e-9)
    found.push({ severity: 'attention', role: 'fullDetectVoltage', facts: { by: 'voltage', fullV, absorbV, apartV }, remedies: puttingRight(voltage) });
  if (fullA != null && endsA !== undefined && fullA < endsA - 1e-9)
    found.push({ severity: 'attention', role: 'fullDetectCurrent', facts: { by: 'current', fullA, endsA }, remedies: puttingRight(current) });
  return found;
});
