import type { Requirement } from '../../requirements';
import { absorbCompleted } from './absorbCompleted';
import type { Judge } from './context';
import { currentAsProgrammed, currentCeiling, currentForTemperature } from './current';
import { noEqualise, rechargeLevel } from './cycle';
import { displayAgrees } from './displayAgrees';
import { equaliseDue } from './equaliseDue';
import { absorbLevel, floatLevel } from './level';
import { loadDisconnect, loadReconnect } from './loads';
import { longestAbsorb } from './longestAbsorb';
import { machineTemperature } from './machineTemperature';
import { noFloat } from './noFloat';
import { neverAboveMaximum } from './neverAboveMaximum';
import { noChargeAboveMaximum } from './noChargeAboveMaximum';
import { noChargeBelowMinimum } from './noChargeBelowMinimum';
import { compensation } from './slope';
import { chargersAgree, monitorFull, noDisconnect } from './together';

export { asTold, openRow, type Evidence, type ProofRow, type Witness } from './context';
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
  longestAbsorb,
  neverAboveMaximum,
  noChargeBelowMinimum,
  noChargeAboveMaximum,
  currentForTemperature,
  currentCeiling,
  currentAsProgrammed,
  rechargeLevel,
  rechargeAsProgrammed: rechargeLevel,
  noEqualise,
  equaliseDue,
  compensation,
  slopeAsProgrammed: compensation,
  chargersAgree,
  monitorFull,
  noDisconnect,
  loadDisconnect,
  loadReconnect,
  machineTemperature,
  displayAgrees,
};
