import { per12, lowestAbsorb, setpointAt } from '../../settings';
import { chargersWithCards, judged } from '../places';
import type { Draft } from '../finding';
import { companionRule, puttingRight } from '../rule';

type NeverFull =
  | { readonly by: 'voltage'; readonly fullV: number; readonly absorbV: number; readonly apartV: number }
  | { readonly by: 'heat'; readonly fullV: number; readonly hotV: number; readonly bankHighC: number }
  | { readonly by: 'current'; readonly fullA: number; readonly endsA: number };

/** A monitor whose full voltage the chargers never reach, or whose full current the bank never falls to. */
export const monitorNeverFull = companionRule<NeverFull>('monitor', (monitor, plan) => {
  const voltage = plan.setting(monitor.id, 'fullDetectVoltage');
  const current = plan.setting(monitor.id, 'fullDetectCurrent');
  const absorbV = lowestAbsorb({ input: plan.input, other: plan.setting });
  const fullV = judged(voltage)?.value;
  const apartV = per12(plan, 0.1);
  const fullA = judged(current)?.value;
  const endsA = current?.band?.min;
  const found: Draft<NeverFull>[] = [];
  if (absorbV !== null && fullV != null && fullV > absorbV - apartV + 1e-9)
    found.push({ severity: 'attention', role: 'fullDetectVoltage', facts: { by: 'voltage', fullV, absorbV, apartV }, remedies: puttingRight(voltage) });
  // In the heat a compensated absorb falls: what lay below it at the reference may not then.
  const { bankHighC } = plan.input.system.site;
  const hot = chargersWithCards(plan).flatMap(({ charger }) => {
    const setting = plan.setting(charger.id, 'absorbVoltage');
    const volts = setting ? setpointAt(plan, setting, bankHighC) : null;
    return volts === null ? [] : [volts];
  });
  const hotV = Math.min(...hot);
  if (found.length === 0 && hot.length > 0 && fullV != null && fullV > hotV + 1e-9)
    found.push({ severity: 'attention', role: 'fullDetectVoltage', facts: { by: 'heat', fullV, hotV, bankHighC }, remedies: [] });
  if (fullA != null && endsA !== undefined && fullA < endsA - 1e-9)
    found.push({ severity: 'attention', role: 'fullDetectCurrent', facts: { by: 'current', fullA, endsA }, remedies: puttingRight(current) });
  return found;
});
