import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

type PastMachine =
  | { readonly past: 'current'; readonly limitA: number; readonly ratedA: number }
  | { readonly past: 'temperature'; readonly limitC: number; readonly maxC: number };

/** A regulator allowed to take more from the machine than it is rated for, or to let it run hotter than its maker allows. */
export const alternatorPastMachine = chargerRule<PastMachine>(({ charger, card }, plan) => {
  const machine = charger.machine;
  if (card.kind !== 'alternator' || !machine) return null;
  const limit = judged(plan.setting(charger.id, 'chargeCurrentLimit'))?.value;
  const hot = plan.setting(charger.id, 'machineTempLimit');
  const found = judged(hot)?.value;
  if (limit != null && machine.ratedA !== undefined && limit > machine.ratedA + 1e-9)
    return { severity: 'stop', role: 'chargeCurrentLimit', facts: { past: 'current', limitA: limit, ratedA: machine.ratedA } };
  if (machine.maxC === undefined || found == null || found <= machine.maxC + 1e-9) return null;
  return {
    severity: 'stop',
    role: 'machineTempLimit',
    facts: { past: 'temperature', limitC: found, maxC: machine.maxC },
    remedies: puttingRight(hot),
  };
});
