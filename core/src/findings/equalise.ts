import type { SettingsInput } from '../settings';
import { isLithium, statedFigure } from '../sheet';

/** Why a battery may not be equalised: lithium never, others where their sheet forbids it or says nothing of it; null where it may. */
export const forbids = ({ sheet }: SettingsInput): 'lithium' | 'sheet' | 'silent' | null =>
  isLithium(sheet.chemistry)
    ? 'lithium'
    : sheet.figures.equaliseVoltage?.state === 'notPermitted'
      ? 'sheet'
      : statedFigure(sheet, 'equaliseVoltage')
        ? null
        : 'silent';
