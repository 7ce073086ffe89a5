import { figureOnBank, type BankShape } from './scale';
import { statedFigure, type Sheet } from './sheet';

/** The pack voltage at which the BMS opens, V at the bank; undefined when the sheet does not give it. */
export function overVoltageTrip(sheet: Sheet, shape: BankShape): number | undefined {
  const figure = statedFigure(sheet, 'bmsOverVoltage');
  const onBank = figure && figureOnBank(figure, shape);
  return onBank?.band.max ?? onBank?.target;
}
