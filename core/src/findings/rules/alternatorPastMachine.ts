import { chargerRule, puttingRight } from '../rule';
import { amps, celsius } from '../words';

/** A regulator allowed to take more from the machine than it is rated for, or to let it run hotter than its maker allows. */
export const alternatorPastMachine = chargerRule('alternatorPastMachine', ({ charger, card }, plan) => {
  const machine = charger.machine;
  if (card.kind !== 'alternator' || !machine) return null;
  const limit = plan.setting(charger.id, 'chargeCurrentLimit')?.trueValue;
  const hot = plan.setting(charger.id, 'machineTempLimit');
  const found = hot?.override ? hot.trueValue : (hot?.presentTrue ?? hot?.trueValue);
  if (limit != null && limit > machine.ratedA + 1e-9)
    return {
      severity: 'stop',
      role: 'chargeCurrentLimit',
      text: `${charger.name} may take ${amps(limit)} from a machine of ${amps(machine.ratedA)}.`,
      hurts: 'The machine overheats.',
    };
  if (machine.maxC === undefined || found == null || found <= machine.maxC + 1e-9) return null;
  return {
    severity: 'stop',
    role: 'machineTempLimit',
    text: `${charger.name} lets the machine reach ${celsius(found)}, and its maker allows ${celsius(machine.maxC)}.`,
    hurts: 'Winding and diodes fail, and the housing burns whoever touches it.',
    remedies: puttingRight(hot),
  };
});
