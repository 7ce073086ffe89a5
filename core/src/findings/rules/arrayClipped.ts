import { arrayRule } from '../arrays';

/** More array than the charger can pass on. */
export const arrayClipped = arrayRule('arrayClipped', ({ charger, facts }) =>
  facts.stcW <= facts.ceilingW * 1.1
    ? null
    : {
        severity: 'note',
        text: `The array of ${charger.name} has ${facts.stcW.toFixed(0)} W by its label, and the charger passes on ${facts.ceilingW.toFixed(0)} W in absorb.`,
        hurts: 'The rest is lost around noon on clear days. System shows how much in a year.',
      },
);
