import { isUnknown } from '../../card';
import type { FieldTest } from '../definition';
import { putBack, requirement, seenRow, word } from '../tools';

/** Whether the values are still there after the power was off. */
export const powerCycle: FieldTest = {
  code: 'powerCycle',
  name: 'Values after a power cut',
  purpose: 'A value that was entered and never saved looks right until the power goes.',
  tools: ['the settings sheet', 'its isolator or fuse'],
  proves: ['survivesPowerCut'],
  needs: () => ({ source: 'none', bank: 'any', bring: ['settingsSheet'], minutes: 5 }),
  fits: () => true,
  prepare: (plan, subject) => ({
    refused: null,
    expected: [],
    steps: [
      {
        id: 'cut',
        kind: 'do',
        title: 'Cut its power',
        says: ['Source off first, then its battery side, half a minute. Battery on again first, then the source.'],
        caution: subject.card.survivesBatteryLoss
          ? 'Array first off, last on.'
          : isUnknown(subject.card, 'batteryLoss')
            ? 'Nobody knows whether it survives losing the battery while its source is on: source off first.'
            : `${subject.device.name} does not survive losing the battery while its source is on: source off first.`,
      },
      {
        id: 'read',
        kind: 'read',
        title: 'Read every value again',
        says: ['Against the settings sheet, on the screen that proves the saved value.'],
        fields: [
          { id: 'kept', name: 'All values are still there', unit: '', choices: ['yes', 'no'] },
          { id: 'lost', name: 'Which were not', unit: '', optional: true },
        ],
      },
      putBack(plan, subject),
    ],
  }),
  judge: (plan, { device }, record) => {
    const kept = word(record, 'read', 'kept');
    const lost = word(record, 'read', 'lost');
    const req = requirement(plan, 'survivesPowerCut', device.id);
    return kept === 'yes'
      ? seenRow(record, req, 'stated', `Every value of ${device.name} was still there after its power was cut.`)
      : kept === 'no'
        ? seenRow(record, req, 'fail', `After a power cut ${device.name} had lost values${lost ? `: ${lost}` : ''}. Key them in again and save.`)
        : [];
  },
};
