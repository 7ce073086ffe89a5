import type { Role } from '../../card';
import type { FigureKey } from '../../sheet';
import type { FindingRule } from '../finding';

/** Figures a setting is worked out from, where they have another name. */
const figuresOf: Partial<Record<Role, readonly FigureKey[]>> = {
  lowTempCutoff: ['chargeTemperature'],
  chargeCurrentLimit: ['chargeCurrentMax', 'chargeCurrentRecommended'],
  loadDisconnect: ['disconnectVoltage'],
};

/** Settings the chargers need and the sheet has no figure for, or none that counts. */
export const figureMissing: FindingRule<{ role: Role; devices: readonly string[]; withheld: boolean }> = {
  belongsTo: 'sheet',
  check: ({ plan }) => {
    const lacking = plan.settings.filter((s) => s.noValue === 'missingFigure');
    return [...new Set(lacking.map((s) => s.role))].map((role) => {
      const devices = lacking.filter((s) => s.role === role).map((s) => s.charger);
      const figures: readonly string[] = figuresOf[role] ?? [role];
      return {
        severity: role === 'absorbVoltage' || role === 'lowTempCutoff' ? 'stop' : 'attention',
        role,
        ...(devices[0] === undefined ? {} : { charger: devices[0] }),
        facts: { role, devices, withheld: plan.withheld.some(({ key }) => figures.includes(key)) },
      };
    });
  },
};
