import { parameterFor } from '../../card';
import { cardOf } from '../../settings';
import type { Draft } from '../finding';
import { companionRule, puttingRight } from '../rule';

type ThermostatAsFound =
  | { readonly wrong: 'output'; readonly reads: string; readonly fits: string }
  | { readonly wrong: 'setpoint'; readonly foundC: number; readonly leastC: number };

/** A thermostat found on a setpoint, or on an output, that lets sources charge a bank that is too cold. */
export const thermostatAsFound = companionRule<ThermostatAsFound>('thermostat', (companion, plan) => {
  if (companion.switches.length === 0) return null;
  const found: Draft<ThermostatAsFound>[] = [];
  const output = plan.setting(companion.id, 'outputMode');
  const card = cardOf(plan.input, companion);
  const parameter = card && parameterFor(card, 'outputMode');
  const reads = companion.present.outputMode;
  if (parameter?.unit === 'choice' && typeof reads === 'string' && typeof output?.value === 'string' && reads !== output.value)
    found.push({ severity: 'stop', role: 'outputMode', facts: { wrong: 'output', reads, fits: output.value }, remedies: puttingRight(output) });
  const setpoint = plan.setting(companion.id, 'thermostatSetpoint');
  const leastC = setpoint?.band?.min;
  const foundC = setpoint?.override ? undefined : setpoint?.presentTrue;
  if (foundC !== undefined && leastC !== undefined && foundC < leastC - 1e-9)
    found.push({ severity: 'stop', role: 'thermostatSetpoint', facts: { wrong: 'setpoint', foundC, leastC }, remedies: puttingRight(setpoint) });
  return found;
});
