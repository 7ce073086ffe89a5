import type { Charger, PanelArray } from '../../system';
import type { Card } from '../../card';
import { arrayFacts, type ArrayFacts } from '../../system';
import type { Plan } from '../../settings';
import { amps, celsius, chargersWithCards, mostAmps, volts } from '../words';
import type { Finding, FindingRule } from '../finding';

/** Every array of the plan with what follows from it. */
const arrays = (plan: Plan): readonly { charger: Charger; card: Card; array: PanelArray; facts: ArrayFacts }[] =>
  chargersWithCards(plan).flatMap(({ charger, card }) => {
    if (!charger.array) return [];
    const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue ?? plan.facts.nominalVolts;
    const limit = mostAmps(plan, charger, card);
    return [{ charger, card, array: charger.array, facts: arrayFacts(charger.array, card, plan.input.system.site, absorb, limit) }];
  });

const rule = (
  code: string,
  find: (entry: ReturnType<typeof arrays>[number], plan: Plan) => Pick<Finding, 'severity' | 'text' | 'hurts'> | null,
): FindingRule => ({
  code,
  check: ({ plan }) =>
    arrays(plan).flatMap((entry) => {
      const found = find(entry, plan);
      return found ? [{ code, charger: entry.charger.id, remedies: [], ...found }] : [];
    }),
});

/** Open-circuit voltage at the record low above what the input bears. */
export const arrayTooHigh = rule('arrayTooHigh', ({ charger, array, facts }, plan) =>
  facts.mostVolts === null || facts.coldVolts <= facts.mostVolts
    ? null
    : {
        severity: 'stop',
        text: `The array of ${charger.name}, ${array.inSeries} in series, reaches ${volts(facts.coldVolts, 1)} at ${celsius(plan.input.system.site.recordLowC)}; its input bears ${volts(facts.mostVolts, 0)}.`,
        hurts: 'The first clear frosty dawn destroys the charger. Put fewer panels in series.',
      },
);

/** Operating voltage too low to charge on the hottest day. */
export const arrayTooLow = rule('arrayTooLow', ({ charger, facts }, plan) =>
  facts.hotVolts >= facts.leastVolts
    ? null
    : {
        severity: 'attention',
        text: `The array of ${charger.name} works at ${volts(facts.hotVolts, 1)} when the air has ${celsius(plan.input.system.site.recordHighC)}; to reach absorb it needs ${volts(facts.leastVolts, 1)}.`,
        hurts: 'On hot days the bank is never filled, whatever is set.',
      },
);

/** Short-circuit current, with bright clouds counted, above what the input bears. */
export const arrayTooMuchCurrent = rule('arrayTooMuchCurrent', ({ charger, facts }) =>
  facts.mostA === null || facts.designA <= facts.mostA
    ? null
    : {
        severity: 'stop',
        text: `The array of ${charger.name} can drive ${amps(facts.designA, 1)} into a short in bright light; its input is rated ${amps(facts.mostA)}.`,
        hurts: 'The input or its wiring overheats. Put fewer strings side by side.',
      },
);

/** More array than the charger can pass on. */
export const arrayClipped = rule('arrayClipped', ({ charger, facts }) =>
  facts.stcW <= facts.ceilingW * 1.1
    ? null
    : {
        severity: 'note',
        text: `The array of ${charger.name} has ${facts.stcW.toFixed(0)} W by its label, and the charger passes on ${facts.ceilingW.toFixed(0)} W in absorb.`,
        hurts: 'The rest is lost around noon on clear days. System shows how much in a year.',
      },
);

/** Three or more strings side by side without a fuse in each. */
export const arrayStringFuses = rule('arrayStringFuses', ({ charger, array }) =>
  array.inParallel < 3 || array.stringFuseA !== undefined
    ? null
    : {
        severity: 'attention',
        text: `${array.inParallel} strings of panels stand side by side on ${charger.name} without a fuse in each.`,
        hurts: 'The other strings feed a fault in one of them. Local codes and a licensed electrician decide on the fuse.',
      },
);
