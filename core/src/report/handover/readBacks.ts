import { type Job, lastSnapshot } from '../../job';
import { formatNumber } from '../../quantity';
import { verifiedWords, wayWords } from '../../runsheet';
import { type Plan, devicesOf } from '../../settings';
import type { Cell, Section } from '../paper';
import { cell, moment } from './words';

/** What was read back on each device, how its display compares with the meter, and what went otherwise. */
export function readBacks(job: Job, plan: Plan): Section {
  const rows = devicesOf(plan.input).map((device): readonly Cell[] => {
    const shot = lastSnapshot(job, device.id, ['readBack', 'powerCycle']);
    const sheet = [...job.pastSheets, ...(job.programming ? [job.programming] : [])].findLast((s) => shot !== null && s.begunAt <= shot.at);
    const meter = job.system.instruments.find((i) => i.id === sheet?.instrument);
    const worst = device.displayReadings.reduce<{ meterV: number; displayV: number } | null>(
      (a, r) => (a === null || Math.abs(r.displayV - r.meterV) > Math.abs(a.displayV - a.meterV) ? r : a),
      null,
    );
    return [
      cell(device.name),
      cell(
        shot ? `${Object.keys(shot.values).length} values, ${verifiedWords[shot.verified]}` : 'not read back',
        shot ? undefined : 'caution',
        shot ? `${moment(shot.at)}, by ${shot.by || 'nobody named'}, ${wayWords[shot.way]}` : undefined,
      ),
      cell(
        worst
          ? `display ${formatNumber(worst.displayV, 2)} V, meter ${formatNumber(worst.meterV, 2)} V`
          : job.system.companions.some((c) => c.id === device.id)
            ? ''
            : 'not compared',
        undefined,
        meter && worst ? `with ${meter.name}` : undefined,
      ),
      cell(
        job.system.companions.some((c) => c.id === device.id) ? '' : device.passcodeChanged ? 'changed' : 'not noted as changed',
        device.passcodeChanged ? undefined : 'caution',
      ),
    ];
  });
  const trouble = job.programming?.trouble ?? [];
  return {
    id: 'readBacks',
    title: 'What was read back',
    blocks: [
      {
        kind: 'table',
        columns: [
          { head: 'Device', share: 2 },
          { head: 'Read back', share: 5 },
          { head: 'Display against meter', share: 4 },
          { head: 'Passcode', share: 3 },
        ],
        rows,
        empty: 'No device is entered yet.',
      },
      ...(trouble.length > 0
        ? [
            { kind: 'heading' as const, text: 'What went otherwise than it should' },
            { kind: 'list' as const, items: trouble.map((t) => cell(t.text, undefined, moment(t.at))), empty: '' },
          ]
        : []),
    ],
  };
}
