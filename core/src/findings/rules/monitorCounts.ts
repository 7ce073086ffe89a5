import type { Role } from '../../card';
import type { Draft } from '../finding';
import { companionRule, puttingRight } from '../rule';

/** How far what a monitor counts with may be from what is worked out: a part of the capacity, percents of efficiency, a step of the exponent. */
const mayDiffer: readonly (readonly [Role, (wanted: number) => number])[] = [
  ['capacity', (wanted) => 0.05 * wanted],
  ['chargeEfficiency', () => 3],
  ['peukertExponent', () => 0.06],
];

/** A monitor found counting with another bank: its capacity, efficiency or exponent. */
export const monitorCounts = companionRule('monitor', (monitor, plan) =>
  mayDiffer.flatMap(([role, most]): Draft<{ role: Role; found: number; wanted: number }>[] => {
    const setting = plan.setting(monitor.id, role);
    const found = setting?.override ? undefined : setting?.presentTrue;
    if (!setting || found === undefined || typeof setting.exact !== 'number' || Math.abs(found - setting.exact) <= most(setting.exact) + 1e-9) return [];
    return [{ severity: 'attention', role, facts: { role, found, wanted: setting.exact }, remedies: puttingRight(setting) }];
  }),
);
