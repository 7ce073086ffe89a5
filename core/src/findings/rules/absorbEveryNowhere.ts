import { statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** An absorb every so many days is the plan for months without anybody there, and no charger has the setting for it. */
export const absorbEveryNowhere = jobRule((plan) => {
  const { schools, sheet, system } = plan.input;
  if (schools.unattended !== 'absorbEvery' || (system.site.unattendedMonths ?? 0) < 1 || system.chargers.length === 0) return null;
  if (plan.settings.some((s) => s.role === 'absorbIntervalDays' && s.trueValue !== null)) return null;
  return { severity: 'attention', facts: { everyDays: statedFigure(sheet, 'unattendedAbsorb')?.target ?? null } };
});
