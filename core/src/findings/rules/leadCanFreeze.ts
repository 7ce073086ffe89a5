import { isLithium } from '../../sheet';
import { jobRule } from '../rule';
import { celsius } from '../words';

/** Freezing point of the acid against charge left (general electrochemistry, specific gravity 1.12 empty to 1.27 full). */
const freezing: readonly (readonly [number, number])[] = [
  [0, -10],
  [0.2, -13],
  [0.4, -20],
  [0.6, -31],
  [0.8, -50],
  [1, -62],
];
/** Charge that is left when loads are disconnected at the sheet's figure, as a rule. */
const leftAtDisconnect = 0.2;

/** A lead bank whose acid freezes at the charge left when the loads go off. */
export const leadCanFreeze = jobRule('leadCanFreeze', (plan) => {
  const low = plan.input.system.site.bankLowC;
  if (isLithium(plan.input.sheet.chemistry)) return null;
  const at = freezing.find(([charge]) => charge >= leftAtDisconnect)?.[1] ?? -13;
  if (low >= at) return null;
  const safe = freezing.find(([, celsiusAt]) => celsiusAt <= low)?.[0] ?? 1;
  return {
    severity: 'attention',
    role: 'loadDisconnect',
    text: `The bank falls to ${celsius(low)}; with about ${leftAtDisconnect * 100} % of charge left its acid freezes at ${celsius(at)}, and stays liquid from about ${safe * 100} % on.`,
    hurts: 'Ice bursts the cells. Disconnect earlier in winter, or give the bank more sun than the loads take.',
  };
});
