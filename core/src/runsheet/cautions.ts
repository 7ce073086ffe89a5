import { isLithium, overVoltageTrip } from '../sheet';
import { arrayFacts } from '../system';
import { cardOf, type Plan } from '../settings';
import { formatQuantity } from '../quantity';
import type { CardKind } from '../card';

/** A hazard of this system that is said, and acknowledged, before anything is opened. */
export interface Caution {
  readonly code: string;
  readonly title: string;
  readonly says: string;
}

/** Above this many volts DC work belongs to licensed people. */
const touchVolts = 60;

/** Where the cautions leave the last word. */
export const lastWord = 'The makers’ manuals and local codes have the last word; work above 60 V DC and on mains belongs to licensed people.';

/** Highest open-circuit voltage of any array at the record low, V; 0 without arrays. */
function arrayVolts(plan: Plan): number {
  return Math.max(
    0,
    ...plan.input.system.chargers.flatMap((charger) => {
      const card = cardOf(plan.input, charger);
      return card && charger.array ? [arrayFacts(charger.array, card, plan.input.system.site, plan.facts.nominalVolts, card.ratings.outputA).coldVolts] : [];
    }),
  );
}

/** One rule a caution: whether this system has the hazard, and what to say of it. */
const rules: readonly ((plan: Plan, has: (kind: CardKind) => boolean) => Caution | null)[] = [
  () => ({
    code: 'shortCircuit',
    title: 'The bank can weld a spanner',
    says: 'Rings and watch off, insulated tools, one conductor at a time, terminals covered while you work beside them.',
  }),
  (plan) =>
    isLithium(plan.input.sheet.chemistry)
      ? null
      : {
          code: 'hydrogen',
          title: 'Gas over the batteries',
          says:
            plan.input.sheet.chemistry === 'flooded'
              ? 'Lead-acid gives off hydrogen while it charges, and for a while after. Air the place first; no flame, no spark, nothing switched beside the cells.'
              : 'A sealed lead-acid battery gives off hydrogen when it is overcharged. Air the place first; no flame, no spark. Never open its valves.',
        },
  (plan) => {
    const volts = arrayVolts(plan);
    return volts === 0
      ? null
      : {
          code: 'array',
          title: 'The array is live in daylight',
          says: `Up to ${formatQuantity(volts, 'V', 0)} on a cold morning, with nothing to switch it off at the panels. Open it at its isolator, never at a connector under load: that draws an arc.${volts > touchVolts ? ' Above 60 V: licensed people only.' : ''}`,
        };
  },
  (plan) =>
    plan.facts.nominalVolts > touchVolts
      ? { code: 'bankVolts', title: 'The bank is above 60 V', says: 'Work on it belongs to licensed people. Do not open covers on the strength of this sheet.' }
      : null,
  (_plan, has) =>
    has('alternator')
      ? {
          code: 'alternator',
          title: 'Belts, pulleys, hot housings',
          says: 'Engine off and key out while hands are near. The output of a turning alternator is never opened: stop it at its field.',
        }
      : null,
  (plan, has) =>
    has('alternator') && plan.input.system.bank.hasBms && overVoltageTrip(plan.input.sheet, plan.facts.shape) !== null
      ? {
          code: 'loadDump',
          title: 'A BMS that opens is a load dump',
          says: 'If it disconnects while the alternator charges, everything on the bus sees the spike. Do not provoke a trip with the engine running.',
        }
      : null,
  (_plan, has) =>
    has('turbine')
      ? {
          code: 'turbine',
          title: 'The turbine must never spin unloaded',
          says: 'Brake set and checked before a lead is touched. The diversion load gets hot, and nothing may switch it off.',
        }
      : null,
  (_plan, has) =>
    has('inverterCharger')
      ? { code: 'mains', title: 'Mains inside the inverter-charger', says: 'Its covers and its AC side belong to licensed people. Only its menu is used here.' }
      : null,
  (plan) =>
    isLithium(plan.input.sheet.chemistry)
      ? {
          code: 'coldCells',
          title: 'Cold lithium is damaged by charging',
          says: 'If the cells may be below the sheet’s minimum, leave every source off until the cutoffs are set and read back.',
        }
      : null,
  (plan) =>
    !isLithium(plan.input.sheet.chemistry) && plan.input.system.site.bankLowC < 0
      ? {
          code: 'frozen',
          title: 'A flat battery freezes',
          says: 'Do not charge a battery that may be frozen, or whose case is swollen. Thaw it, look at it, then decide.',
        }
      : null,
  (plan) => {
    const attended = plan.settings.some((s) => s.role === 'equaliseEnabled' && s.value !== null && !s.off);
    return attended
      ? {
          code: 'equalise',
          title: 'Equalising is attended',
          says: 'Water level first, air moving, hydrometer at hand, somebody there until it ends. Not today, unless it is planned.',
        }
      : null;
  },
];

/** The cautions that apply to this system, in the order in which they are said. */
export function cautionsOf(plan: Plan): readonly Caution[] {
  const kinds = new Set(plan.input.system.chargers.flatMap((c) => cardOf(plan.input, c)?.kind ?? []));
  return rules.flatMap((rule) => rule(plan, (kind) => kinds.has(kind)) ?? []);
}
