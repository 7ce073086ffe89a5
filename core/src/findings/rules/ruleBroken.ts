import { roleInfo } from '../../card';
import { formatQuantity } from '../../quantity';
import { chargerRule } from '../rule';

/** Target values that the charger's own rules do not accept together. */
export const ruleBroken = chargerRule(
  'ruleBroken',
  ({ charger, card }, plan) => {
    for (const rule of card.constraints) {
      const own = plan.setting(charger.id, rule.parameter);
      const other = plan.setting(charger.id, rule.other);
      if (typeof own?.value !== 'number' || typeof other?.value !== 'number' || own.unit !== other.unit || own.off || other.off) continue;
      const kept = rule.relation === 'atLeast' ? own.value >= other.value + rule.gap - 1e-9 : own.value <= other.value - rule.gap + 1e-9;
      if (kept) continue;
      const overridden = [own, other].find((s) => s.override);
      const show = (value: number): string => formatQuantity(value, own.unit, own.digits);
      return {
        severity: 'attention',
        role: overridden?.role ?? rule.parameter,
        text: `${charger.name} refuses ${roleInfo[rule.parameter].name} ${show(own.value)} beside ${roleInfo[rule.other].name} ${show(other.value)}: it must stay ${rule.gap === 0 ? '' : `${show(rule.gap)} `}${rule.relation === 'atLeast' ? 'above' : 'below'}.`,
        hurts: 'No order of edits gets there. One of the two has to give way.',
        remedies: overridden
          ? [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger: charger.id, role: overridden.role }] }]
          : [],
      };
    }
    return null;
  },
  { short: 'Refuses these values' },
);
