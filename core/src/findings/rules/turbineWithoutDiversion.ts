import { formatQuantity, formatNumber } from '../../quantity';
import { chargerRule } from '../rule';

/** Codes often ask the diversion load to bear this many times the turbine's peak. */
const usual = 1.5;

/** A turbine with nowhere for its power to go when the bank is full or the BMS opens. */
export const turbineWithoutDiversion = chargerRule(
  'turbineWithoutDiversion',
  ({ charger, card }) => {
    if (card.kind !== 'turbine') return null;
    const diversion = charger.machine?.diversionW;
    const peak = charger.machine?.peakW;
    if (diversion === undefined)
      return {
        severity: 'stop',
        role: 'diversionVoltage',
        text: `No diversion load is entered for ${charger.name}.`,
        hurts:
          'When the bank is full, or a BMS opens, the turbine runs away. Enter the load on System; it gets hot and must never be switched off by the same fault.',
      };
    if (peak !== undefined && diversion < peak)
      return {
        severity: 'stop',
        role: 'diversionVoltage',
        text: `The diversion load of ${charger.name} bears ${formatQuantity(diversion, 'W', 0)}, and the turbine gives ${formatQuantity(peak, 'W', 0)} at its peak.`,
        hurts: 'The load burns out, and then the turbine runs away.',
      };
    if (peak !== undefined && diversion < usual * peak)
      return {
        severity: 'attention',
        role: 'diversionVoltage',
        text: `The diversion load of ${charger.name} bears ${formatQuantity(diversion, 'W', 0)}, ${formatNumber((100 * diversion) / peak, 0)} % of the turbine’s peak of ${formatQuantity(peak, 'W', 0)}; codes often ask for 150 %.`,
        hurts: 'It runs at its limit for days. Local codes decide.',
      };
    if (charger.machine?.brakeFailsSafe === false)
      return {
        severity: 'stop',
        role: 'brakeVoltage',
        text: `The brake of ${charger.name} does not close by itself when its supply fails.`,
        hurts: 'The same fault that takes the load away takes the brake with it.',
      };
    return null;
  },
  { belongsTo: 'system', short: 'No diversion' },
);
