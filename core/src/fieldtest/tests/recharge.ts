import type { FieldTest } from '../definition';
import { isolate, measuredRow, number, putBack, reading, requirement } from '../tools';

/** A load draws the bank down until a new charge begins. */
export const recharge: FieldTest = {
  code: 'recharge',
  name: 'Recharge under load',
  purpose: 'In float or at rest the charger waits until the bank has sunk. A load shows where it begins again.',
  tools: ['multimeter at the battery posts', 'a load of about 0.1 C', 'watch'],
  proves: ['rechargeLevel', 'rechargeAsProgrammed'],
  needs: () => ({ source: 'some', bank: 'full', bring: ['multimeter', 'load', 'watch'], minutes: 20 }),
  fits: (plan, { device, card }) => plan.setting(device.id, 'rechargeVoltage')?.trueValue != null && card.recharge.rule !== 'none',
  prepare: (plan, subject) => {
    const told = plan.setting(subject.device.id, 'rechargeVoltage')?.trueValue ?? 0;
    return {
      refused: null,
      expected: [
        {
          name: 'Bulk begins at',
          band: { min: told - 0.15, max: told + 0.15 },
          unit: 'V',
          digits: 2,
          why: 'As programmed, at the battery, less what the load’s own wiring drops.',
        },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        { id: 'resting', kind: 'do', title: 'In float or at rest', says: ['Its display says float, or that it waits. The source is there.'] },
        {
          id: 'began',
          kind: 'read',
          title: 'Load on, and watch',
          says: [
            'Switch the load on. The lowest voltage before its display says bulk, and how long it stayed below.',
            'Lithium stays high for long: this may take an hour.',
          ],
          fields: [
            { id: 'volts', name: 'Lowest before bulk', unit: 'V', expected: { min: told - 0.15, max: told + 0.15 } },
            { id: 'delay', name: 'Time below', unit: 's', optional: true },
          ],
        },
        putBack(plan, subject, 'The test load off.'),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const volts = number(record, 'began', 'volts');
    if (volts === undefined) return [];
    return (['rechargeLevel', 'rechargeAsProgrammed'] as const).flatMap((code) =>
      measuredRow(
        plan,
        record,
        requirement(plan, code, device.id),
        volts,
        [...reading(instrument, volts, 'V'), { name: 'The voltage still moved while it was read', halfWidth: 0.03, divisor: Math.sqrt(3), kind: 'random' }],
        `${device.name} began a new charge at`,
      ),
    );
  },
};
