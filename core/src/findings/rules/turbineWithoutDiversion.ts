import { chargerRule } from '../rule';

/** Codes often ask the diversion load to take this many times the turbine's peak. */
const usual = 1.5;

type NoDiversion =
  { readonly lacks: 'load' } | { readonly lacks: 'brake' } | { readonly lacks: 'power' | 'reserve'; readonly loadW: number; readonly peakW: number };

/** A turbine with nowhere for its power to go when the bank is full or the BMS opens. */
export const turbineWithoutDiversion = chargerRule<NoDiversion>(
  ({ charger, card }) => {
    if (card.kind !== 'turbine') return null;
    const loadW = charger.machine?.diversionW;
    const peakW = charger.machine?.peakW;
    const role = 'diversionVoltage';
    if (loadW === undefined) return { severity: 'stop', role, facts: { lacks: 'load' } };
    if (peakW !== undefined && loadW < peakW) return { severity: 'stop', role, facts: { lacks: 'power', loadW, peakW } };
    if (peakW !== undefined && loadW < usual * peakW) return { severity: 'attention', role, facts: { lacks: 'reserve', loadW, peakW } };
    if (charger.machine?.brakeFailsSafe === false) return { severity: 'stop', role: 'brakeVoltage', facts: { lacks: 'brake' } };
    return null;
  },
  { belongsTo: 'system' },
);
