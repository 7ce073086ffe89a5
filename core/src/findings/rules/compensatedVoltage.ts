import { compensationOf, setpointAt } from '../../settings';
import { overVoltageTrip } from '../../sheet';
import { chargerRule } from '../rule';
import { volts, celsius } from '../words';

/** The compensated absorb voltage at the site's coldest against what loads bear and the BMS trips at. */
export const compensatedVoltage = chargerRule(
  'compensatedVoltage',
  ({ charger }, plan) => {
    const absorb = plan.setting(charger.id, 'absorbVoltage');
    const { site, loads } = plan.input.system;
    const cold = absorb && compensationOf(plan, charger.id) ? setpointAt(plan, absorb, site.bankLowC) : null;
    if (cold === null) return null;
    const opens = overVoltageTrip(plan.input.sheet, plan.facts.shape);
    const past =
      opens !== undefined && cold >= opens
        ? ({ what: 'the BMS opens at', at: opens } as const)
        : loads.maxVolts !== undefined && cold > loads.maxVolts + 1e-9
          ? ({ what: 'the loads bear', at: loads.maxVolts } as const)
          : null;
    if (!past) return null;
    return {
      severity: past.at === opens ? 'stop' : 'attention',
      role: 'compensationSlope',
      text: `At ${celsius(site.bankLowC)} ${charger.name} would absorb at ${volts(cold)}, and ${past.what} ${volts(past.at)}.`,
      hurts: 'Electronics on the bank fail, or it is disconnected, on the coldest sunny day. Clamp the compensation, or feed the loads through a regulator.',
    };
  },
  { short: 'High when cold' },
);
