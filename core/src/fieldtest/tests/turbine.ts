import type { FieldTest } from '../definition';
import { measuredRow, number, putBack, reading, requirement, word } from '../tools';

/** Brake and diversion of a turbine. */
export const turbine: FieldTest = {
  code: 'turbine',
  name: 'Turbine: brake and diversion',
  purpose: 'A full bank must not leave the turbine without load: diversion takes over, the brake stops it.',
  tools: ['multimeter at the battery posts', 'sight of the turbine', 'a nearly full bank'],
  proves: ['diversion'],
  needs: () => ({ source: 'most', bank: 'full', bring: ['multimeter'], minutes: 15 }),
  fits: (_plan, { card }) => card.kind === 'turbine',
  prepare: (plan, subject) => {
    const told = plan.setting(subject.device.id, 'diversionVoltage');
    return {
      refused: null,
      expected: [{ name: 'Diversion begins at', band: told?.band ?? {}, unit: 'V', digits: 2, why: 'As programmed.' }],
      steps: [
        {
          id: 'brake',
          kind: 'read',
          title: 'Brake first',
          says: ['Set the brake: the turbine slows and stops. Release it again.'],
          caution: 'A turbine must never spin unloaded. The diversion load gets hot and must not be switched off by the same fault.',
          fields: [{ id: 'stands', name: 'It stopped', unit: '', choices: ['yes', 'no'] }],
        },
        {
          id: 'divert',
          kind: 'read',
          title: 'Let the bank fill',
          says: ['Other sources on to lift the voltage. Read at the battery when the diversion load comes on.'],
          fields: [{ id: 'volts', name: 'Battery when diversion came on', unit: 'V', ...(told?.band ? { expected: told.band } : {}) }],
        },
        putBack(plan, subject, 'Brake as it should be.'),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const volts = number(record, 'divert', 'volts');
    const brake = word(record, 'brake', 'stands');
    return volts === undefined
      ? []
      : measuredRow(
          plan,
          record,
          requirement(plan, 'diversion', device.id),
          volts,
          reading(instrument, volts, 'V'),
          `${brake === 'no' ? 'The brake did not stop it. ' : ''}Diversion came on with the battery at`,
        );
  },
};
