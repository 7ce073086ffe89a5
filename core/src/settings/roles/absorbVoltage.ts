import { parameterFor } from '../../card';
import { clamp } from '../../quantity';
import { cardOf } from '../input';
import { missing, per12, provableVolts, voltagePreference, voltsFromSheet, type RoleContext, type RoleRule } from '../context';
import type { Step } from '../setting';

/** What the monitors want to see before they call it full, V, least first; empty where none counts volts. */
const monitorsWant = ({ input }: RoleContext): readonly number[] =>
  input.system.companions.flatMap((c) => {
    const card = cardOf(input, c);
    const found = c.present.fullDetectVoltage;
    return card && parameterFor(card, 'fullDetectVoltage') && typeof found === 'number' ? [found] : [];
  });

/**
 * Absorb voltage: the sheet’s target, or the low end of its band by the gentle school, scaled to the bank. By the school `raiseAbsorb` it is lifted
 * within the band until the monitor sees it; the short and hot school ends an alternator’s charge at the low end.
 */
export const absorbVoltage: RoleRule = {
  role: 'absorbVoltage',
  want: (context) => {
    const { schools } = context.input;
    const low = schools.topCharge === 'gentle' || (context.card.kind === 'alternator' && schools.alternator === 'shortHot');
    const sheet = voltsFromSheet(context, 'absorbVoltage', low ? 'least' : 'target');
    if (!sheet) return missing(context, 'absorb voltage');
    const monitor = schools.monitorFull === 'raiseAbsorb' ? Math.max(-Infinity, ...monitorsWant(context)) + per12(context, 0.1) : -Infinity;
    const raised = monitor > sheet.volts ? clamp(sheet.band, monitor) : sheet.volts;
    const aim = provableVolts(context, raised, sheet.band);
    const notes: Step[] = [
      ...(schools.topCharge === 'gentle'
        ? [{ kind: 'note', words: `School: gentle. A full charge to the target at least every ${schools.fullEveryDays} days, for balancing.` } as const]
        : []),
      ...(raised > sheet.volts
        ? [{ kind: 'change', words: 'Raised within the band so that the monitor sees it', value: raised - sheet.volts, unit: 'V', digits: 2 } as const]
        : []),
    ];
    return {
      kind: 'number',
      exact: aim.volts,
      band: sheet.band,
      inset: aim.inset,
      prefer: voltagePreference(context),
      steps: [...sheet.steps, ...notes, ...aim.steps],
    };
  },
};
