import type { FieldTest } from '../definition';
import { isolate, measuredRow, number, putBack, reading, requirement } from '../tools';

/** Loads off, and on again. */
export const loadCutoff: FieldTest = {
  code: 'loadCutoff',
  name: 'Load cutoff and return',
  purpose: 'Where the loads are cut off and where they come back, and after how long, at the battery and not at the load.',
  tools: ['multimeter at the battery posts', 'an adjustable supply or a nearly empty bank', 'watch'],
  proves: ['loadDisconnect', 'loadReconnect'],
  needs: () => ({ source: 'none', bank: 'low', bring: ['multimeter', 'supply', 'watch'], minutes: 30 }),
  fits: (plan, { device }) => plan.setting(device.id, 'loadDisconnect')?.trueValue != null,
  prepare: (plan, subject) => {
    const off = plan.setting(subject.device.id, 'loadDisconnect');
    const on = plan.setting(subject.device.id, 'loadReconnect');
    return {
      refused: null,
      expected: [
        { name: 'Loads go off at', band: off?.band ?? {}, unit: 'V', digits: 2, why: 'As the sheet allows.' },
        { name: 'Loads come back at', band: on?.band ?? {}, unit: 'V', digits: 2, why: 'As the sheet allows.' },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        {
          id: 'off',
          kind: 'read',
          title: 'Draw the bank down',
          says: ['A steady load. Read at the battery posts when the loads go off; stop at once if the bank nears the BMS trip.'],
          caution: 'A flat lead-acid bank freezes, and sulphates; a flat lithium bank may not wake. Charge again right after this.',
          fields: [
            { id: 'volts', name: 'Battery when they went off', unit: 'V', ...(off?.band ? { expected: off.band } : {}) },
            { id: 'delay', name: 'Delay', unit: 's', optional: true },
          ],
        },
        {
          id: 'on',
          kind: 'read',
          title: 'Charge until they come back',
          says: ['Source on. Read when the loads return.'],
          fields: [
            { id: 'volts', name: 'Battery when they came back', unit: 'V', ...(on?.band ? { expected: on.band } : {}) },
            { id: 'delay', name: 'Delay', unit: 's', optional: true },
          ],
        },
        putBack(plan, subject, 'The bank charged again.'),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) =>
    (
      [
        ['off', 'loadDisconnect', 'The loads went off with the battery at'],
        ['on', 'loadReconnect', 'They came back with the battery at'],
      ] as const
    ).flatMap(([step, code, words]) => {
      const volts = number(record, step, 'volts');
      return volts === undefined ? [] : measuredRow(plan, record, requirement(plan, code, device.id), volts, reading(instrument, volts, 'V'), words);
    }),
};
