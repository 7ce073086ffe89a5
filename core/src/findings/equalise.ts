import type { SettingsInput } from '../settings';
import { isLithium } from '../sheet';

/** Whether this battery may not be equalised: lithium never, others where their sheet says so. */
export const forbids = (input: SettingsInput): boolean => isLithium(input.sheet.chemistry) || input.sheet.figures.equaliseVoltage?.state === 'notPermitted';
