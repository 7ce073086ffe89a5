import { figureOnBank, statedFigure } from '../../sheet';
import { judged } from '../places';
import { puttingRight, settingRule } from '../rule';

/** A load disconnect, as set or as found, at or below where the BMS itself cuts the bank off. */
export const disconnectBelowBms = settingRule((s, plan) => {
  const figure = statedFigure(plan.input.sheet, 'bmsUnderVoltage');
  const onBank = figure && figureOnBank(figure, plan.facts.shape);
  const tripV = onBank?.target ?? onBank?.band.min ?? onBank?.band.max;
  if (s.role !== 'loadDisconnect' || tripV === undefined || !plan.input.system.bank.hasBms) return null;
  const at = judged(s);
  if (!at || at.value > tripV + 1e-9) return null;
  return { severity: 'attention', facts: { disconnectV: at.value, tripV }, remedies: s.override || at.found ? puttingRight(s) : [] };
});
