import { heldWitness, leastReadings, minutesHeld } from '../series';
import type { FieldTest } from '../definition';
import { isolate, measuredRow, putBack, reading, requirement } from '../tools';

/** From absorb into float, and what float holds. */
export const absorbToFloat: FieldTest = {
  code: 'absorbToFloat',
  name: 'From absorb to float',
  purpose: 'When absorb ends the voltage sinks by itself and the charger holds float from there. What it holds is read at the battery.',
  tools: ['multimeter at the battery posts', 'watch'],
  proves: ['floatLevel', 'floatAsProgrammed'],
  needs: () => ({ source: 'some', bank: 'full', bring: ['multimeter', 'watch'], minutes: 20 }),
  fits: (plan, { device }) => plan.setting(device.id, 'floatVoltage')?.trueValue != null && plan.setting(device.id, 'floatVoltage')?.off !== true,
  prepare: (plan, subject) => {
    const told = plan.setting(subject.device.id, 'floatVoltage');
    return {
      refused: null,
      expected: [
        {
          name: 'Voltage at the battery in float',
          band: told?.band ?? {},
          unit: 'V',
          digits: 2,
          why: `The charger is set to ${told?.trueValue?.toFixed(2) ?? ''} V.`,
        },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        {
          id: 'changed',
          kind: 'do',
          title: 'See it change over',
          says: ['Wait until its display says float. A bank that was full a moment ago floats above the level for a while without current: that is no fault.'],
        },
        {
          id: 'readings',
          kind: 'series',
          title: 'Read once the voltage is level',
          says: [
            'Some load on, so that the charger has something to hold. Three readings or more, five minutes apart, with more and less load: what it holds stays level while its current moves.',
          ],
          fields: [
            { id: 'volts', name: 'Battery', unit: 'V', ...(told?.band ? { expected: told.band } : {}) },
            { id: 'amps', name: 'Charger', unit: 'A' },
            { id: 'celsius', name: 'Battery case', unit: '°C', optional: true },
          ],
        },
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const held = minutesHeld(plan, device.id, 'floatVoltage', record, instrument);
    if (held?.level == null || held.count < leastReadings) return [];
    const { level, scatter, count } = held;
    return (['floatLevel', 'floatAsProgrammed'] as const).flatMap((code) =>
      measuredRow(
        plan,
        record,
        requirement(plan, code, device.id),
        level,
        [...reading(instrument, level, 'V'), scatter],
        `At the battery, over ${count} readings, ${device.name} held`,
        undefined,
        heldWitness(held, device.name),
      ),
    );
  },
};
