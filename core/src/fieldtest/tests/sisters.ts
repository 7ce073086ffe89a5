import { formatQuantity } from '../../quantity';
import type { FieldTest } from '../definition';
import { measuredRow, number, putBack, requirement } from '../tools';

/** Two chargers on one bank, one after the other. */
export const sisters: FieldTest = {
  code: 'sisters',
  name: 'Sister chargers together',
  purpose: 'Each holds absorb alone, read with one meter at the bank. What differs is what lets one work alone.',
  tools: ['one multimeter at the battery posts', 'a bank near full'],
  proves: ['chargersAgree'],
  needs: (plan) => ({ source: 'most', bank: 'absorb', bring: ['multimeter'], minutes: 15 * plan.input.system.chargers.length }),
  fits: (plan, { device }) => plan.input.system.chargers.length > 1 && plan.setting(device.id, 'absorbVoltage')?.trueValue != null,
  prepare: (plan, subject) => {
    const absorbing = plan.input.system.chargers.filter((c) => plan.setting(c.id, 'absorbVoltage')?.trueValue != null);
    const most = requirement(plan, 'chargersAgree')?.band.max ?? 0.1;
    return {
      refused: null,
      expected: [{ name: 'Apart at most', band: { max: most }, unit: 'V', digits: 2, why: 'One meter reads them all, so its own error cancels.' }],
      steps: [
        ...absorbing.map((c) => ({
          id: `of-${c.id}`,
          kind: 'read' as const,
          title: `${c.name} alone, in absorb`,
          says: [`All others off. When ${c.name} holds: voltage at the battery, and its own display.`],
          fields: [
            { id: 'volts', name: 'Battery', unit: 'V' as const },
            { id: 'display', name: 'Its display', unit: 'V' as const, optional: true },
          ],
        })),
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, _subject, record, instrument) => {
    const read = plan.input.system.chargers.flatMap((c) => {
      const volts = number(record, `of-${c.id}`, 'volts');
      return volts === undefined ? [] : [{ name: c.name, volts }];
    });
    if (read.length < 2) return [];
    read.sort((a, b) => a.volts - b.volts);
    const low = read[0];
    const high = read.at(-1);
    if (!low || !high) return [];
    return measuredRow(
      plan,
      record,
      requirement(plan, 'chargersAgree'),
      high.volts - low.volts,
      [{ name: `Two readings of ${instrument.name}: resolution`, halfWidth: instrument.volts.resolution * Math.SQRT2, divisor: Math.sqrt(3), kind: 'random' }],
      `${high.name} holds ${formatQuantity(high.volts, 'V', 2)} and ${low.name} ${formatQuantity(low.volts, 'V', 2)}, apart by`,
    );
  },
};
