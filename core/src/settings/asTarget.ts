import { fromDevice, offNumber, type DeviceValues } from '../card';
import { deviceSetting, type Plan } from './derive';
import { cardOf, devicesOf, type Override } from './input';
import { targetsOf } from './onDevice';

/**
 * Overrides that make a device hold these values: a sister’s, or those of a file. What is the target already, and what the plan sets nothing for, gets none.
 * Nothing is tested here: what leaves the sheet’s bands is found like any other override.
 *
 * @param values as a display without an error shows them; one that reads wrong will show them with its error, so that the battery gets the same
 * @param said why, by whom and when, for every one of them
 */
export function overridesHolding(plan: Plan, device: string, values: DeviceValues, said: Pick<Override, 'reason' | 'by' | 'date'>): readonly Override[] {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  if (!card) return [];
  const targets = targetsOf(plan, device);
  const floating = card.parameters.find((p) => p.role === 'floatVoltage');
  const plain = deviceSetting(plan.facts, card);
  const shown = values.floatVoltage;
  // What counts from float counts from the float that will stand there.
  const float =
    floating && floating.unit !== 'choice' && typeof shown === 'number' ? fromDevice(floating, shown, plain) : plan.setting(device, 'floatVoltage')?.trueValue;
  const at = deviceSetting(plan.facts, card, float ?? undefined);
  return card.parameters.flatMap((p): Override[] => {
    const value = values[p.role];
    if (value === undefined || targets[p.role] === value || !plan.setting(device, p.role)) return [];
    const wanted = p.unit === 'choice' ? value : typeof value !== 'number' ? null : offNumber(p) === value ? (false as const) : fromDevice(p, value, at);
    return wanted === null ? [] : [{ charger: device, role: p.role, value: wanted, ...said }];
  });
}
