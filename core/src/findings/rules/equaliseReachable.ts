import { meansOf, parameterFor } from '../../card';
import { presentOrFactory } from '../../settings';
import { equaliseForbidden } from '../../sheet';
import { chargerRule, recording } from '../rule';

/** Equalise can be started on a bank that must not be equalised. */
export const equaliseReachable = chargerRule(({ charger, card }, plan) => {
  const parameter = parameterFor(card, 'equaliseEnabled');
  const why = equaliseForbidden(plan.input.sheet);
  if (!why || parameter?.unit !== 'choice') return null;
  const present = presentOrFactory(plan.input, charger, 'equaliseEnabled');
  if (meansOf(parameter, present) === 'off') return null;
  const target = plan.setting(charger.id, 'equaliseEnabled');
  return {
    severity: 'attention',
    role: 'equaliseEnabled',
    facts: { found: charger.present.equaliseEnabled !== undefined, reads: String(present), why },
    remedies: target?.value == null ? [] : [recording(target, target.value)],
  };
});
