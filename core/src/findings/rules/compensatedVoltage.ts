import type { Role } from '../../card';
import { compensationOf, setpointAt } from '../../settings';
import { equaliseForbidden } from '../../sheet';
import { lowestTrip } from '../../system';
import { chargerRule } from '../rule';

/** Setpoints that a charger may hold and that move with the temperature. */
const held: readonly Role[] = ['absorbVoltage', 'bulkVoltage', 'equaliseVoltage'];

/** The highest compensated setpoint at the site's coldest, equalise too where it may run, against what loads take and the BMS trips at. */
export const compensatedVoltage = chargerRule(({ charger }, plan) => {
  if (!compensationOf(plan, charger.id)) return null;
  const { site, loads } = plan.input.system;
  const equalises = !equaliseForbidden(plan.input.sheet) && !plan.setting(charger.id, 'equaliseEnabled')?.off;
  const highest = held
    .flatMap((role) => {
      const setting = plan.setting(charger.id, role);
      const coldV = setting && !setting.off && (role !== 'equaliseVoltage' || equalises) ? setpointAt(plan, setting, site.bankLowC) : null;
      return coldV === null ? [] : [{ role, coldV }];
    })
    .reduce<{ role: Role; coldV: number } | null>((top, at) => (top === null || at.coldV > top.coldV ? at : top), null);
  if (!highest) return null;
  const trip = lowestTrip(plan.input.sheet, plan.input.system)?.volts;
  const past =
    trip !== undefined && highest.coldV >= trip
      ? ({ what: 'trip', atV: trip } as const)
      : loads.maxVolts !== undefined && highest.coldV > loads.maxVolts + 1e-9
        ? ({ what: 'loads', atV: loads.maxVolts } as const)
        : null;
  if (!past) return null;
  return {
    severity: past.what === 'trip' ? 'stop' : 'attention',
    role: 'compensationSlope',
    facts: { holds: highest.role, bankLowC: site.bankLowC, coldV: highest.coldV, ...past },
  };
});
