import { chargerRule } from '../rule';
import { volts } from '../words';

/** A float that the sheet does not permit, held above what lets the bank rest. */
export const floatNotPermitted = chargerRule('floatNotPermitted', ({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'floatVoltage');
  if (plan.input.sheet.figures.floatVoltage?.state !== 'notPermitted' || setting?.within !== 'outside' || setting.trueValue === null) return null;
  return {
    severity: 'stop',
    role: 'floatVoltage',
    text: `${charger.name} would float at ${volts(setting.trueValue)}, and the sheet does not permit a float; a full bank rests at ${volts(setting.band?.max ?? 0)}.`,
    hurts: 'Held under voltage all day, the cells age.',
    remedies: setting.override
      ? [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger: charger.id, role: 'floatVoltage' }] }]
      : [{ label: 'Rest instead of float', changes: [{ kind: 'setSchool', school: 'lithiumFloat', to: 'rest' }] }],
  };
});
