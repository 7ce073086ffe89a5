import type { FieldTest } from '../definition';
import { isolate, measuredRow, number, putBack, reading, requirement } from '../tools';

/** What an alternator regulator sees at its own terminals. */
export const regulatorTerminals: FieldTest = {
  code: 'regulatorTerminals',
  name: 'Regulator terminals',
  purpose:
    'Supply, switch, sense and field, each against the battery’s negative. A sense lead that reads zero is broken, and the regulator then drives the field with no end.',
  tools: ['multimeter, long leads', 'hands away from belts'],
  proves: ['displayAgrees'],
  needs: () => ({ source: 'some', bank: 'any', bring: ['multimeter'], minutes: 10 }),
  fits: (_plan, { card }) => card.kind === 'alternator',
  prepare: (plan, subject) => {
    const low = plan.facts.nominalVolts * 0.9;
    const high = plan.facts.nominalVolts * 1.2;
    return {
      refused: null,
      expected: [
        {
          name: 'Sense less battery',
          band: { min: -0.1, max: 0.1 },
          unit: 'V',
          digits: 2,
          why: 'A sense lead carries no current: what it drops is corrosion.',
        },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        {
          id: 'read',
          kind: 'read',
          title: 'Key on, engine off',
          says: [
            'Read each terminal against battery negative, and the battery itself. Field reads near the battery’s volts with the key on and drops when the regulator throttles.',
          ],
          caution: 'The machine is hot and turns without warning: key out while hands are near.',
          fields: [
            { id: 'battery', name: 'Battery', unit: 'V', expected: { min: low, max: high } },
            { id: 'supply', name: 'Supply', unit: 'V', expected: { min: low, max: high } },
            { id: 'switch', name: 'Switch', unit: 'V', expected: { min: low, max: high } },
            { id: 'sense', name: 'Sense', unit: 'V', expected: { min: low, max: high } },
            { id: 'field', name: 'Field', unit: 'V' },
          ],
        },
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const battery = number(record, 'read', 'battery');
    const sense = number(record, 'read', 'sense');
    if (battery === undefined || sense === undefined) return [];
    const off = sense - battery;
    const words =
      sense < 1
        ? `Its sense terminal reads ${sense.toFixed(2)} V: the lead is broken, and the regulator would drive the field without end. It is off by`
        : 'Its sense terminal is off from the battery by';
    return measuredRow(plan, record, requirement(plan, 'displayAgrees', device.id), off, [...reading(instrument, battery, 'V')], words);
  },
};
