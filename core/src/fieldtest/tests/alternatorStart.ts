import type { FieldTest } from '../definition';
import { isolate, measuredRow, number, putBack, reading, requirement } from '../tools';

/** Soft start and temperature cut-back of an alternator. */
export const alternatorStart: FieldTest = {
  code: 'alternatorStart',
  name: 'Alternator: soft start and heat',
  purpose: 'The load comes on over its soft-start time, and falls back before the machine is too hot.',
  tools: ['clamp meter', 'infrared or contact thermometer', 'watch'],
  proves: ['softStart', 'machineTemperature'],
  needs: () => ({ source: 'most', bank: 'taking', bring: ['clampMeter', 'thermometer', 'watch'], minutes: 30 }),
  fits: (_plan, { card }) => card.kind === 'alternator',
  prepare: (plan, subject) => {
    const soft = plan.setting(subject.device.id, 'softStartTime')?.trueValue ?? 0;
    const most = plan.setting(subject.device.id, 'machineTempLimit');
    return {
      refused: null,
      expected: [
        { name: 'Full current after', band: { min: soft * 0.7, max: soft * 1.3 + 5 }, unit: 's', digits: 0, why: 'Its soft-start time.' },
        { name: 'Machine at most', band: { max: most?.band?.max ?? most?.trueValue ?? 120 }, unit: '°C', digits: 0, why: 'As its maker allows.' },
      ],
      steps: [
        isolate(plan, subject, 'keep'),
        {
          id: 'start',
          kind: 'read',
          title: 'Start, and time it',
          says: ['From charging light out to full current.'],
          caution: 'Belts, pulleys and hot housings: stay clear, sleeves tight. Never open the output while it turns.',
          fields: [
            { id: 'seconds', name: 'Until full current', unit: 's' },
            { id: 'amps', name: 'Full current', unit: 'A', optional: true },
          ],
        },
        { id: 'run', kind: 'wait', title: 'Run it at charging speed', says: ['Twenty minutes on a bank that takes its most.'], seconds: 1200 },
        {
          id: 'heat',
          kind: 'read',
          title: 'How hot it is',
          says: ['On the housing beside the rectifier, engine slowed. And whether its current had fallen by itself.'],
          fields: [
            { id: 'celsius', name: 'Housing', unit: '°C', expected: { max: most?.band?.max ?? most?.trueValue ?? 120 } },
            { id: 'cutback', name: 'Current cut back by itself', unit: '', choices: ['yes', 'no'], optional: true },
          ],
        },
        putBack(plan, subject),
      ],
    };
  },
  judge: (plan, { device }, record, instrument) => {
    const s = number(record, 'start', 'seconds');
    const c = number(record, 'heat', 'celsius');
    return [
      ...(s === undefined
        ? []
        : measuredRow(
            plan,
            record,
            requirement(plan, 'softStart', device.id),
            s,
            [{ name: 'Watch and eye', halfWidth: 2, divisor: Math.sqrt(3), kind: 'random' }],
            'Full current came after',
          )),
      ...(c === undefined
        ? []
        : measuredRow(
            plan,
            record,
            requirement(plan, 'machineTemperature', device.id),
            c,
            [...reading(instrument, c, '°C'), { name: 'Hottest place is not the one measured', halfWidth: 5, divisor: Math.sqrt(3), kind: 'systematic' }],
            'After twenty minutes the housing was at',
          )),
    ];
  },
};
