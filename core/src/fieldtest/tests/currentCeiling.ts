import type { FieldTest } from '../definition';
import { measuredRow, number, putBack, reading, requirement } from '../tools';

/** The most current, with the clamp, loads off and on. */
export const currentCeiling: FieldTest = {
  code: 'currentCeiling',
  name: 'Current ceiling with the clamp',
  purpose:
    'What really flows into the bank when everything gives its most, and what each charger is held to. Loads on and off tell whether the limit counts its own output or what reaches the bank.',
  tools: ['DC clamp meter, zeroed in place', 'a discharged bank', 'full source'],
  proves: ['currentCeiling', 'currentAsProgrammed'],
  needs: () => ({ source: 'most', bank: 'taking', bring: ['clampMeter'], minutes: 10 }),
  fits: (plan, { device }) => plan.setting(device.id, 'chargeCurrentLimit')?.trueValue != null,
  prepare: (plan, subject) => {
    const limit = plan.setting(subject.device.id, 'chargeCurrentLimit')?.trueValue ?? 0;
    const most = plan.ceiling.binding?.amps;
    return {
      refused: null,
      expected: [
        { name: `${subject.device.name} alone`, band: { max: limit }, unit: 'A', digits: 1, why: 'As programmed.' },
        ...(most === undefined
          ? []
          : [{ name: 'Into the bank, all together', band: { max: most }, unit: 'A', digits: 0, why: plan.ceiling.binding?.name ?? '' }]),
      ],
      steps: [
        {
          id: 'zero',
          kind: 'do',
          title: 'Zero the clamp',
          says: ['On the cable it will measure, with no current, jaws closed. A clamp drifts by an amp in minutes.'],
        },
        {
          id: 'alone',
          kind: 'read',
          title: 'This charger alone, in bulk',
          says: ['Other sources off. The charger at its most, loads off, then loads on.'],
          fields: [
            { id: 'off', name: 'Its output, loads off', unit: 'A', expected: { max: limit } },
            { id: 'on', name: 'Its output, loads on', unit: 'A', optional: true },
          ],
        },
        {
          id: 'all',
          kind: 'read',
          title: 'All sources together',
          says: ['Every source on, loads off: what flows into the bank.'],
          caution: 'Watch cable lugs and fuses with the hand near, not on, them: warm is a finding, hot is a stop.',
          fields: [{ id: 'net', name: 'Into the bank', unit: 'A', optional: true, ...(most === undefined ? {} : { expected: { max: most } }) }],
        },
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const alone = Math.max(number(record, 'alone', 'off') ?? -Infinity, number(record, 'alone', 'on') ?? -Infinity);
    const net = number(record, 'all', 'net');
    return [
      ...(Number.isFinite(alone)
        ? measuredRow(plan, record, requirement(plan, 'currentAsProgrammed', device.id), alone, reading(instrument, alone, 'A'), `${device.name} gave at most`)
        : []),
      ...(net === undefined
        ? []
        : measuredRow(plan, record, requirement(plan, 'currentCeiling'), net, reading(instrument, net, 'A'), 'With every source on, into the bank flowed')),
    ];
  },
};
