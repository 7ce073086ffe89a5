import { displayErrorAtTrue } from '../../system';
import type { FieldTest } from '../definition';
import { measuredRow, number, putBack, reading, requirement } from '../tools';

/** Display and meter side by side, at rest and under charge. */
export const display: FieldTest = {
  code: 'display',
  name: 'Display against the meter',
  purpose: 'Every setpoint is off by as much as the display is. Two instruments on the same posts, at rest and under charge.',
  tools: ['multimeter', 'its probes on the charger’s own battery terminals'],
  proves: ['displayAgrees'],
  needs: () => ({ source: 'some', bank: 'any', bring: ['multimeter'], minutes: 10 }),
  fits: (_plan, { card }) => card.parameters.some((p) => p.role === 'absorbVoltage'),
  prepare: (plan, { card, device }) => ({
    refused: null,
    expected: [
      {
        name: 'Display less meter',
        band: { min: -card.display.stepV, max: card.display.stepV },
        unit: 'V',
        digits: 2,
        why: `One step of its display is ${card.display.stepV} V.`,
      },
    ],
    steps: [
      {
        id: 'rest',
        kind: 'read',
        title: 'At rest',
        says: [`No current through ${device.name}. Read both in the same breath; the lower reading first, then the other, then the first again.`],
        fields: [
          { id: 'meter', name: 'Meter', unit: 'V' },
          { id: 'display', name: 'Its display', unit: 'V' },
        ],
      },
      {
        id: 'charge',
        kind: 'read',
        title: 'Under charge',
        says: ['At least a third of its current. The meter stays on the charger’s own battery terminals: its cable drops too.'],
        caution: plan.facts.nominalVolts > 60 ? 'Above 60 V: licensed people only.' : 'Probes do not slip between the posts: the bank can weld them.',
        fields: [
          { id: 'meter', name: 'Meter', unit: 'V' },
          { id: 'display', name: 'Its display', unit: 'V' },
          { id: 'amps', name: 'Its current', unit: 'A', optional: true },
        ],
      },
      putBack(plan, { device, card }, 'Probes off the posts.'),
    ],
  }),
  judge: (plan, { device }, record, instrument) => {
    const pairs = ['rest', 'charge'].flatMap((step) => {
      const meter = number(record, step, 'meter');
      const shown = number(record, step, 'display');
      // What is known of its error is corrected in the settings: what is asked is that nothing else is off.
      return meter === undefined || shown === undefined ? [] : [{ step, meter, off: shown - meter - displayErrorAtTrue(device.displayReadings, meter) }];
    });
    const worst = pairs.sort((a, b) => Math.abs(b.off) - Math.abs(a.off))[0];
    if (!worst) return [];
    return measuredRow(
      plan,
      record,
      requirement(plan, 'displayAgrees', device.id),
      worst.off,
      reading(instrument, worst.meter, 'V'),
      `${device.name} shows, ${worst.step === 'rest' ? 'at rest' : 'under charge'}, against the meter${device.displayReadings.length > 0 ? ' and beside the error already known' : ''}:`,
    );
  },
};
