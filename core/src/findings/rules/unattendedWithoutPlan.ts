import { isLithium, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** Left alone for months, and nobody has said what the chargers shall do meanwhile. */
export const unattendedWithoutPlan = jobRule((plan) => {
  const months = plan.input.system.site.unattendedMonths ?? 0;
  if (months < 1 || plan.input.schools.unattended !== 'askMaker') return null;
  const everyDays = statedFigure(plan.input.sheet, 'unattendedAbsorb')?.target ?? null;
  const storePercent = statedFigure(plan.input.sheet, 'storageCharge')?.min ?? null;
  return {
    severity: 'attention',
    role: 'floatVoltage',
    facts: { months, everyDays, storePercent, lithium: isLithium(plan.input.sheet.chemistry) },
    remedies: [
      { does: 'absorbEvery', facts: { everyDays }, changes: [{ kind: 'setSchool', school: 'unattended', to: 'absorbEvery' }] },
      { does: 'storeBank', changes: [{ kind: 'setSchool', school: 'unattended', to: 'storage' }] },
    ],
  };
});
