import { chargerRule, clearing } from '../rule';

/** A float that the sheet does not permit, held above what lets the bank rest. */
export const floatNotPermitted = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'floatVoltage');
  if (plan.input.sheet.figures.floatVoltage?.state !== 'notPermitted' || setting?.within !== 'outside' || setting.trueValue === null) return null;
  return {
    severity: 'stop',
    role: 'floatVoltage',
    facts: { float: setting.trueValue, restsV: setting.band?.max ?? null },
    remedies: setting.override
      ? [clearing(charger.id, 'floatVoltage')]
      : [{ does: 'restInstead', changes: [{ kind: 'setSchool', school: 'lithiumFloat', to: 'rest' }] }],
  };
});
