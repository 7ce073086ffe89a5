import { chargerRule, clearing, readingOf } from '../rule';

/** Target values that the charger's own rules do not accept together. */
export const ruleBroken = chargerRule(({ charger, card }, plan) => {
  for (const rule of card.constraints) {
    const own = plan.setting(charger.id, rule.parameter);
    const other = plan.setting(charger.id, rule.other);
    if (typeof own?.value !== 'number' || typeof other?.value !== 'number' || own.unit !== other.unit || own.off || other.off) continue;
    const holds = rule.relation === 'atLeast' ? own.value >= other.value + rule.gap - 1e-9 : own.value <= other.value - rule.gap + 1e-9;
    if (holds) continue;
    const overridden = [own, other].find((s) => s.override);
    return {
      severity: 'attention',
      role: overridden?.role ?? rule.parameter,
      facts: {
        role: rule.parameter,
        value: readingOf(own, own.value),
        other: rule.other,
        otherValue: readingOf(own, other.value),
        relation: rule.relation,
        gap: rule.gap === 0 ? null : readingOf(own, rule.gap),
      },
      remedies: overridden ? [clearing(charger.id, overridden.role)] : [],
    };
  }
  return null;
});
