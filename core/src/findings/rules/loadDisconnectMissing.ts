import { meansOf, parameterFor } from '../../card';
import { presentOrFactory, cardOf, feedsLoads, devicesOf } from '../../settings';
import { isLithium } from '../../sheet';
import { jobRule, puttingRight } from '../rule';
import { amps } from '../words';

/** Nothing disconnects the loads before the bank is flat, or the output that should is left off. */
export const loadDisconnectMissing = jobRule('loadDisconnectMissing', (plan) => {
  const { system } = plan.input;
  if (system.loads.maxA === 0 || system.chargers.length === 0) return null;
  const able = devicesOf(plan.input).filter((d) => plan.setting(d.id, 'loadDisconnect') && feedsLoads({ charger: d, input: plan.input }));
  const first = able[0];
  if (!first)
    return {
      severity: 'attention',
      role: 'loadDisconnect',
      text: `Nothing on this job disconnects the loads of up to ${amps(system.loads.maxA)} when the bank is low.`,
      hurts: isLithium(plan.input.sheet.chemistry)
        ? 'The BMS cuts everything off, and may have to be woken by hand.'
        : 'A lead bank run flat sulphates, and freezes.',
    };
  const mode = plan.setting(first.id, 'loadMode');
  const card = cardOf(plan.input, first);
  const parameter = card && parameterFor(card, 'loadMode');
  const stands = presentOrFactory(plan.input, first, 'loadMode');
  const off = parameter?.unit === 'choice' && meansOf(parameter, stands) !== 'on';
  if (!mode || !off || typeof mode.value !== 'string') return null;
  return {
    severity: 'attention',
    role: 'loadMode',
    text: `${first.name}’s load output ${first.present.loadMode === undefined ? 'leaves the factory' : 'was found'} on “${String(stands)}”: its disconnect has no effect.`,
    hurts: 'The bank is run flat although a disconnect voltage is set.',
    remedies: puttingRight(mode),
  };
});
