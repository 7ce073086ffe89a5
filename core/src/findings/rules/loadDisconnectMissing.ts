import { meansOf, parameterFor } from '../../card';
import { presentOrFactory, cardOf, feedsLoads, devicesOf } from '../../settings';
import { isLithium } from '../../sheet';
import { jobRule, puttingRight } from '../rule';

type NoDisconnect =
  | { readonly device: null; readonly loadsA: number; readonly bms: boolean; readonly lithium: boolean }
  | { readonly device: string; readonly found: boolean; readonly reads: string };

/** Nothing disconnects the loads before the bank is flat, or the output that should is left off. */
export const loadDisconnectMissing = jobRule<NoDisconnect>((plan) => {
  const { system } = plan.input;
  if (system.loads.maxA === 0 || system.chargers.length === 0) return null;
  const first = devicesOf(plan.input).find((d) => plan.setting(d.id, 'loadDisconnect') && feedsLoads({ charger: d, input: plan.input }));
  if (!first)
    return {
      severity: 'attention',
      role: 'loadDisconnect',
      facts: { device: null, loadsA: system.loads.maxA, bms: system.bank.hasBms, lithium: isLithium(plan.input.sheet.chemistry) },
    };
  const mode = plan.setting(first.id, 'loadMode');
  const card = cardOf(plan.input, first);
  const parameter = card && parameterFor(card, 'loadMode');
  const reads = presentOrFactory(plan.input, first, 'loadMode');
  const off = parameter?.unit === 'choice' && meansOf(parameter, reads) !== 'on';
  if (!mode || !off || typeof mode.value !== 'string') return null;
  return {
    severity: 'attention',
    role: 'loadMode',
    facts: { device: first.id, found: first.present.loadMode !== undefined, reads: String(reads) },
    remedies: puttingRight(mode),
  };
});
