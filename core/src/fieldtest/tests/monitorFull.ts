import { formatQuantity } from '../../quantity';
import type { FieldTest } from '../definition';
import { measuredRow, number, putBack, reading, requirement, seenRow, word } from '../tools';

/** Whether the monitor calls it full when it is, and not before. */
export const monitorFull: FieldTest = {
  code: 'monitorFull',
  name: 'Monitor calls it full',
  purpose: 'The count starts anew each time it shows full. Too early, and every later figure is wrong; never, and it drifts.',
  tools: ['monitor', 'clamp meter or its own shunt', 'the end of an absorb'],
  proves: ['monitorFull'],
  needs: () => ({ source: 'some', bank: 'full', bring: ['clampMeter'], minutes: 10 }),
  fits: (plan, { device }) => plan.setting(device.id, 'fullDetectVoltage')?.trueValue != null,
  prepare: (plan, subject) => ({
    refused: null,
    expected: [
      {
        name: 'Net current when it shows full',
        band: { max: requirement(plan, 'absorbCompleted', plan.input.system.chargers[0]?.id)?.taperA ?? Infinity },
        unit: 'A',
        digits: 1,
        why: 'The sheet’s taper.',
      },
    ],
    steps: [
      {
        id: 'full',
        kind: 'read',
        title: 'At the end of absorb',
        says: ['Watch the monitor as the current falls. Note the net current when it jumps to full, and whether a charger was still in absorb.'],
        fields: [
          { id: 'shows', name: 'It shows full', unit: '', choices: ['yes', 'no'] },
          { id: 'net', name: 'Net current then', unit: 'A' },
          { id: 'before', name: 'It showed before', unit: '%', optional: true },
        ],
      },
      putBack(plan, subject),
    ],
  }),
  judge: (plan, { device }, record, instrument) => {
    const shows = word(record, 'full', 'shows');
    const net = number(record, 'full', 'net');
    const req = requirement(plan, 'monitorFull', device.id);
    const taper = plan.input.system.chargers.map((c) => requirement(plan, 'absorbCompleted', c.id)?.taperA).find((t) => t !== undefined);
    if (shows === 'no') return seenRow(record, req, 'fail', `${device.name} did not show full at the end of absorb.`);
    if (shows !== 'yes' || net === undefined) return [];
    if (taper === undefined)
      return seenRow(
        record,
        req,
        'inconclusive',
        `${device.name} showed full at ${formatQuantity(net, 'A', 1)} net; the sheet gives no taper to compare with.`,
        'The maker’s taper current would settle it.',
      );
    return measuredRow(plan, record, req, net, reading(instrument, net, 'A'), `${device.name} showed full with a net current of`, { max: taper }).map(
      (row) => ({ ...row, unit: 'A', digits: 1 }),
    );
  },
};
