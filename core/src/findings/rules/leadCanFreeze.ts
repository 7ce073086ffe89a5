import { isLithium } from '../../sheet';
import { jobRule } from '../rule';

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
export const leadCanFreeze = jobRule((plan) => {
  const bankLowC = plan.input.system.site.bankLowC;
  if (isLithium(plan.input.sheet.chemistry)) return null;
  const freezesC = freezing.find(([charge]) => charge >= leftAtDisconnect)?.[1] ?? -13;
  if (bankLowC >= freezesC) return null;
  const safe = freezing.find(([, celsius]) => celsius <= bankLowC)?.[0] ?? 1;
  return {
    severity: 'attention',
    role: 'loadDisconnect',
    facts: { bankLowC, leftPercent: leftAtDisconnect * 100, freezesC, safePercent: safe * 100 },
  };
});
