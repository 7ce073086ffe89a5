import { figureOnBank, scaleVolts, statedFigure } from '../../sheet';
import { chargerRule } from '../rule';

/** The highest cell above the mean at the end of absorb, when nobody has measured it, V. */
const assumedSpreadV = 0.1;

/** One cell ahead of the others trips the BMS at a pack voltage that looks harmless. */
export const cellSpread = chargerRule(({ charger }, plan) => {
  const figure = statedFigure(plan.input.sheet, 'bmsCellOverVoltage');
  const printed = figure?.max ?? figure?.target;
  if (!figure || printed === undefined || figureOnBank(figure, plan.facts.shape).band.max === undefined) return null;
  const tripV = scaleVolts(printed, figure.basis, 'cell', plan.facts.shape);
  const entered = plan.input.system.bank.cellSpreadV;
  const spreadV = entered ?? assumedSpreadV;
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  if (absorb == null || absorb / plan.facts.cells + spreadV < tripV - 1e-9) return null;
  return {
    severity: 'attention',
    role: 'absorbVoltage',
    facts: { absorb, meanV: absorb / plan.facts.cells, spreadV, assumed: entered === undefined, tripV },
  };
});
