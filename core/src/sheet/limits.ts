import { figureOnBank, type BankShape } from './scale';
import { isLithium, statedFigure, type Sheet } from './sheet';

/** The pack voltage at which the BMS opens, V at the bank; undefined when the sheet does not give it. */
export function overVoltageTrip(sheet: Sheet, shape: BankShape): number | undefined {
  const figure = statedFigure(sheet, 'bmsOverVoltage');
  const onBank = figure && figureOnBank(figure, shape);
  return onBank?.band.max ?? onBank?.target;
}

/** Why a battery may not be equalised: lithium never, others where their sheet forbids it or says nothing of it; null where it may. */
export const equaliseForbidden = (sheet: Sheet): 'lithium' | 'sheet' | 'silent' | null =>
  isLithium(sheet.chemistry)
    ? 'lithium'
    : sheet.figures.equaliseVoltage?.state === 'notPermitted'
      ? 'sheet'
      : statedFigure(sheet, 'equaliseVoltage')
        ? null
        : 'silent';
