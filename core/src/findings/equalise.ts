import type { SettingsInput } from '../settings';
import { isLithium } from '../sheet';

export const forbids = (input: SettingsInput): boolean => isLithium(input.sheet.chemistry) || input.sheet.figures.equaliseVoltage?.state === 'notPermitted';
