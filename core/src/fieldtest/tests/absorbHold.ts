import { said, warmth } from '../../quantity';
import { heldWitness, minutesHeld } from '../series';
import type { FieldTest } from '../definition';
import { expectedVolts, isolate, measuredRow, putBack, reading, requirement } from '../tools';

/** Absorb reached, and held. */
export const absorbHold: FieldTest = {
  code: 'absorbHold',
  name: 'Absorb, reached and held',
  purpose: 'The level the bank really sees, at its own posts, while the charger holds it; and for how long.',
  tools: ['multimeter at the battery posts', 'watch'],
  proves: ['absorbLevel', 'absorbAsProgrammed', 'absorbCompleted'],
  needs: (plan, { device }) => ({
    source: 'some',
    bank: 'absorb',
    bring: ['multimeter', 'watch'],
    minutes: 15 + (plan.setting(device.id, 'absorbTime')?.trueValue ?? 3600) / 60,
  }),
  fits: (plan, { device }) => plan.setting(device.id, 'absorbVoltage')?.trueValue != null,
  prepare: (plan, subject) => {
    const told = plan.setting(subject.device.id, 'absorbVoltage');
    const warm = expectedVolts(plan, subject.device.id, 'absorbVoltage', 20);
    return {
      refused: null,
      expected: [
        {
          name: 'Voltage at the battery',
          band: told?.band ?? {},
          unit: 'V',
          digits: 2,
          why: said`The charger is set to ${warm?.toFixed(2) ?? ''} V at ${warmth(20, 0)}.`,
        },
      ],
      steps: [
        isolate(plan, subject),
        {
          id: 'readings',
          kind: 'series',
          title: 'Read while it holds',
          says: [
            'Every few minutes from the moment the display says absorb: voltage at the battery posts, the charger’s current, and the net current into the bank if there is a shunt. A touch is not a hold: read on until its current has come down.',
          ],
          fields: [
            { id: 'volts', name: 'Battery', unit: 'V', ...(told?.band ? { expected: told.band } : {}) },
            { id: 'amps', name: 'Charger', unit: 'A' },
            { id: 'net', name: 'Into the bank', unit: 'A', optional: true },
            { id: 'celsius', name: 'Battery case', unit: '°C', optional: true },
          ],
        },
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const held = minutesHeld(plan, device.id, 'absorbVoltage', record, instrument);
    if (!held) return [];
    const levels =
      held.level === null
        ? []
        : (['absorbLevel', 'absorbAsProgrammed'] as const).flatMap((code) =>
            measuredRow(
              plan,
              record,
              requirement(plan, code, device.id),
              held.level ?? 0,
              [...reading(instrument, held.level ?? 0, 'V'), held.scatter],
              `At the battery, over ${held.count} readings, ${device.name} held`,
              undefined,
              heldWitness(held, device.name),
            ),
          );
    const done = requirement(plan, 'absorbCompleted', device.id);
    const taper = done?.taperA;
    if (done && taper !== undefined && held.fallenTo !== null && held.fallenTo <= taper)
      return [
        ...levels,
        ...measuredRow(
          plan,
          record,
          { ...done, unit: 'A', digits: 1 },
          held.fallenTo,
          reading(instrument, held.fallenTo, 'A'),
          'The net current into the bank had fallen to',
          { max: taper },
          { words: 'It fell from reading to reading while the voltage stayed level.' },
        ),
      ];
    return held.seconds < 60 || !done
      ? levels
      : [
          ...levels,
          ...measuredRow(
            plan,
            record,
            done,
            held.seconds,
            [{ name: 'Readings so far apart', halfWidth: held.apart / 2, divisor: Math.sqrt(3), kind: 'random' }],
            `${device.name} was seen at voltage for`,
            undefined,
            heldWitness(held, device.name),
          ),
        ];
  },
};
