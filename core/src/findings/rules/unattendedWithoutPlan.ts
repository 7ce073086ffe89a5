import { statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** Left alone for months, and nobody has said what the chargers shall do meanwhile. */
export const unattendedWithoutPlan = jobRule('unattendedWithoutPlan', (plan) => {
  const { site } = plan.input.system;
  const months = site.unattendedMonths ?? 0;
  if (months < 1 || plan.input.schools.unattended !== 'askMaker') return null;
  const every = statedFigure(plan.input.sheet, 'unattendedAbsorb')?.target;
  const storage = statedFigure(plan.input.sheet, 'storageCharge');
  return {
    severity: 'attention',
    role: 'floatVoltage',
    text: `Nobody is there for ${months} months${every === undefined ? '' : `; the sheet asks for an absorb every ${every} days`}${storage?.min !== undefined && every === undefined ? `; the sheet stores at ${storage.min} % or more` : ''}. No plan is chosen for it.`,
    hurts: 'Held full all winter, lithium ages; left without, lead sulphates. Ask the maker, and choose.',
    remedies: [
      {
        label: every === undefined ? 'Absorb every so many days' : `Absorb every ${every} days`,
        changes: [{ kind: 'setSchool', school: 'unattended', to: 'absorbEvery' }],
      },
      { label: 'Store at storage charge', changes: [{ kind: 'setSchool', school: 'unattended', to: 'storage' }] },
    ],
  };
});
