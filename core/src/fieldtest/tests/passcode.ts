import type { FieldTest } from '../definition';
import { requirement, seenRow, word } from '../tools';

/** Passcode changed, and who keeps the recovery code. */
export const passcode: FieldTest = {
  code: 'passcode',
  name: 'Passcode changed',
  purpose: 'With the passcode of the factory anyone in reach can change the figures. The code itself is never written here.',
  tools: ['the device or its app'],
  proves: ['passcodeChanged'],
  needs: () => ({ source: 'none', bank: 'any', bring: [], minutes: 5 }),
  fits: () => true,
  prepare: () => ({
    refused: null,
    expected: [],
    steps: [
      {
        id: 'code',
        kind: 'read',
        title: 'Change it, and try the old one',
        says: ['Not the default, not a sequence, not the same on every job. Note who holds the recovery code, never the code.'],
        fields: [
          { id: 'changed', name: 'The old one is refused', unit: '', choices: ['yes', 'no', 'it has none'] },
          { id: 'keeper', name: 'Who holds the recovery code (a role)', unit: '', optional: true },
        ],
      },
    ],
  }),
  judge: (plan, { device }, record) => {
    const changed = word(record, 'code', 'changed');
    const keeper = word(record, 'code', 'keeper');
    const req = requirement(plan, 'passcodeChanged', device.id);
    return changed === 'yes'
      ? seenRow(record, req, 'stated', `${device.name} refuses the passcode of the factory.${keeper ? ` The recovery code is held by: ${keeper}.` : ''}`)
      : changed === 'no'
        ? seenRow(record, req, 'fail', `${device.name} still takes the passcode of the factory.`)
        : changed === 'it has none'
          ? seenRow(record, req, 'stated', `${device.name} has no passcode: what protects it is who can reach it.`)
          : [];
  },
};
