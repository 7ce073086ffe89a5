import type { Requirement } from '../../requirements';
import { absorbCompleted } from './absorbCompleted';
import type { Judge } from './context';
import { currentAsProgrammed, currentCeiling, currentForTemperature } from './current';
import { noEqualise, rechargeLevel } from './cycle';
import { absorbLevel, floatLevel } from './level';
import { noFloat } from './noFloat';
import { neverAboveMaximum } from './neverAboveMaximum';
import { noChargeAboveMaximum } from './noChargeAboveMaximum';
import { noChargeBelowMinimum } from './noChargeBelowMinimum';
import { compensation } from './slope';
import { chargersAgree, monitorFull, noDisconnect } from './together';

export { openRow, type Evidence, type ProofRow } from './context';
export { heldMaximum } from './neverAboveMaximum';
export { slopeRatio } from './slope';

/** Which judge settles which requirement by a log. A new requirement is one file and one line here. */
export const judges: Readonly<Partial<Record<Requirement['code'], Judge>>> = {
  absorbLevel,
  absorbAsProgrammed: absorbLevel,
  floatLevel,
  floatAsProgrammed: floatLevel,
  noFloat,
  absorbCompleted,
  neverAboveMaximum,
  noChargeBelowMinimum,
  noChargeAboveMaximum,
  currentForTemperature,
  currentCeiling,
  currentAsProgrammed,
  rechargeLevel,
  rechargeAsProgrammed: rechargeLevel,
  noEqualise,
  compensation,
  slopeAsProgrammed: compensation,
  chargersAgree,
  monitorFull,
  noDisconnect,
};
