import { compensationOf, setpointAt } from '../../settings';
import { lowestTrip } from '../../system';
import { chargerRule } from '../rule';

/** The compensated absorb voltage at the site's coldest against what loads take and the BMS trips at. */
export const compensatedVoltage = chargerRule(({ charger }, plan) => {
  const absorb = plan.setting(charger.id, 'absorbVoltage');
  const { site, loads } = plan.input.system;
  const coldV = absorb && compensationOf(plan, charger.id) ? setpointAt(plan, absorb, site.bankLowC) : null;
  if (coldV === null) return null;
  const trip = lowestTrip(plan.input.sheet, plan.input.system)?.volts;
  const past =
    trip !== undefined && coldV >= trip
      ? ({ what: 'trip', atV: trip } as const)
      : loads.maxVolts !== undefined && coldV > loads.maxVolts + 1e-9
        ? ({ what: 'loads', atV: loads.maxVolts } as const)
        : null;
  if (!past) return null;
  return { severity: past.what === 'trip' ? 'stop' : 'attention', role: 'compensationSlope', facts: { bankLowC: site.bankLowC, coldV, ...past } };
});
